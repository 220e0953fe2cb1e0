import { addScaled, axisVector, dot, leastSquares, length, scale, sub, type Vec3 } from '../../math';
import { faceNormal, type PolyMesh } from '../../mesh';
import { isSeam, onMidline, type Ground } from '../ground';
import { rimAndFans, type Fan } from './fans';
import { inwardOf, meanDirection } from './offsets';

/** A rim may be at most this many times its width from an old corner. */
const LONGEST = 6;

/** How a group of faces draws in from its rim. */
export interface RimPlan {
  outlines: { f: number; corners: number[] }[];
  rim: { f: number; a: number; b: number }[];
  /** where a copy goes for a width of 1, and which way is up there */
  moves: { fan: Fan; inward: Vec3; normal: Vec3 }[];
}

/**
 * Plans rims along the half-edges where a group ends, or along those of them that get a `wall`; along the others points slide. Cost: the
 * group.
 */
export function planOf(
  mesh: PolyMesh,
  group: readonly number[],
  ground: Ground,
  wall: (half: number) => boolean = () => true,
): RimPlan {
  const { rim, fans } = rimAndFans(mesh, group, ground);
  const seams = new Set(rim.filter((r) => r.seam || !wall(r.half)).map((r) => r.half));
  const moves = fans
    .filter((fan) => !(seams.has(fan.out) && seams.has(fan.into)))
    .map((fan) => {
      const normal = meanDirection(fan.faces.map((f) => faceNormal(mesh, f)));
      const lines = [fan.out, fan.into].map((h) => ({ h, inward: inwardOf(mesh, h) }));
      const walls = lines.filter(({ h }) => !seams.has(h));
      // beside a border that gets no wall the point keeps to it; on the midline the plane says so below
      const along = lines.filter(({ h }) => seams.has(h) && !isSeam(mesh, h, ground));
      const rows = [...walls.map((l) => l.inward), ...along.map((l) => scale(l.inward, 10)), scale(normal, 10)];
      const right = [...walls.map(() => 1), ...along.map(() => 0), 0];
      if (ground.plane && onMidline(mesh, fan.vertex, ground)) {
        rows.push(scale(axisVector(`+${ground.plane.axis}`), 10));
        right.push(0);
      }
      const m = leastSquares(rows, right) ?? [0, 0, 0];
      const l = length(m);
      return { fan, inward: l > LONGEST ? scale(m, LONGEST / l) : m, normal };
    });
  return {
    outlines: group.map((f) => ({ f, corners: mesh.faceVertices(f) })),
    rim: rim
      .filter((r) => !seams.has(r.half))
      .map(({ half }) => ({ f: mesh.face(half), a: mesh.origin(half), b: mesh.target(half) })),
    moves,
  };
}

/** The greatest width up to the one asked for at which no inner face folds. */
export function heldBack(mesh: PolyMesh, plans: readonly RimPlan[], width: number): number {
  const folds = (w: number): boolean =>
    plans.some(({ outlines, moves }) => {
      const at = new Map<number, Map<number, Vec3>>();
      for (const { fan, inward } of moves)
        for (const f of fan.faces) {
          const known = at.get(f) ?? new Map<number, Vec3>();
          known.set(fan.vertex, addScaled(mesh.point(fan.vertex), inward, w));
          at.set(f, known);
        }
      return outlines.some(({ f, corners }) => {
        const before = corners.map((v) => mesh.point(v));
        const after = corners.map((v, i) => at.get(f)?.get(v) ?? before[i]);
        // a side that turned round has passed the one across from it
        return before.some((p, i) => {
          const k = (i + 1) % before.length;
          return dot(sub(before[k], p), sub(after[k], after[i])) <= 0;
        });
      });
    });
  if (width <= 0 || !folds(width)) return width;
  let low = 0,
    high = width;
  for (let i = 0; i < 24; i++) {
    const middle = (low + high) / 2;
    if (folds(middle)) high = middle;
    else low = middle;
  }
  return low * 0.98;
}
