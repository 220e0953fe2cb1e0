/** The twelve edges of a grid cube: 4·axis + which of the four parallels; ends as corner numbers, bit k = axis k. */
export const CUBE_EDGES: readonly (readonly [number, number])[] = [0, 1, 2].flatMap((axis) =>
  [0, 1, 2, 3].map((c): [number, number] => {
    const [u, v] = [0, 1, 2].filter((k) => k !== axis);
    const low = ((c & 1) << u) | ((c >> 1) << v);
    return [low, low | (1 << axis)];
  }),
);

/** The corners of each of the six faces, in turn. */
const FACES = [0, 1, 2].flatMap((axis) =>
  [0, 1].map((side) => {
    const [u, v] = [0, 1, 2].filter((k) => k !== axis);
    return [[0, 0], [1, 0], [1, 1], [0, 1]].map(([a, b]) => (side << axis) | (a << u) | (b << v)); // prettier-ignore
  }),
);
const edgeBetween = (a: number, b: number): number =>
  CUBE_EDGES.findIndex(([p, q]) => (p === a && q === b) || (p === b && q === a));
const FACE_EDGES = FACES.map((corners) => corners.map((c, i) => edgeBetween(c, corners[(i + 1) % 4])));

const known = new Map<number, Int8Array>();

/**
 * The loops in which the surface crosses a cube, given which corners are inside (bit k = corner k): a loop number for each
 * edge, −1 where it is not crossed. On a face that is crossed four times the inside corners stay apart, in this
 * cube and in its neighbour alike, so that one point a loop gives a manifold surface (Nielson 2004).
 */
export function cubeLoops(inside: number): Int8Array {
  const before = known.get(inside);
  if (before) return before;
  const isIn = (corner: number): boolean => ((inside >> corner) & 1) === 1;
  const parent = CUBE_EDGES.map((_, e) => e);
  const find = (e: number): number => (parent[e] === e ? e : find(parent[e]));
  const crossed = CUBE_EDGES.map(([a, b]) => isIn(a) !== isIn(b));
  FACES.forEach((corners, f) => {
    const edges = FACE_EDGES[f];
    const cut = edges.filter((e) => crossed[e]);
    if (cut.length === 2) parent[find(cut[0])] = find(cut[1]);
    else if (cut.length === 4)
      corners.forEach((c, i) => isIn(c) && (parent[find(edges[i])] = find(edges[(i + 3) % 4])));
  });
  const roots = [...new Set(crossed.flatMap((c, e) => (c ? [find(e)] : [])))];
  const loops = Int8Array.from(CUBE_EDGES, (_, e) => (crossed[e] ? roots.indexOf(find(e)) : -1));
  known.set(inside, loops);
  return loops;
}
