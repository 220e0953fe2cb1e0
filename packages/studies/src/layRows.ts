import { dot, type Vec3 } from '@half-loop/core/math';
import { addFace, addVertex, areaNormal, type PolyMesh } from '@half-loop/core/mesh';

/** Rows of points joined by quads, row to row; `closed` rows meet their own start. Wound so that `outward` is the front. */
export function layRows(mesh: PolyMesh, rows: Vec3[][], closed: boolean, outward: (p: Vec3) => Vec3): number[][] {
  const ids = rows.map((row) => row.map((p) => addVertex(mesh, p)));
  const quads: number[][] = [];
  for (let j = 0; j + 1 < ids.length; j++) quads.push(...between(ids[j], ids[j + 1], closed));
  layQuads(mesh, quads, outward);
  return ids;
}

/** The quads between two rows of as many vertices. */
export function between(a: number[], b: number[], closed: boolean): number[][] {
  const n = a.length;
  return Array.from({ length: closed ? n : n - 1 }, (_, i) => [a[i], a[(i + 1) % n], b[(i + 1) % n], b[i]]);
}

/** Quads that are wound alike, all turned so that most of them have `outward` in front: a fold in one cannot turn it over. */
export function layQuads(mesh: PolyMesh, quads: number[][], outward: (p: Vec3) => Vec3): void {
  const vote = quads.reduce((sum, quad) => {
    const points = quad.map((v) => mesh.point(v));
    return sum + Math.sign(dot(areaNormal(points), outward(points[0])));
  }, 0);
  for (const quad of quads) addFace(mesh, vote >= 0 ? quad : [...quad].reverse());
}

/** Closes an even ring with a row of quads across it, from its first edge to the opposite one. */
export function layCap(mesh: PolyMesh, ring: number[], out: Vec3): void {
  const n = ring.length;
  const quads = Array.from({ length: n / 2 - 1 }, (_, k) => [ring[k], ring[k + 1], ring[n - 2 - k], ring[n - 1 - k]]);
  layQuads(mesh, quads, () => out);
}
