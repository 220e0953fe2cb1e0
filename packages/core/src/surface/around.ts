/** Which triangles meet at each vertex: those of v are `around[starts[v]] …` up to `starts[v + 1]`. */
export interface Around {
  /** u32[V + 1] */
  starts: Uint32Array;
  /** u32[3·T] */
  around: Uint32Array;
}

/** Vertex → triangles, by counting. Cost: two passes, about 40 ms a million triangles. */
export function trianglesAround(vertexCount: number, indices: Uint32Array): Around {
  const starts = new Uint32Array(vertexCount + 1);
  for (let i = 0; i < indices.length; i++) starts[indices[i] + 1]++;
  for (let v = 1; v < starts.length; v++) starts[v] += starts[v - 1];
  const at = starts.slice();
  const around = new Uint32Array(indices.length);
  for (let i = 0; i < indices.length; i++) around[at[indices[i]]++] = (i / 3) | 0;
  return { starts, around };
}
