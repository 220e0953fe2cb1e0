import { boxOf, type Box, type Vec3 } from '@half-loop/core/math';
import type { Selection } from '@half-loop/core/mesh';
import { deform, deformedPlaces, verticesOf, type Operator } from '@half-loop/core/ops';
import { MODEL_COLOURS, type Hit, type Line } from '../viewport';
import { HandleTool, type Handle, type Values } from './HandleTool';
import type { ToolHost } from './Tool';

/** What the third handle sets, by what is done. */
const AMOUNT: Readonly<Record<string, { key: string; min: number; max: number; step: number }>> = {
  bend: { key: 'angle', min: -720, max: 720, step: 1 },
  twist: { key: 'angle', min: -720, max: 720, step: 1 },
  taper: { key: 'end', min: 0, max: 4, step: 0.01 },
};
const NEUTRAL = { angle: 0, end: 1 };
/** Lines of the middle line's picture. */
const SPANS = 24;

/** Bend, twist, taper: handles for where it begins and ends along the axis, and one for how much. */
export class DeformTool extends HandleTool {
  readonly name = 'deform';
  private box: Box | null = null;

  constructor(host: ToolHost) {
    super(host, deform as unknown as Operator);
  }

  protected idleHint(): string {
    return 'Drag the end handle to bend, twist or taper; the two on the axis say from where to where. Works on what is picked, or on everything.';
  }
  protected begin(selection: Selection): void {
    this.box = this.boxNow(selection);
    this.host.remember(this.name, NEUTRAL);
  }
  private boxNow(selection: Selection): Box {
    const { mesh } = this.host.session;
    const picked = verticesOf(mesh, selection);
    return boxOf([...(picked.size > 0 ? picked : mesh.vertices())].flatMap((v) => [...mesh.point(v)]));
  }

  protected dragged({ handle, from, selection }: Parameters<HandleTool['dragged']>[0], hit: Hit): Values {
    const box = this.box ?? this.boxNow(selection);
    const amount = AMOUNT[from.kind as string];
    if (handle.id !== 'amount')
      return this.solved(
        from,
        handle.id,
        { min: 0, max: 1, step: 0.005 },
        (v) => axisPoint(box, v, v[handle.id] as number),
        hit,
      );
    return amount ? this.solved(from, amount.key, amount, (v) => amountAt(box, v), hit) : from;
  }

  /** The value of one setting for which its handle is seen nearest to the pointer: Newton's steps along the handle's way. */
  private solved(
    from: Values,
    key: string,
    { min, max, step }: { min: number; max: number; step: number },
    placeOf: (values: Values) => Vec3,
    hit: Hit,
  ): Values {
    const { picker } = this.host.scene;
    const now = this.host.settings(this.name)[key] as number;
    let value = now;
    for (let i = 0; i < 6; i++) {
      const a = picker.pixelOf(placeOf({ ...from, [key]: value })),
        b = picker.pixelOf(placeOf({ ...from, [key]: value + step }));
      const [dx, dy] = [b.x - a.x, b.y - a.y];
      const l2 = dx * dx + dy * dy;
      if (l2 < 1e-9) break;
      const by = (((hit.x - a.x) * dx + (hit.y - a.y) * dy) / l2) * step;
      // a long way at once would jump to another turn
      value = Math.max(min, Math.min(max, value + Math.max(-40 * step, Math.min(40 * step, by))));
    }
    return { ...from, [key]: value };
  }

  protected handles(asked: Values, selection: Selection): { handles: Handle[]; lines: Line[] } {
    const isLive = this.open !== null || this.live() !== null;
    const box = isLive && this.box ? this.box : this.boxNow(selection);
    // before the first drag nothing is bent, whatever the card says
    const values = isLive ? asked : { ...asked, ...NEUTRAL };
    const line = (a: Vec3, b: Vec3, width: number): Line => ({ a, b, colour: MODEL_COLOURS.active, width });
    const [from, to] = [values.from as number, values.to as number];
    const handles: Handle[] = [
      { id: 'from', at: axisPoint(box, values, from), isMain: false },
      { id: 'to', at: axisPoint(box, values, to), isMain: false },
    ];
    const lines = [line(handles[0].at, handles[1].at, 1)];
    if (!((values.kind as string) in AMOUNT)) return { handles, lines };
    handles.push({ id: 'amount', at: amountAt(box, values), isMain: true });
    const place = deformedPlaces(box, values as never);
    const run = Array.from({ length: SPANS + 1 }, (_, i) => place(axisPoint(box, values, i / SPANS)));
    for (let i = 0; i < SPANS; i++) lines.push(line(run[i], run[i + 1], 2));
    lines.push(line(run[SPANS], handles[2].at, 2));
    return { handles, lines };
  }
}

const axisOf = (values: Values): number => ['x', 'y', 'z'].indexOf(values.axis as string);
/** A point of the middle line by its share of the box's extent. */
function axisPoint({ min, max }: Box, values: Values, share: number): Vec3 {
  const k = axisOf(values);
  return [0, 1, 2].map((i) =>
    i === k ? min[i] + (max[i] - min[i]) * share : (min[i] + max[i]) / 2,
  ) as unknown as Vec3;
}
/** Where the handle for the amount stands: past the far end of a bend, at the side of it for a twist or taper. */
function amountAt(box: Box, values: Values): Vec3 {
  const k = axisOf(values);
  const isBend = values.kind === 'bend';
  const beside = (k + 1) % 3;
  const p = axisPoint(box, values, isBend ? 1.08 : 1).map((x, i) => (!isBend && i === beside ? box.max[i] : x)) as unknown as Vec3; // prettier-ignore
  return deformedPlaces(box, values as never)(p);
}
