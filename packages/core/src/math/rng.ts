/** A random source in [0, 1); passed in, never global, so that every run can be repeated. */
export type Rng = () => number;

/** Seeded 32-bit generator (mulberry32). Same seed, same sequence, on every machine. */
export function seededRng(seed: number): Rng {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}
