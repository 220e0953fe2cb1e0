import { distance, lerp, type Vec3 } from '../../math';

/** The outline of a band between two loops, slit where they are nearest: points of the slit come twice. */
export interface Band {
  outline: number[];
  /** places in the outline where its four sides begin */
  corners: number[];
}

/**
 * A band between two loops of points, each with the band on its left. `at` tells where points are, `add` makes one of the slit, on the form. Cost: the loops times each other.
 */
export function bandBetween(
  one: readonly number[],
  other: readonly number[],
  at: (v: number) => Vec3,
  add: (p: Vec3) => number,
): Band {
  let nearest = { i: 0, j: 0, far: Infinity };
  one.forEach((u, i) =>
    other.forEach((v, j) => {
      const far = distance(at(u), at(v));
      if (far < nearest.far) nearest = { i, j, far };
    }),
  );
  const [a, b] = [turnedTo(one, nearest.i), turnedTo(other, nearest.j)];
  const edge = (lengthRound(one, at) + lengthRound(other, at)) / (one.length + other.length);
  const steps = Math.max(1, Math.round(nearest.far / edge));
  const [from, to] = [at(a[0]), at(b[0])];
  const slit = Array.from({ length: steps - 1 }, (_, k) => add(lerp(from, to, (k + 1) / steps)));
  const outline = [...a, a[0], ...slit, ...b, b[0], ...[...slit].reverse()];
  const [n, m] = [one.length, other.length];
  return { outline, corners: [0, n, n + steps, n + steps + m] };
}

const turnedTo = (loop: readonly number[], i: number): number[] => [...loop.slice(i), ...loop.slice(0, i)];

const lengthRound = (loop: readonly number[], at: (v: number) => Vec3): number => loop.reduce((sum, v, i) => sum + distance(at(v), at(loop[(i + 1) % loop.length])), 0); // prettier-ignore
