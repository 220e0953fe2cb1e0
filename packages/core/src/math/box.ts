import type { Vec3 } from './vec3';

/** An axis-aligned box; empty when min > max on any axis. */
export interface Box {
  min: Vec3;
  max: Vec3;
}

/** The box of positions xyz…; an empty input gives min = max = 0. Cost: one pass. */
export function boxOf(positions: ArrayLike<number>): Box {
  if (positions.length === 0) return { min: [0, 0, 0], max: [0, 0, 0] };
  let x0 = Infinity,
    y0 = Infinity,
    z0 = Infinity,
    x1 = -Infinity,
    y1 = -Infinity,
    z1 = -Infinity;
  for (let i = 0; i < positions.length; i += 3) {
    const x = positions[i],
      y = positions[i + 1],
      z = positions[i + 2];
    if (x < x0) x0 = x;
    if (x > x1) x1 = x;
    if (y < y0) y0 = y;
    if (y > y1) y1 = y;
    if (z < z0) z0 = z;
    if (z > z1) z1 = z;
  }
  return { min: [x0, y0, z0], max: [x1, y1, z1] };
}

/** The box of some of the positions, by their numbers: what no face has is no part of a form. Empty input gives min = max = 0. Cost: one pass. */
export function boxOfSome(positions: ArrayLike<number>, vertices: ArrayLike<number>): Box {
  if (vertices.length === 0) return boxOf([]);
  const min: [number, number, number] = [Infinity, Infinity, Infinity];
  const max: [number, number, number] = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < vertices.length; i++)
    for (let k = 0; k < 3; k++) {
      const x = positions[3 * vertices[i] + k];
      if (x < min[k]) min[k] = x;
      if (x > max[k]) max[k] = x;
    }
  return { min, max };
}

export const boxSize = (b: Box): Vec3 => [b.max[0] - b.min[0], b.max[1] - b.min[1], b.max[2] - b.min[2]];
export const boxCentre = (b: Box): Vec3 => [
  (b.max[0] + b.min[0]) / 2,
  (b.max[1] + b.min[1]) / 2,
  (b.max[2] + b.min[2]) / 2,
];
export const boxDiagonal = (b: Box): number => Math.hypot(...boxSize(b));
