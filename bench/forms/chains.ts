import { blend, cone } from '@half-loop/studies';

/** A place, and the radius of a limb there. */
export type Bead = readonly [x: number, y: number, z: number, radius: number];

/** A limb through beads, as a signed distance: cones from bead to bead, joined by a fillet of `k`. */
export function limb(x: number, y: number, z: number, beads: readonly Bead[], k = 0.02): number {
  let d = Infinity;
  for (let i = 0; i + 1 < beads.length; i++) {
    const c = cone(x, y, z, beads[i], beads[i + 1], beads[i][3], beads[i + 1][3]);
    d = i === 0 ? c : blend(d, c, k);
  }
  return d;
}

/** Beads along a curve, `n` + 1 of them at even parameters. */
export const along = (n: number, at: (t: number) => Bead): Bead[] => Array.from({ length: n + 1 }, (_, i) => at(i / n));

/** A box with half sides a, b, c and edges rounded by r. */
export function box(x: number, y: number, z: number, a: number, b: number, c: number, r: number): number {
  const u = Math.abs(x) - a + r, v = Math.abs(y) - b + r, w = Math.abs(z) - c + r; // prettier-ignore
  return Math.hypot(Math.max(u, 0), Math.max(v, 0), Math.max(w, 0)) + Math.min(0, Math.max(u, v, w)) - r;
}

/** The place turned into the first of `n` like sectors round the z axis, symmetric about its middle. */
export function sector(x: number, y: number, n: number): [number, number] {
  const wide = (2 * Math.PI) / n;
  const angle = Math.atan2(y, x);
  const within = angle - wide * Math.round(angle / wide);
  const r = Math.hypot(x, y);
  return [r * Math.cos(within), r * Math.sin(within)];
}
