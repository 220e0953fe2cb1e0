import { lerp, meanPoint, sub, type Vec3 } from '@half-loop/core/math';
import type { PolyMesh } from '@half-loop/core/mesh';
import { closeCells, closesCell, threadCells, withCell, type CellChoice, type ThreadCell } from '@half-loop/core/ops';
import { Outline } from '@half-loop/core/select';
import { MODEL_COLOURS, type Hit, type Overlay, type SceneView } from '../viewport';
import type { ToolHost } from './Tool';

/** Cells of more sides are asked about, and always marked. */
const PLAIN = 4;
/** Marks of openings: an outline this share of the way from the middle to the corners. */
const INSET = 0.8;

/** The cells of threads in the view: which of them stay open, and which one the pointer is in. */
export class CellMarks {
  private known: { position: number; mesh: PolyMesh; cells: ThreadCell[] } | null = null;

  constructor(private readonly host: ToolHost) {}

  /** Leaves the cell under the pointer open, or has it closed after all. False where there is none. */
  flip(hit: Hit): boolean {
    const cell = this.at(hit);
    if (!cell) return false;
    const { choice } = this;
    this.host.remember(closeCells.name, { ...withCell(choice, cell, !closesCell(choice, cell)) });
    return true;
  }

  /** What becomes of the cell under the pointer, in words; null where there is none that is marked. */
  words(hit: Hit | null): string | null {
    const cell = hit && this.at(hit);
    if (!cell || !this.isMarked(cell)) return null;
    const closes = closesCell(this.choice, cell);
    return `Cell of ${cell.vertices.length} sides: ${closes ? 'closes' : 'stays open'}`;
  }

  /** An outline and a ring in those that stay open; a square in larger ones that are closed. */
  draw({ lines, points }: Overlay): void {
    for (const cell of this.cells()) {
      if (!this.isMarked(cell)) continue;
      const corners = this.pointsOf(cell);
      const at = meanPoint(corners);
      if (closesCell(this.choice, cell)) {
        points.push({ at, colour: MODEL_COLOURS.active, size: 12, shape: 4 });
        continue;
      }
      points.push({ at, colour: MODEL_COLOURS.picked, size: 18, shape: 1 });
      const inner = corners.map((p) => lerp(at, p, INSET));
      inner.forEach((a, k) => lines.push({ a, b: inner[(k + 1) % inner.length], colour: MODEL_COLOURS.picked, width: 1.5 })); // prettier-ignore
    }
  }

  private get choice(): CellChoice {
    return this.host.settings(closeCells.name) as unknown as CellChoice;
  }
  private isMarked({ name, vertices }: ThreadCell): boolean {
    return vertices.length > PLAIN || this.choice.except.includes(name);
  }
  private pointsOf({ vertices }: ThreadCell): Vec3[] {
    const { mesh } = this.host.session;
    return vertices.filter((v) => mesh.hasVertex(v)).map((v) => mesh.point(v));
  }

  /** The cell whose outline the pointer is in; of several the nearest to where it lands, or to the eye. */
  private at({ x, y }: Hit): ThreadCell | null {
    const { picker } = this.host.scene;
    let best: { cell: ThreadCell; along: number } | null = null;
    for (const cell of this.cells()) {
      const seen = this.pointsOf(cell).map((p) => picker.pixelOf(p));
      if (seen.length < 3 || !isAmong(seen, x, y)) continue;
      if (!new Outline(Float32Array.from(seen.flatMap((p) => [p.x, p.y]))).holds(x, y)) continue;
      const along = seen.reduce((sum, p) => sum + p.along / seen.length, 0);
      if (!best || along < best.along) best = { cell, along };
    }
    return best?.cell ?? null;
  }

  private cells(): ThreadCell[] {
    const { session, scene } = this.host;
    const { mesh } = session;
    const { position } = session.steps;
    // while faces that would close them are in view, cells are what they were before
    if (this.known?.position === position && this.known.mesh === mesh) return this.known.cells;
    if (mesh.inTransaction) return [];
    const hasThreads = [...mesh.edges()].some((e) => mesh.isLooseEdge(e));
    const cells = hasThreads ? threadCells(mesh, seenSide(scene, mesh), session.ground) : [];
    this.known = { position, mesh, cells };
    return cells;
  }
}

/** Whether a place lies in the box of others. */
const isAmong = (all: readonly { x: number; y: number }[], x: number, y: number): boolean =>
  all.some((p) => p.x <= x) && all.some((p) => p.x >= x) && all.some((p) => p.y <= y) && all.some((p) => p.y >= y);

/** From threads to the eye: the side that they are seen from. */
export function seenSide({ picker }: SceneView, mesh: PolyMesh): Vec3 {
  const [first] = mesh.vertices();
  const { eye } = picker.ray(0, 0).view;
  return first === undefined ? [0, 0, 1] : sub(eye, mesh.point(first));
}
