/** Rounds in which triangles on top of each other are taken in, at most. */
const ROUNDS = 24;
/** No triangle, or more than one. */
const NONE = -1;
const CROWD = -2;

/** Three points on a line. */
type Flat = readonly [number, number, number];
/** The two of them that are furthest apart, then the one between. */
type Cap = Flat;

/**
 * Triangles whose three points lie on a line, taken in by the triangle beyond their longest side: that is cut in two at the point between, so that no crack is left where they were. Two that have that side in common are turned
 * first, into two whose longest sides are others. Those that have none there, or more than one, are left out. `corners` are triangles with an area, wound anyhow; `flat` those without. Gives all that there
 * are then. Cost: linear, a few times where there are any.
 */
export function withCapsIn(points: Float64Array, corners: Int32Array, flat: readonly Flat[]): Int32Array {
  const edgeOf: EdgeKey = (u, v) => (Math.min(u, v) * points.length) / 3 + Math.max(u, v);
  let left = flat.map((three) => capOf(points, three));
  let all = corners;
  for (let round = 0; round < ROUNDS && left.length > 0; round++) {
    const { cut, later, turned } = takenIn(all, left, edgeOf);
    if (cut.size === 0 && turned.length === 0) break;
    all = withCut(all, cut);
    left = [...later, ...turned.map((three) => capOf(points, three))];
  }
  return all;
}

type EdgeKey = (u: number, v: number) => number;

function capOf(p: Float64Array, [a, b, c]: Flat): Cap {
  const away = (u: number, v: number): number => Math.hypot(p[3 * u] - p[3 * v], p[3 * u + 1] - p[3 * v + 1], p[3 * u + 2] - p[3 * v + 2]); // prettier-ignore
  const [ab, bc, ca] = [away(a, b), away(b, c), away(c, a)];
  if (ab >= bc && ab >= ca) return [a, b, c];
  return bc >= ca ? [b, c, a] : [c, a, b];
}

interface TakenIn {
  /** triangle → the corners of the two in its place */
  cut: Map<number, number[]>;
  /** what is still to be taken in */
  later: Cap[];
  turned: Flat[];
}

/** One round: each triangle is cut by one cap at most. */
function takenIn(corners: Int32Array, caps: readonly Cap[], edgeOf: EdgeKey): TakenIn {
  const at = trianglesAt(corners, caps, edgeOf);
  const cut = new Map<number, number[]>();
  const later: Cap[] = [];
  const turned: Flat[] = [];
  /** with no triangle beyond, by their longest side */
  const open = new Map<number, Cap>();
  for (const cap of caps) {
    const [u, v, between] = cap;
    const edge = edgeOf(u, v);
    const t = at.get(edge) ?? NONE;
    const other = open.get(edge);
    if (t !== NONE && t !== CROWD && !cut.has(t)) cut.set(t, halved(corners.subarray(3 * t, 3 * t + 3), cap));
    else if (t !== NONE) later.push(cap);
    else if (!other) open.set(edge, cap);
    else {
      open.delete(edge);
      // the same three points are two sides of nothing
      if (other[2] !== between) turned.push([u, between, other[2]], [between, v, other[2]]);
    }
  }
  return { cut, later: [...later, ...open.values()], turned };
}

/** Edge → the one triangle that it is of, for the longest sides of caps; `NONE` or `CROWD` where there is not just one. */
function trianglesAt(corners: Int32Array, caps: readonly Cap[], edgeOf: EdgeKey): Map<number, number> {
  const at = new Map(caps.map(([u, v]) => [edgeOf(u, v), NONE]));
  for (let h = 0; h < corners.length; h++) {
    const edge = edgeOf(corners[h], corners[h % 3 === 2 ? h - 2 : h + 1]);
    const known = at.get(edge);
    if (known !== undefined) at.set(edge, known === NONE ? Math.floor(h / 3) : CROWD);
  }
  return at;
}

/** The corners of a triangle's halves, wound as it is. */
function halved(own: Int32Array, [u, v, between]: Cap): number[] {
  const k = own.findIndex((w) => w !== u && w !== v);
  const [apex, from, to] = [own[k], own[(k + 1) % 3], own[(k + 2) % 3]];
  return [apex, from, between, apex, between, to];
}

function withCut(corners: Int32Array, cut: ReadonlyMap<number, number[]>): Int32Array {
  const all = new Int32Array(corners.length + 3 * cut.size);
  let n = 0;
  for (let t = 0; t < corners.length / 3; t++) {
    const own = cut.get(t) ?? corners.subarray(3 * t, 3 * t + 3);
    all.set(own, n);
    n += own.length;
  }
  return all;
}
