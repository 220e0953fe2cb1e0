import { QuadLinks, turnedBy } from './QuadLinks';
import type { QuadSoup } from './QuadSoup';

/** Nobody takes a strip for one round a limb that comes back later than after so many times the square root of all quads; one that is beside itself by so many strips. */
const ROUND = 1.2;
const BESIDE = 3;
/** Further off its start than one strip in so many quads, a strip turned off instead of spiralling. */
const PITCH = 2.2;

/** Of the strips round a form's limbs, from each quad both ways: how many end where they began, and how many come back beside it. */
export interface Rounds {
  closed: number;
  spiral: number;
}

/**
 * Whether strips of quads run round in rings or in spirals; those that go further, or end at a border, are not counted. `links` are those of the quads, where they are there already. Cost: the root of the quads
 * for each of them.
 */
export function roundsOf(soup: QuadSoup, links = new QuadLinks(soup)): Rounds {
  const twins = Int32Array.from(soup.quads, (_, h) => links.twin(h));
  const most = ROUND * Math.sqrt(soup.quads.length / 4);
  const rounds = { closed: 0, spiral: 0 };
  for (let h = 0; h < twins.length; h++) {
    if ((h & 3) > 1) continue;
    const beside = besides(twins, h);
    for (let now = h, far = 1; far < most; far++) {
      now = twins[turnedBy(now, 2)];
      if (now < 0) break;
      const off = now === h ? 0 : beside.get(now);
      if (off === undefined || PITCH * off > far) continue;
      if (off === 0) rounds.closed++;
      else rounds.spiral++;
      break;
    }
  }
  return rounds;
}

/** The half-edges in line with one, and by how many quads they lie beside it. */
function besides(twins: Int32Array, h: number): Map<number, number> {
  const found = new Map<number, number>();
  for (const side of [1, 3])
    for (let now = h, off = 1; off <= BESIDE; off++) {
      const next = twins[turnedBy(now, side)];
      if (next < 0) break;
      now = turnedBy(next, side);
      found.set(now, off);
    }
  return found;
}
