import type { Vec3 } from '@half-loop/core/math';
import type { WorkPlane } from '@half-loop/core/surface';
import { srgb, type Srgb } from './materials';

const COLOUR = srgb('#5f6f74');

/** The work plane as a faint grid of ten by ten cells, its middle lines stronger; nothing without a plane. */
export function workPlaneLines(
  plane: WorkPlane | null,
  cell: number,
): { a: Vec3; b: Vec3; colour: Srgb; width: number }[] {
  if (!plane) return [];
  const [u, v] = [0, 1, 2].filter((k) => Math.abs(plane.normal[k]) < 0.5);
  const at = (i: number, j: number): Vec3 => {
    const p: [number, number, number] = [plane.point[0], plane.point[1], plane.point[2]];
    p[u] += i * cell;
    p[v] += j * cell;
    return p;
  };
  return Array.from({ length: 11 }, (_, i) => i - 5).flatMap((i) => [
    { a: at(i, -5), b: at(i, 5), colour: COLOUR, width: i === 0 ? 1.6 : 0.7 },
    { a: at(-5, i), b: at(5, i), colour: COLOUR, width: i === 0 ? 1.6 : 0.7 },
  ]);
}
