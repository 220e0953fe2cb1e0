import { SculptSurface } from '../surface';
import type { QuadSoup } from './extract';
import type { Curve } from './lines';
import { relaxed } from './relax';

const ROUNDS = 4;
/** What sticks out by more than this share of a quad is reached for. */
const STICKS_OUT = 0.25;
const MOST = 200;

/**
 * Draws the quads out to what of the form they do not reach, tips and ridges: the nearest point goes to each place that sticks out
 * farthest and stays there while the others even out. `samples` are places of the form, xyz. Changes the points. Cost: a closest point per sample and round.
 */
export function fitted(
  soup: QuadSoup,
  curves: readonly Curve[],
  surface: SculptSurface,
  samples: Float64Array,
  size: number,
): void {
  const pinned = new Set<number>();
  for (let round = 0; round < ROUNDS; round++) {
    const low = surfaceOfQuads(soup);
    const far: { at: number; away: number; t: number }[] = [];
    for (let i = 0; i < samples.length; i += 3) {
      const { distance, triangle } = low.closest([samples[i], samples[i + 1], samples[i + 2]]);
      if (distance > STICKS_OUT * size) far.push({ at: i, away: distance, t: triangle });
    }
    if (far.length === 0) return;
    far.sort((a, b) => b.away - a.away);
    const taken: number[] = [];
    for (const { at } of far.slice(0, 4000)) {
      const p = [samples[at], samples[at + 1], samples[at + 2]];
      if (taken.length >= MOST || taken.some((i) => Math.hypot(samples[i] - p[0], samples[i + 1] - p[1], samples[i + 2] - p[2]) < 1.6 * size)) continue; // prettier-ignore
      taken.push(at);
      const v = nearestPoint(soup, p);
      if (v < 0) continue;
      soup.points.set(p, 3 * v);
      pinned.add(v);
    }
    const kept = soup.onLine.slice();
    for (const v of pinned) if (soup.onLine[v] === -1) soup.onLine[v] = -2;
    relaxed(soup, curves, surface, 12);
    soup.onLine.set(kept);
  }
}

/** The point off the lines nearest to a place, or −1. */
function nearestPoint({ points, onLine }: QuadSoup, p: readonly number[]): number {
  let [best, near] = [-1, Infinity];
  for (let v = 0; v < onLine.length; v++) {
    if (onLine[v] !== -1) continue;
    const d = (points[3 * v] - p[0]) ** 2 + (points[3 * v + 1] - p[1]) ** 2 + (points[3 * v + 2] - p[2]) ** 2;
    if (d < near) [best, near] = [v, d];
  }
  return best;
}

/** Quads as a surface, each cut along its first diagonal. */
export function surfaceOfQuads({ points, quads }: QuadSoup): SculptSurface {
  const indices = new Uint32Array((quads.length / 4) * 6);
  for (let q = 0; q < quads.length / 4; q++) {
    const [a, b, c, d] = quads.subarray(4 * q, 4 * q + 4);
    indices.set([a, b, c, a, c, d], 6 * q);
  }
  return SculptSurface.build({ positions: Float32Array.from(points), indices });
}
