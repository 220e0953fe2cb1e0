/**
 * Joins points with exactly equal Float32 coordinates (−0 equals 0): `remap` says which kept point each one
 * became, in order of first appearance. Open addressing over the coordinates' bits; linear time, 4 bytes a
 * slot beside the output.
 */
export function weldExact(positions: ArrayLike<number>): { positions: Float32Array; remap: Uint32Array } {
  const count = positions.length / 3;
  const kept = new Float32Array(positions.length);
  const bits = new Uint32Array(kept.buffer);
  let capacity = 16;
  while (capacity < count * 2) capacity *= 2;
  const mask = capacity - 1;
  const slots = new Int32Array(capacity).fill(-1);
  const remap = new Uint32Array(count);
  let n = 0;
  for (let i = 0; i < count; i++) {
    const at = 3 * n;
    kept[at] = positions[3 * i] + 0;
    kept[at + 1] = positions[3 * i + 1] + 0;
    kept[at + 2] = positions[3 * i + 2] + 0;
    const a = bits[at],
      b = bits[at + 1],
      c = bits[at + 2];
    let slot = (Math.imul(a, 0x9e3779b1) ^ Math.imul(b, 0x85ebca77) ^ Math.imul(c, 0xc2b2ae3d)) >>> 0;
    slot = (slot ^ (slot >>> 15)) & mask;
    for (;;) {
      const j = slots[slot];
      if (j < 0) {
        slots[slot] = n;
        remap[i] = n++;
        break;
      }
      if (bits[3 * j] === a && bits[3 * j + 1] === b && bits[3 * j + 2] === c) {
        remap[i] = j;
        break;
      }
      slot = (slot + 1) & mask;
    }
  }
  return { positions: kept.slice(0, 3 * n), remap };
}
