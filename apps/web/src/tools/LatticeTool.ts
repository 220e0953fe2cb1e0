import { add, type Box, type Vec3 } from '@half-loop/core/math';
import type { Selection } from '@half-loop/core/mesh';
import { lattice, latticeBox, latticePoints, type Operator } from '@half-loop/core/ops';
import { MODEL_COLOURS, type Hit, type Line } from '../viewport';
import { HandleTool, type Handle, type Values } from './HandleTool';
import type { ToolHost } from './Tool';

type Moves = Record<string, Vec3>;
const ORIGIN: Vec3 = [0, 0, 0];

/** Lattice: control points round what is picked, or round everything; each drag of one shapes it. */
export class LatticeTool extends HandleTool {
  readonly name = 'lattice';
  private box: Box | null = null;

  constructor(host: ToolHost) {
    super(host, lattice as unknown as Operator);
  }

  protected idleHint(): string {
    return 'Drag a control point; it moves in the plane of the view. Works on what is picked, or on everything.';
  }
  protected begin(selection: Selection): void {
    this.box = latticeBox(this.host.session.mesh, selection);
    // another step begins with all points in their places
    this.host.remember(lattice.name, { moves: {} });
  }
  protected dragged({ handle, from, start }: Parameters<HandleTool['dragged']>[0], hit: Hit): Values {
    const moves = (from.moves as Moves | undefined) ?? {};
    const by = this.moveInView(handle.at, hit);
    const rest = this.moveInView(handle.at, start);
    const own = moves[handle.id] ?? ORIGIN;
    return { ...from, moves: { ...moves, [handle.id]: own.map((x, k) => x + by[k] - rest[k]) } };
  }

  protected handles(values: Values, selection: Selection): { handles: Handle[]; lines: Line[] } {
    const isLive = this.open !== null || this.live() !== null;
    const box = isLive && this.box ? this.box : latticeBox(this.host.session.mesh, selection);
    const moves = isLive ? ((values.moves as Moves | undefined) ?? {}) : {};
    const counts = { nx: values.nx as number, ny: values.ny as number, nz: values.nz as number };
    const places = new Map([...latticePoints(box, counts)].map(([id, p]) => [id, add(p, moves[id] ?? ORIGIN)]));
    const lines: Line[] = [];
    for (const [id, a] of places) {
      const at = id.split(',').map(Number);
      for (let k = 0; k < 3; k++) {
        const b = places.get(at.map((n, i) => (i === k ? n + 1 : n)).join());
        if (b) lines.push({ a, b, colour: MODEL_COLOURS.active, width: 1 });
      }
    }
    return { handles: [...places].map(([id, at]) => ({ id, at, isMain: id in moves })), lines };
  }
}
