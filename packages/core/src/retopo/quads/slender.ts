import { QuadLinks, turnedBy } from './QuadLinks';
import type { QuadSoup } from './QuadSoup';

/** Fewer edges round a limb or a hole than this are none; a limb with no more than these is slender. */
export const LEAST_ROUND = 4;

/** Edges of the loop that an edge lies on, if it closes after `LEAST_ROUND` or fewer; else more. Cost: those. */
export function edgesRound(h: number, links: QuadLinks): number {
  let at = h;
  for (let n = 1; n <= LEAST_ROUND; n++) {
    // over the next edge at its end, and on
    const side = links.twin(turnedBy(at, 1));
    if (side < 0) return LEAST_ROUND + 1;
    at = turnedBy(side, 1);
    if (at === h) return n;
  }
  return LEAST_ROUND + 1;
}

/** Which quads lie along a limb that only so few go round, u8[Q]: how long they are is the limb's length, and no fault. Cost: linear. */
export function slenderQuads(soup: QuadSoup): Uint8Array {
  const links = new QuadLinks(soup);
  const slender = new Uint8Array(soup.quads.length / 4);
  for (let h = 0; h < soup.quads.length; h++)
    if (!slender[h >> 2] && edgesRound(h, links) <= LEAST_ROUND) slender[h >> 2] = 1;
  return slender;
}
