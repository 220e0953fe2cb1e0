import { cutAsShown, type QuadSoup } from './QuadSoup';
import { TriangleCells } from './TriangleCells';

/**
 * Quads that run through others: those with an edge, or the diagonal that they are shown with, that crosses a triangle of another with no point in common. Neighbours are left out:
 * what folds over at an edge is told by its facing. Cost: linear for quads of about one size, by a grid of cells.
 */
export function crossingQuads(soup: Pick<QuadSoup, 'points' | 'quads'>): number[] {
  const { points: p, quads } = cutAsShown(soup);
  const corners = new Int32Array(1.5 * quads.length);
  for (let q = 0; q < quads.length; q += 4) {
    const [a, b, c, d] = quads.subarray(q, q + 4);
    corners.set([a, b, c, a, c, d], 1.5 * q);
  }
  const cells = new TriangleCells(p, corners);
  const found = new Set<number>();
  for (let q = 0; q < quads.length; q += 4)
    for (let k = 0; k < 5; k++) {
      const [u, v] = k < 4 ? [quads[q + k], quads[q + ((k + 1) & 3)]] : [quads[q], quads[q + 2]];
      cells.through(u, v, (t) => found.add(q / 4).add(t >> 1));
    }
  return [...found];
}
