import type { QuadSoup } from './extract';
import type { Ground } from './ground';
import { compacted, faultsOf, mayRim, refilled } from './mendQuads';
import { cornerOf, halfKey, QuadLinks } from './QuadLinks';

/** A fault is mended with so many rings of quads round it at most. */
const RINGS = 3;

/**
 * Mends faults that lie apart one after another, each with as few quads round it as will do: where all at once had no filling, because one
 * needs more room and others have none to give. Null where one of them has none by itself. Cost: a pass over the quads for each fault and ring, and the fillings.
 */
export function mendedApart(start: QuadSoup, ground: Ground): QuadSoup | null {
  let soup = start;
  for (let bad = faultsOf(soup, ground.curves); bad.length > 0;) {
    const next = oneMended(soup, bad, ground);
    if (!next) return null;
    [soup, bad] = [next.soup, next.bad];
  }
  return soup;
}

/** With one of the faults mended, and the others as they are. */
function oneMended(soup: QuadSoup, bad: readonly number[], ground: Ground): { soup: QuadSoup; bad: number[] } | null {
  const links = new QuadLinks(soup);
  const groups = touching(links, bad);
  for (let rings = 1; rings <= RINGS; rings++)
    for (const group of groups) {
      const others = bad.filter((q) => !group.has(q));
      const made = refilled(soup, [...group], ground, rings, { fixed: openAt(soup, links, others, ground) });
      if (!made) continue;
      const next = compacted(made.points, made.quads, made.onLine);
      const left = faultsOf(next, ground.curves);
      if (left.length < bad.length) return { soup: next, bad: left };
    }
  return null;
}

/** Quads in groups: those that share a point are in one. */
function touching(links: QuadLinks, quads: readonly number[]): Set<number>[] {
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
