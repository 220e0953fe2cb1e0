/** Unit normals of the vertices of a triangle mesh, weighted by the angle at the vertex. Linear. */
export function vertexNormals(p: Float32Array, indices: Uint32Array): Float32Array {
  const n = new Float32Array(p.length);
  const e = new Float64Array(9);
  const lengths = new Float64Array(3);
  for (let t = 0; t < indices.length; t += 3) {
    for (let k = 0; k < 3; k++) {
      const a = 3 * indices[t + k],
        b = 3 * indices[t + ((k + 1) % 3)];
      for (let d = 0; d < 3; d++) e[3 * k + d] = p[b + d] - p[a + d];
      lengths[k] = Math.hypot(e[3 * k], e[3 * k + 1], e[3 * k + 2]);
    }
    const x = e[1] * e[5] - e[2] * e[4],
      y = e[2] * e[3] - e[0] * e[5],
      z = e[0] * e[4] - e[1] * e[3];
    const area = Math.hypot(x, y, z);
    if (area === 0) continue;
    for (let k = 0; k < 3; k++) {
      const j = (k + 2) % 3;
      const cosine = -(e[3 * k] * e[3 * j] + e[3 * k + 1] * e[3 * j + 1] + e[3 * k + 2] * e[3 * j + 2]);
      const angle = Math.acos(Math.max(-1, Math.min(1, cosine / (lengths[k] * lengths[j]))));
      const v = 3 * indices[t + k];
      n[v] += (x / area) * angle;
      n[v + 1] += (y / area) * angle;
      n[v + 2] += (z / area) * angle;
    }
  }
  for (let v = 0; v < n.length; v += 3) {
    const l = Math.hypot(n[v], n[v + 1], n[v + 2]) || 1;
    n[v] /= l;
    n[v + 1] /= l;
    n[v + 2] /= l;
  }
  return n;
}
