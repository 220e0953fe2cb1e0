import { boxDiagonal, type Rng, type Vec3 } from '../math';
import type { SculptSurface } from '../surface';

export interface OneWay {
  rms: number;
  mean: number;
  max: number;
}
interface WithPlace extends OneWay {
  /** the place that is furthest away, of the samples of the surface that was asked */
  worstAt: Vec3;
}
/** Two-sided distance, in the files' units; `relative` is over the second surface's diagonal. */
export interface Comparison extends WithPlace {
  lowToHigh: WithPlace;
  highToLow: WithPlace;
  diagonal: number;
  relative: OneWay;
}

/** Distance between two surfaces by area-weighted samples both ways. Cost: 2 · samples closest-point queries. */
export function compareSurfaces(low: SculptSurface, high: SculptSurface, rng: Rng, samples = 20_000): Comparison {
  const lowToHigh = oneWay(low, high, rng, samples);
  const highToLow = oneWay(high, low, rng, samples);
  const both: WithPlace = {
    rms: Math.sqrt((lowToHigh.rms ** 2 + highToLow.rms ** 2) / 2),
    mean: (lowToHigh.mean + highToLow.mean) / 2,
    max: Math.max(lowToHigh.max, highToLow.max),
    worstAt: (lowToHigh.max > highToLow.max ? lowToHigh : highToLow).worstAt,
  };
  const diagonal = boxDiagonal(high.box);
  const over = (x: number): number => (diagonal > 0 ? x / diagonal : 0);
  return {
    lowToHigh,
    highToLow,
    ...both,
    diagonal,
    relative: { rms: over(both.rms), mean: over(both.mean), max: over(both.max) },
  };
}

function oneWay(from: SculptSurface, to: SculptSurface, rng: Rng, samples: number): WithPlace {
  let sum = 0,
    squares = 0,
    max = 0;
  let worstAt: Vec3 = [0, 0, 0];
  for (const p of sampleByArea(from, rng, samples)) {
    const { distance } = to.closest(p);
    sum += distance;
    squares += distance * distance;
    if (distance > max) [max, worstAt] = [distance, p];
  }
  return { rms: Math.sqrt(squares / samples), mean: sum / samples, max, worstAt };
}

/** Random points of a surface, evenly by area. */
export function sampleByArea({ positions: p, indices }: SculptSurface, rng: Rng, samples: number): Vec3[] {
  const cumulative = new Float64Array(indices.length / 3);
  const corner = (t: number, k: number): Vec3 => {
    const v = 3 * indices[3 * t + k];
    return [p[v], p[v + 1], p[v + 2]];
  };
  let total = 0;
  for (let t = 0; t < cumulative.length; t++) {
    const [a, b, c] = [corner(t, 0), corner(t, 1), corner(t, 2)];
    const u = [b[0] - a[0], b[1] - a[1], b[2] - a[2]],
      v = [c[0] - a[0], c[1] - a[1], c[2] - a[2]];
    total += Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]) / 2;
    cumulative[t] = total;
  }
  return Array.from({ length: samples }, () => {
    const t = lowerBound(cumulative, rng() * total);
    const s = Math.sqrt(rng()),
      r = rng();
    const [a, b, c] = [corner(t, 0), corner(t, 1), corner(t, 2)];
    return [0, 1, 2].map((k) => a[k] * (1 - s) + b[k] * s * (1 - r) + c[k] * s * r) as unknown as Vec3;
  });
}

function lowerBound(sorted: Float64Array, x: number): number {
  let lo = 0,
    hi = sorted.length - 1;
  while (lo < hi) {
    const mid = (lo + hi) >> 1;
    if (sorted[mid] < x) lo = mid + 1;
    else hi = mid;
  }
  return lo;
}
