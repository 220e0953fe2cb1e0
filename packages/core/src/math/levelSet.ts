/** The six ways from a cell's low corner to its high one: tetrahedra that fit together from cell to cell (Kuhn 1960). */
const WAYS = [[0, 1, 2], [0, 2, 1], [1, 0, 2], [1, 2, 0], [2, 0, 1], [2, 1, 0]] as const; // prettier-ignore

/**
 * Triangles where a field on a grid of cells of side `c` crosses zero, facing to where it is positive, by marching tetrahedra (Doi and Koide 1991): closed
 * off the grid's rim and manifold whatever the values are, as long as none is zero. `values` x first, f64[nx·ny·nz]. Cost: one pass.
 */
export function levelSet(
  values: Float64Array,
  origin: readonly number[],
  dims: readonly number[],
  c: number,
): { positions: Float64Array; indices: number[] } {
  const [nx, ny, nz] = dims;
  const step = [1, nx, nx * ny];
  const points: number[] = [];
  const indices: number[] = [];
  const known = new Map<number, number>();
  const placeOf = (i: number, k: number): number =>
    k === 0 ? i % nx : k === 1 ? Math.floor(i / nx) % ny : Math.floor(i / (nx * ny));
  const cut = (a: number, b: number): number => {
    const key = Math.min(a, b) * values.length + Math.max(a, b);
    const found = known.get(key);
    if (found !== undefined) return found;
    const t = values[a] / (values[a] - values[b]);
    for (let k = 0; k < 3; k++) points.push(origin[k] + c * (placeOf(a, k) + t * (placeOf(b, k) - placeOf(a, k))));
    const v = points.length / 3 - 1;
    known.set(key, v);
    return v;
  };
  for (let z = 0; z + 1 < nz; z++)
    for (let y = 0; y + 1 < ny; y++)
      for (let x = 0; x + 1 < nx; x++) {
        const low = (z * ny + y) * nx + x;
        const isIn = values[low] < 0;
        const corners = [1, nx, nx + 1, nx * ny, nx * ny + 1, nx * ny + nx, nx * ny + nx + 1];
        if (corners.every((o) => values[low + o] < 0 === isIn)) continue;
        for (const [i, way] of WAYS.entries()) {
          const four = [low, low + step[way[0]], low + step[way[0]] + step[way[1]], low + nx * ny + nx + 1];
          sliced(four, values, cut, indices, i === 0 || i === 3 || i === 4);
        }
      }
  return { positions: Float64Array.from(points), indices };
}

/** The triangles in which the shell cuts a tetrahedron, facing out. `isEven` tells the tetrahedron's handedness. */
function sliced(
  four: readonly number[],
  values: Float64Array,
  cut: (a: number, b: number) => number,
  indices: number[],
  isEven: boolean,
): void {
  const inside = [0, 1, 2, 3].filter((k) => values[four[k]] < 0);
  if (inside.length === 0 || inside.length === 4) return;
  const outside = [0, 1, 2, 3].filter((k) => values[four[k]] >= 0);
  const order = [...inside, ...outside];
  // the handedness of the corners in the order taken
  let even = isEven;
  for (let i = 0; i < 4; i++) for (let j = i + 1; j < 4; j++) if (order[i] > order[j]) even = !even;
  const [a, b, c, d] = order.map((k) => four[k]);
  const put = (u: number, v: number, w: number): void => void (even ? indices.push(u, v, w) : indices.push(u, w, v));
  if (inside.length === 1) put(cut(a, b), cut(a, c), cut(a, d));
  else if (inside.length === 3) put(cut(a, d), cut(b, d), cut(c, d));
  else {
    const [p, q, r, s] = [cut(a, c), cut(a, d), cut(b, d), cut(b, c)];
    put(p, q, r);
    put(p, r, s);
  }
}
