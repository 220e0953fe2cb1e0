import type { Vec3 } from '../../math';
import { quadDiagonal, type PolygonSoup } from '../../mesh';
import { SculptSurface } from '../../surface';

/** Quads as they come out of the grid: points on the working mesh, four corners each, wound like it. */
export interface QuadSoup {
  /** f64[3·V] */
  points: Float64Array;
  /** i32[4·Q] */
  quads: Int32Array;
  /** vertex → the line of the working mesh that runs through its cell, −1 for none, −2 for a corner */
  onLine: Int32Array;
}

/** As polygons, for files and low-polys. */
export function quadSoup({ points, quads }: QuadSoup): PolygonSoup {
  const faceStarts = Uint32Array.from({ length: quads.length / 4 + 1 }, (_, f) => 4 * f);
  return { positions: points, faceStarts, corners: Uint32Array.from(quads) };
}

/** The same quads, each told from a corner that its diagonal runs from by the one rule for view, files and baking: what they are cut along here is what an artist gets. Cost: linear. */
export function cutAsShown<T extends Pick<QuadSoup, 'points' | 'quads'>>(soup: T): T {
  const { points: p, quads } = soup;
  const turned = quads.slice();
  for (let q = 0; q < quads.length; q += 4) {
    const corners = [...quads.subarray(q, q + 4)];
    const places = corners.map((v): Vec3 => [p[3 * v], p[3 * v + 1], p[3 * v + 2]]);
    if (quadDiagonal(places) === 1) turned.set([...corners.slice(1), corners[0]], q);
  }
  return { ...soup, quads: turned };
}

/** Quads as a surface, each cut along the diagonal from its first corner. */
export function surfaceOfQuads({ points, quads }: QuadSoup): SculptSurface {
  const indices = new Uint32Array((quads.length / 4) * 6);
  for (let q = 0; q < quads.length / 4; q++) {
    const [a, b, c, d] = quads.subarray(4 * q, 4 * q + 4);
    indices.set([a, b, c, a, c, d], 6 * q);
  }
  return SculptSurface.build({ positions: Float32Array.from(points), indices });
}

/** Quads as the surface that an artist sees and gets. */
export const shownSurface = (soup: QuadSoup): SculptSurface => surfaceOfQuads(cutAsShown(soup));

/** The mean of a quad's points, which is told by its first corner. */
export function middleOf({ points: p, quads }: QuadSoup, q: number): Vec3 {
  const [a, b, c, d] = [3 * quads[q], 3 * quads[q + 1], 3 * quads[q + 2], 3 * quads[q + 3]];
  return [(p[a] + p[b] + p[c] + p[d]) / 4, (p[a + 1] + p[b + 1] + p[c + 1] + p[d + 1]) / 4, (p[a + 2] + p[b + 2] + p[c + 2] + p[d + 2]) / 4]; // prettier-ignore
}
