/**
 * Equal rows of corner values said once: `rows` holds each different one, `of` says which a corner has; −1 where its row is
 * NaN, or all zero when a row has three values (a normal that is not there). Linear.
 */
export function indexRows(values: Float32Array, stride: 2 | 3): { rows: number[]; of: Int32Array } {
  const known = new Map<string, number>();
  const rows: number[] = [];
  const of = new Int32Array(values.length / stride).fill(-1);
  for (let c = 0; c < of.length; c++) {
    const row = values.subarray(stride * c, stride * c + stride);
    if (row.some((x) => !Number.isFinite(x)) || (stride === 3 && row.every((x) => x === 0))) continue;
    const key = row.join();
    let id = known.get(key);
    if (id === undefined) {
      id = known.size;
      known.set(key, id);
      rows.push(...row);
    }
    of[c] = id;
  }
  return { rows, of };
}
