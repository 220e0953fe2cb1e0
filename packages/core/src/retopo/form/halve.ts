import { HalfLoopError } from '../../errors';
import { axisIndex, type MirrorPlane } from '../../math';
import type { Triangles } from './clean';

/** Points nearer to the plane than this, over the diagonal, are put on it. */
const SNAP = 1e-6;

/**
 * The triangles on the positive side of a plane, those across it cut; points on the plane lie on it to the last bit. Throws BAD_INPUT where all lie on the other side or in it. Cost: linear.
 */
export function halfOf(
  { positions, indices }: Triangles,
  plane: MirrorPlane,
): { positions: Float64Array; indices: number[] } {
  const k = axisIndex(plane.axis);
  const at = plane.offset;
  const points = [...Array.from(positions)];
  let [lo, hi] = [Infinity, -Infinity];
  for (const x of points) {
    if (x < lo) lo = x;
    if (x > hi) hi = x;
  }
  for (let v = 0; v < points.length; v += 3) if (Math.abs(points[v + k] - at) <= SNAP * (hi - lo)) points[v + k] = at;
  const cut = new Map<string, number>();
  const side = (v: number): number => Math.sign(points[3 * v + k] - at);
  const between = (a: number, b: number): number => {
    const key = a < b ? `${a} ${b}` : `${b} ${a}`;
    const known = cut.get(key);
    if (known !== undefined) return known;
    const t = (at - points[3 * a + k]) / (points[3 * b + k] - points[3 * a + k]);
    const v = points.length / 3;
    for (let c = 0; c < 3; c++)
      points.push(c === k ? at : points[3 * a + c] + t * (points[3 * b + c] - points[3 * a + c]));
    cut.set(key, v);
    return v;
  };
  const kept: number[] = [];
  for (let i = 0; i + 2 < indices.length; i += 3) {
    const t = [indices[i], indices[i + 1], indices[i + 2]];
    const sides = t.map(side);
    if (sides.every((s) => s <= 0)) continue;
    if (sides.every((s) => s >= 0)) {
      kept.push(...t);
      continue;
    }
    const outline: number[] = [];
    for (let c = 0; c < 3; c++) {
      const [a, b] = [t[c], t[(c + 1) % 3]];
      if (side(a) >= 0) outline.push(a);
      if (side(a) * side(b) < 0) outline.push(between(a, b));
    }
    for (let c = 1; c + 1 < outline.length; c++) kept.push(outline[0], outline[c], outline[c + 1]);
  }
  if (kept.length === 0 && indices.length > 0)
    throw new HalfLoopError('BAD_INPUT', `Nothing lies beyond the mirror plane, where ${plane.axis} is over ${at}: that side is laid, and the other mirrors it. Turn the surface over, move the plane, or lay it without symmetry.`); // prettier-ignore
  return { positions: Float64Array.from(points), indices: kept };
}
