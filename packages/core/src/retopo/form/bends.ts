import { cross, dot, length, scale, sub, type Vec3 } from '../../math';
import type { TriMesh } from './TriMesh';

/** Numbers kept of each vertex: six of a symmetric tensor, xx yy zz xy yz zx, and the area that they are of. */
const KEPT = 7;
const AREA = 6;
/** Sums come about so far over a mesh, in edges, by so many times the square of that as rounds. */
const ROUNDS = 1.5;
/** More rounds than this are not made: over that many edges all of a form is bent alike. */
const MOST_ROUNDS = 400;

/**
 * How much a form bends at each vertex, one over file units: the root of both principal curvatures' squares, over about `reach` all round. From the angle across each edge times the tensor of its
 * direction, summed and over the area that these are of, so that what goes up and down as noise does cancels out, but for edges on lines (Cohen-Steiner and Morvan 2003). Cost: the mesh, times the square of `reach` in edges, up to a bound.
 */
export function bendsOf(mesh: TriMesh, reach: number): Float64Array {
  const { sums, edge } = sumsOf(mesh);
  const around = diffused(mesh, sums, Math.min(MOST_ROUNDS, Math.max(1, Math.round(ROUNDS * (reach / edge) ** 2))));
  return Float64Array.from({ length: mesh.vertices }, (_, v) => {
    const [xx, yy, zz, xy, yz, zx, area] = around.subarray(KEPT * v, KEPT * v + KEPT);
    const squares = xx * xx + yy * yy + zz * zz + 2 * (xy * xy + yz * yz + zx * zx);
    return area > 0 ? Math.sqrt(squares) / area : 0;
  });
}

/** What each vertex has of the edges and triangles around it, and the mean length of an edge. */
function sumsOf(mesh: TriMesh): { sums: Float64Array; edge: number } {
  const { points: p, from, twin, line } = mesh;
  const sums = new Float64Array(KEPT * mesh.vertices);
  const at = (v: number): Vec3 => [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
  const facing: Vec3[] = [];
  for (let t = 0; t < mesh.triangles; t++) {
    const [a, b, c] = [at(from[3 * t]), at(from[3 * t + 1]), at(from[3 * t + 2])];
    const n = cross(sub(b, a), sub(c, a));
    const twice = length(n);
    facing.push(scale(n, 1 / (twice || 1)));
    for (let k = 0; k < 3; k++) sums[KEPT * from[3 * t + k] + AREA] += twice / 6;
  }
  let [long, edges] = [0, 0];
  for (let h = 0; h < 3 * mesh.triangles; h++) {
    const [u, v] = [from[h], mesh.to(h)];
    const e = sub(at(v), at(u));
    const l = length(e);
    long += l;
    edges++;
    // a border has no angle across it; edges of quads will lie along a line, exactly, however sharp it is
    if (twin[h] < h || line[h] >= 0 || !(l > 0)) continue;
    const [m, n] = [facing[Math.floor(h / 3)], facing[Math.floor(twin[h] / 3)]];
    // half of the edge is either end's
    const w = Math.atan2(dot(cross(m, n), e) / l, dot(m, n)) / (2 * l);
    for (const end of [u, v]) addTensor(sums, KEPT * end, e, w);
  }
  return { sums, edge: long / Math.max(1, edges) };
}

function addTensor(sums: Float64Array, i: number, [x, y, z]: Vec3, w: number): void {
  sums[i] += w * x * x;
  sums[i + 1] += w * y * y;
  sums[i + 2] += w * z * z;
  sums[i + 3] += w * x * y;
  sums[i + 4] += w * y * z;
  sums[i + 5] += w * z * x;
}

/** Sums shared with those around: each round half of what a vertex has goes to them, and nothing is lost. */
function diffused(mesh: TriMesh, sums: Float64Array, rounds: number): Float64Array {
  const rings = Array.from({ length: mesh.vertices }, (_, v) => mesh.ring(v));
  let now = sums;
  for (let round = 0; round < rounds; round++) {
    const next = now.map((x) => x / 2);
    for (const [v, ring] of rings.entries())
      for (const w of ring) for (let k = 0; k < KEPT; k++) next[KEPT * w + k] += now[KEPT * v + k] / 2 / ring.length;
    now = next;
  }
  return now;
}
