import type { Srgb } from './materials';

/** Blue inside, pale at zero, orange outside: even in lightness on both sides, told apart by colour-blind people. */
const STOPS: readonly Srgb[] = [
  [0.13, 0.29, 0.53],
  [0.4, 0.59, 0.79],
  [0.92, 0.9, 0.85],
  [0.9, 0.62, 0.33],
  [0.58, 0.27, 0.05],
];
export const UNMEASURED: Srgb = [0.72, 0.72, 0.7];

/** Colour of t in [−1, 1]; beyond is clamped. */
export function distanceColour(t: number): Srgb {
  const x = ((Math.max(-1, Math.min(1, t)) + 1) / 2) * (STOPS.length - 1);
  const i = Math.min(STOPS.length - 2, Math.floor(x));
  return [0, 1, 2].map((k) => STOPS[i][k] + (STOPS[i + 1][k] - STOPS[i][k]) * (x - i)) as Srgb;
}

/** A round number at or above x: 1, 2 or 5 times a power of ten. */
export function niceCeil(x: number): number {
  if (!(x > 0)) return 1;
  const p = 10 ** Math.floor(Math.log10(x));
  return ([1, 2, 5, 10].find((m) => m * p >= x * 0.999) as number) * p;
}
