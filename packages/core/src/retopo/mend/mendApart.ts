import type { Ground } from '../lines/ground';
import { cornerOf, eulerOf, halfKey, QuadLinks } from '../quads/QuadLinks';
import type { QuadSoup } from '../quads/QuadSoup';
import { compacted, faultsOf, refilled } from './mendQuads';
import { mayRim } from './rims';

/** A fault is mended with so many rings of quads round it at most. */
const RINGS = 3;
/** … and so that what hangs together stays so, with no more than this: wider holes round the same fault hang together otherwise. */
const RINGS_KEPT = 2;

/** How faults are filled: first so that what hangs together does so as before, by closing holes or by a band between two; by whatever fills them; or by bands wherever two holes lie beside each other, as where the quads of a thin wall's hole have come together. */
export const MENDINGS = ['as it hangs', 'anyhow', 'with bands'] as const;
export type Mending = (typeof MENDINGS)[number];

/**
 * Mends faults that lie apart one after another, each with as few quads round it as will do: where all at once had no filling, because one
 * needs more room and others have none to give. Null where one of them has no filling by itself. Cost: a pass over the quads for each fault and ring, and the fillings.
 */
export function mendedApart(start: QuadSoup, ground: Ground, mending: Mending): QuadSoup | null {
  let soup = start;
  let bad = faultsOf(soup, ground.curves);
  const ways: Mending[] = mending === 'as it hangs' ? [mending, 'anyhow'] : [mending];
  for (const way of ways) {
    const tried = new Set<string>();
    while (bad.length > 0) {
      const next = oneMended(soup, bad, ground, way, tried);
      if (!next) break;
      [soup, bad] = [next.soup, next.bad];
    }
  }
  return bad.length > 0 ? null : soup;
}

/** Whether bands are tried, in order, by each way. */
const BANDS: Record<Mending, boolean[]> = {
  'as it hangs': [false, true],
  anyhow: [false],
  'with bands': [true, false],
};

/** With one of the faults mended, and the others as they are; what was `tried` is not again. */
function oneMended(
  soup: QuadSoup,
  bad: readonly number[],
  ground: Ground,
  way: Mending,
  tried: Set<string>,
): { soup: QuadSoup; bad: number[] } | null {
  const links = new QuadLinks(soup);
  const groups = touching(links, bad);
  const keeps = way === 'as it hangs';
  const euler = keeps ? eulerOf(soup) : undefined;
  for (let rings = 1; rings <= (keeps ? RINGS_KEPT : RINGS); rings++)
    for (const group of groups) {
      const key = `${rings} ${placesOf(soup, group)}`;
      if (tried.has(key)) continue;
      tried.add(key);
      const others = bad.filter((q) => !group.has(q));
      const fixed = openAt(soup, links, others, ground);
      for (const band of BANDS[way]) {
        const made = refilled(soup, [...group], ground, rings, { fixed, band, euler });
        if (!made) continue;
        const next = compacted(made.points, made.quads, made.onLine);
        const left = faultsOf(next, ground.curves);
        if (left.length >= bad.length || (euler !== undefined && eulerOf(next) !== euler)) continue;
        return { soup: next, bad: left };
      }
    }
  return null;
}

/** Where the first corners of some quads are: the same while neither they nor their points change. */
export const placesOf = ({ points, quads }: QuadSoup, group: ReadonlySet<number>): string => [...group].flatMap((q) => [...points.subarray(3 * quads[4 * q], 3 * quads[4 * q] + 3)]).join(); // prettier-ignore

/** Quads in groups: those that share a point are in one. */
export function touching(links: QuadLinks, quads: readonly number[]): Set<number>[] {
  const left = new Set(quads);
  const groups: Set<number>[] = [];
  for (const seed of quads) {
    if (!left.delete(seed)) continue;
    const group = new Set([seed]);
    for (const q of group)
      for (let k = 0; k < 4; k++) for (const x of links.at(links.quads[4 * q + k])) if (left.delete(x)) group.add(x);
    groups.push(group);
  }
  return groups;
}

/** Half-edges of some quads that are open and should not be: they stay so while others are mended. */
function openAt(soup: QuadSoup, links: QuadLinks, quads: readonly number[], { curves }: Ground): Set<number> {
  const open = new Set<number>();
  for (const q of quads)
    for (let h = 4 * q; h < 4 * q + 4; h++) {
      const [u, v] = [cornerOf(soup.quads, h, 0), cornerOf(soup.quads, h, 1)];
      if (links.isOpen(h) && !mayRim(soup, curves, u, v)) open.add(halfKey(u, v));
    }
  return open;
}
