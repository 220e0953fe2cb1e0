/** Seeded smooth noise in [−1, 1] on an integer lattice (value noise, quintic blend). Same seed, same field. */
export function latticeNoise(seed: number): (x: number, y: number, z: number) => number {
  const at = (i: number, j: number, k: number): number => {
    let h = Math.imul(i, 0x27d4eb2d) ^ Math.imul(j, 0x165667b1) ^ Math.imul(k, 0x9e3779b1) ^ seed;
    h = Math.imul(h ^ (h >>> 15), 0x85ebca6b);
    h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
    return ((h ^ (h >>> 16)) >>> 0) / 2147483648 - 1;
  };
  const ease = (t: number): number => t * t * t * (t * (6 * t - 15) + 10);
  return (x, y, z) => {
    const i = Math.floor(x), j = Math.floor(y), k = Math.floor(z); // prettier-ignore
    const u = ease(x - i), v = ease(y - j), w = ease(z - k); // prettier-ignore
    const row = (b: number, c: number): number => at(i, b, c) + (at(i + 1, b, c) - at(i, b, c)) * u;
    const sheet = (c: number): number => row(j, c) + (row(j + 1, c) - row(j, c)) * v;
    return sheet(k) + (sheet(k + 1) - sheet(k)) * w;
  };
}
