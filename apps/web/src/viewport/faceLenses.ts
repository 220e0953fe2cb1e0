import { distance, dot, sub, type Vec3 } from '@half-loop/core/math';
import { areaNormal, edgeLoop, faceNormal, type PolyMesh } from '@half-loop/core/mesh';
import type { Srgb } from './materials';

/** Dark to light through blue and green, evenly bright in its steps and told apart by the colour-blind. */
const SCALE: readonly Srgb[] = [
  [0.16, 0.22, 0.42],
  [0.17, 0.42, 0.52],
  [0.27, 0.6, 0.5],
  [0.58, 0.75, 0.42],
  [0.93, 0.87, 0.44],
];

/** A colour of the scale, 0 to 1. */
export function scaleColour(t: number): Srgb {
  const x = Math.max(0, Math.min(1, t)) * (SCALE.length - 1);
  const i = Math.min(SCALE.length - 2, Math.floor(x));
  return SCALE[i].map((c, k) => c + (SCALE[i + 1][k] - c) * (x - i)) as Srgb;
}

const pointsOf = (mesh: PolyMesh, f: number): Vec3[] => mesh.faceVertices(f).map((v) => mesh.point(v));

/** Side of a square of the same area, file units. */
export const sideOf = (mesh: PolyMesh, f: number): number =>
  Math.sqrt(Math.hypot(...areaNormal(pointsOf(mesh, f))) / 2);

/** Greatest distance of a corner from the face's mean plane, over its mean edge. */
export function warpOf(mesh: PolyMesh, f: number): number {
  const points = pointsOf(mesh, f);
  const n = faceNormal(mesh, f);
  const centre = [0, 1, 2].map((k) => points.reduce((s, p) => s + p[k], 0) / points.length) as unknown as Vec3;
  const mean = points.reduce((s, p, i) => s + distance(p, points[(i + 1) % points.length]), 0) / points.length;
  return mean > 0 ? Math.max(...points.map((p) => Math.abs(dot(n, sub(p, centre))))) / mean : 0;
}

/** Warp at the top of the scale. */
export const WARP_RANGE = 0.25;

/** Middle size of the faces' sides, file units: the middle of the density scale. */
export function middleSide(mesh: PolyMesh): number {
  const sides = [...mesh.faces()].map((f) => sideOf(mesh, f)).sort((a, b) => a - b);
  return sides[sides.length >> 1] ?? 1;
}
/** A quarter of the middle size is the dark end, four times the light end. */
export const densityShare = (side: number, middle: number): number =>
  0.5 + Math.log2(Math.max(1e-9, side / middle)) / 4;

const TINTS: readonly Srgb[] = [
  [0.11, 0.45, 0.43],
  [0.62, 0.32, 0.1],
  [0.2, 0.38, 0.62],
  [0.5, 0.24, 0.45],
  [0.35, 0.45, 0.16],
  [0.6, 0.2, 0.24],
  [0.28, 0.3, 0.34],
];
/** Every edge's loop by number, and the vertices where open loops end. Linear. */
export function loopTints(mesh: PolyMesh): { tint: Map<number, Srgb>; ends: Set<number> } {
  const tint = new Map<number, Srgb>();
  const ends = new Set<number>();
  let n = 0;
  for (const e of mesh.edges()) {
    if (tint.has(e)) continue;
    const { halves, closed } = edgeLoop(mesh, 2 * e);
    const colour = TINTS[n++ % TINTS.length];
    for (const h of halves) tint.set(h >> 1, colour);
    if (closed) continue;
    for (const v of [mesh.origin(halves[0]), mesh.target(halves[halves.length - 1])])
      if (!mesh.isBorderVertex(v)) ends.add(v);
  }
  return { tint, ends };
}
