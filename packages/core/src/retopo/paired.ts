import { add, cross, lerp, normalize, sub, type Vec3 } from '../math';
import { soundness } from './fit/relax';
import { nextHalf, prevHalf, type TriMesh } from './form/TriMesh';
import type { QuadSoup } from './quads/QuadSoup';

/** A pair is not made where one of its quads would have a corner below this. */
const LEAST = 0.1;

/**
 * Quads from triangles whatever their shape: neighbours are paired, squarest first, over edges on no line; then every pair is cut in four and every
 * triangle left over in three, by their middles. Keeps the surface's topology and its lines. Cost: the edges, sorted.
 */
export function pairedQuads(mesh: TriMesh, corners: Uint8Array): QuadSoup {
  const n = mesh.triangles;
  const mate = new Int32Array(n).fill(-1);
  const ways: { h: number; worth: number }[] = [];
  for (let h = 0; h < 3 * n; h++)
    if (mesh.twin[h] > h && mesh.line[h] < 0) ways.push({ h, worth: squareness(mesh, h) });
  ways.sort((a, b) => b.worth - a.worth);
  // sides that would be left round each vertex: inside, two are too few
  const sides = Int32Array.from({ length: mesh.vertices }, (_, v) => mesh.fan(v).length);
  for (const { h, worth } of ways) {
    const [s, t] = [Math.floor(h / 3), Math.floor(mesh.twin[h] / 3)];
    const ends = [mesh.from[h], mesh.to(h)];
    if (worth <= 0.15 || mate[s] >= 0 || mate[t] >= 0 || ends.some((v) => sides[v] <= 3 && !mesh.isBorder(v))) continue;
    if (!staysSound(mesh, h)) continue;
    for (const v of ends) sides[v]--;
    mate[s] = h;
    mate[t] = mesh.twin[h];
  }
  const points = [...mesh.points.subarray(0, 3 * mesh.vertices)];
  const onLine: number[] = Array.from({ length: mesh.vertices }, (_, v) => lineAt(mesh, corners, v));
  const middle = new Int32Array(3 * n).fill(-1);
  const add = (own: readonly number[], line: number): number => {
    for (let k = 0; k < 3; k++) points.push(own.reduce((s, v) => s + points[3 * v + k] / own.length, 0));
    return onLine.push(line) - 1;
  };
  const middleOf = (h: number): number => {
    if (middle[h] < 0) {
      middle[h] = add([mesh.from[h], mesh.to(h)], mesh.line[h] >= 0 ? mesh.line[h] : -1);
      if (mesh.twin[h] >= 0) middle[mesh.twin[h]] = middle[h];
    }
    return middle[h];
  };
  const quads: number[] = [];
  for (let t = 0; t < n; t++) {
    const h = mate[t];
    if (h >= 0 && mesh.twin[h] < h) continue;
    const g = h < 0 ? -1 : mesh.twin[h];
    const sides = h < 0 ? [3 * t, 3 * t + 1, 3 * t + 2] : [nextHalf(h), prevHalf(h), nextHalf(g), prevHalf(g)];
    const centre = add(sides.map((x) => mesh.from[x]), -1); // prettier-ignore
    sides.forEach((x, k) => {
      const before = sides[(k + sides.length - 1) % sides.length];
      quads.push(mesh.from[x], middleOf(x), centre, middleOf(before));
    });
  }
  return { points: Float64Array.from(points), quads: Int32Array.from(quads), onLine: Int32Array.from(onLine) };
}

function lineAt(mesh: TriMesh, corners: Uint8Array, v: number): number {
  if (corners[v] === 1) return -2;
  const fan = mesh.fan(v);
  const h = [...fan, ...fan.map(prevHalf)].find((x) => mesh.line[x] >= 0 && (mesh.from[x] === v || mesh.to(x) === v));
  return h === undefined ? -1 : mesh.line[h];
}

/** Whether the four quads that a pair is cut into are sound and face as its triangles do: a triangle's three always are. */
function staysSound(mesh: TriMesh, h: number): boolean {
  const g = mesh.twin[h];
  const at = (v: number): Vec3 => [mesh.points[3 * v], mesh.points[3 * v + 1], mesh.points[3 * v + 2]];
  const four = [mesh.from[h], mesh.from[prevHalf(g)], mesh.to(h), mesh.from[prevHalf(h)]].map(at);
  const middles = four.map((p, k) => lerp(p, four[(k + 1) % 4], 0.5));
  const centre = lerp(lerp(four[0], four[2], 0.5), lerp(four[1], four[3], 0.5), 0.5);
  const points = Float64Array.from([...four, ...middles, centre].flat());
  const facing = add(normalOf(four[0], four[1], four[2]), normalOf(four[0], four[2], four[3]));
  const quads = Int32Array.from([0, 1, 2, 3].flatMap((k) => [k, 4 + k, 8, 4 + ((k + 3) % 4)]));
  return [0, 4, 8, 12].every((q) => soundness({ points, quads, onLine: new Int32Array(9) }, q, facing) > LEAST);
}
const normalOf = (a: Vec3, b: Vec3, c: Vec3): Vec3 => normalize(cross(sub(b, a), sub(c, a)));

/** Least corner of the quad over an edge: the sine of its angle, negative where it is folded or bent back. */
function squareness(mesh: TriMesh, h: number): number {
  const g = mesh.twin[h];
  const ids = [mesh.from[h], mesh.from[prevHalf(g)], mesh.to(h), mesh.from[prevHalf(h)]];
  const p = ids.map((v): Vec3 => [mesh.points[3 * v], mesh.points[3 * v + 1], mesh.points[3 * v + 2]]);
  const n = cross(sub(p[2], p[0]), sub(p[3], p[1]));
  const l = Math.hypot(n[0], n[1], n[2]) || 1;
  return p.reduce((least, q, k) => {
    const [on, back] = [sub(p[(k + 1) % 4], q), sub(p[(k + 3) % 4], q)];
    const c = cross(on, back);
    const size = Math.hypot(on[0], on[1], on[2]) * Math.hypot(back[0], back[1], back[2]);
    return Math.min(least, (c[0] * n[0] + c[1] * n[1] + c[2] * n[2]) / (l * (size || 1)));
  }, 1);
}
