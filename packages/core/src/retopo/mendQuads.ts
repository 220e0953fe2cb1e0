import { fillBorder } from '../fill';
import type { Vec3 } from '../math';
import type { WalkingForm } from '../surface';
import type { QuadSoup } from './extract';
import { cornerOf, halfKey, QuadLinks } from './QuadLinks';
import { qualityOf } from './verify';

/** Holes with more edges than this are not a fault to be mended. */
const LONGEST = 120;
const ROUNDS = 8;

/**
 * Takes out the quads round every fault and fills the holes with quads again, on the form. `bad` names the faulty ones; those that share a point with
 * them go too, and more where what is left would hang together by a point. Null where a hole runs into a border, is too long, or has no filling. Cost: the holes'
 * fillings.
 */
export function mendedAround(soup: QuadSoup, bad: readonly number[], form: WalkingForm, rings = 1): QuadSoup | null {
  const links = new QuadLinks(soup);
  const borderBefore = new Set<number>();
  for (let h = 0; h < soup.quads.length; h++) {
    const [u, v] = [cornerOf(soup.quads, h, 0), cornerOf(soup.quads, h, 1)];
    if (links.isOpen(h) && soup.onLine[u] !== -1 && soup.onLine[v] !== -1) borderBefore.add(halfKey(u, v));
  }
  const gone = new Set(bad);
  for (let i = 0; i < rings; i++) grow(links, gone);
  for (let round = 0; round < ROUNDS; round++) {
    const left = without(soup, gone);
    const found = holesOf(left, borderBefore);
    if (found.pinched.length === 0) return found.mixed ? null : filled(left, found.holes, form);
    for (const v of found.pinched) for (const q of links.at(v)) gone.add(q);
  }
  return null;
}

/** Quads that break what is promised of a surface: a point twice, an edge with two faces on a side, several fans round a point, a point with two edges, an open edge off the lines. */
export function faultsOf(soup: QuadSoup): number[] {
  const { quads, onLine } = soup;
  const links = new QuadLinks(soup);
  const bad = new Set<number>();
  for (let q = 0; q < quads.length; q += 4) {
    if (new Set(quads.subarray(q, q + 4)).size < 4) bad.add(q / 4);
    for (let h = q; h < q + 4; h++) {
      if (links.isCrowded(h)) for (const x of links.sharing(h)) bad.add(x >> 2);
      const [u, v] = [cornerOf(quads, h, 0), cornerOf(quads, h, 1)];
      if (links.isOpen(h) && (onLine[u] === -1 || onLine[v] === -1)) bad.add(h >> 2);
    }
  }
  for (let v = 0; v < onLine.length; v++) {
    const own = links.at(v);
    if (own.length === 0) continue;
    const { fans, isClosed } = links.fansAt(v);
    if (fans > 1 || (isClosed && own.length < 3)) for (const q of own) bad.add(q);
  }
  return [...bad];
}

/** Splinters of a connected form with less than this share of its quads are dropped. */
const SPLINTER = 0.04;

/** Without small pieces that came apart from a form that hangs together; as it is where none are small. */
export function withoutSplinters(soup: QuadSoup): QuadSoup {
  const { quads, onLine } = soup;
  const links = new QuadLinks(soup);
  const part = new Int32Array(quads.length / 4).fill(-1);
  const sizes: number[] = [];
  for (let seed = 0; seed < part.length; seed++) {
    if (part[seed] >= 0) continue;
    const queue = [seed];
    part[seed] = sizes.length;
    for (const q of queue)
      for (let h = 4 * q; h < 4 * q + 4; h++) {
        const g = links.twin(h);
        if (g < 0 || part[g >> 2] >= 0) continue;
        part[g >> 2] = sizes.length;
        queue.push(g >> 2);
      }
    sizes.push(queue.length);
  }
  if (sizes.every((n) => n >= SPLINTER * part.length)) return soup;
  const kept = [...quads].filter((_, h) => sizes[part[h >> 2]] >= SPLINTER * part.length);
  return compacted([...soup.points], kept, [...onLine]);
}

function grow(links: QuadLinks, gone: Set<number>): void {
  for (const q of [...gone]) for (let k = 0; k < 4; k++) for (const x of links.at(links.quads[4 * q + k])) gone.add(x);
}

function without({ points, quads, onLine }: QuadSoup, gone: ReadonlySet<number>): QuadSoup {
  const kept: number[] = [];
  for (let q = 0; 4 * q < quads.length; q++) if (!gone.has(q)) kept.push(...quads.subarray(4 * q, 4 * q + 4));
  return { points, quads: Int32Array.from(kept), onLine };
}

/** Loops of open edges that were no border before, each turned so that its inside lies left. */
function holesOf(
  soup: QuadSoup,
  border: ReadonlySet<number>,
): { holes: number[][]; pinched: number[]; mixed: boolean } {
  const links = new QuadLinks(soup);
  const next = new Map<number, number>();
  const pinched = new Set<number>();
  for (let h = 0; h < soup.quads.length; h++) {
    if (!links.isOpen(h)) continue;
    const [u, v] = [cornerOf(soup.quads, h, 0), cornerOf(soup.quads, h, 1)];
    if (next.has(v)) pinched.add(v);
    next.set(v, u);
  }
  const holes: number[][] = [];
  const seen = new Set<number>();
  let mixed = false;
  for (const first of next.keys()) {
    if (seen.has(first) || pinched.size > 0) continue;
    const loop: number[] = [];
    let old = 0;
    for (let v = first; !seen.has(v); v = next.get(v) as number) {
      seen.add(v);
      loop.push(v);
      if (border.has(halfKey(next.get(v) as number, v))) old++;
    }
    if (old === loop.length) continue;
    if (old > 0) mixed = true;
    holes.push(loop);
  }
  return { holes, pinched: [...pinched], mixed };
}

function filled(soup: QuadSoup, holes: readonly number[][], form: WalkingForm): QuadSoup | null {
  const points = [...soup.points];
  const quads = [...soup.quads];
  const onLine = [...soup.onLine];
  const links = new QuadLinks(soup);
  for (const hole of holes) {
    if (hole.length > LONGEST || hole.length < 4) return null;
    const at = hole.map((v): Vec3 => [points[3 * v], points[3 * v + 1], points[3 * v + 2]]);
    const corners = cornersOf(hole.map((v) => links.at(v).length));
    const onto = (p: Vec3): Vec3 => form.closest(p).point;
    const [way] = fillBorder(at, corners, onto, 1);
    if (!way) return null;
    const start = onLine.length;
    for (const p of way.points.slice(hole.length)) {
      points.push(...p);
      onLine.push(-1);
    }
    for (const quad of way.quads) quads.push(...quad.map((i) => (i < hole.length ? hole[i] : start + i - hole.length)));
  }
  return compacted(points, quads, onLine);
}

/** Where sides of a hole begin: where three or more quads stand outside, one is wanted inside; else four places evenly. */
function cornersOf(outside: readonly number[]): number[] {
  const n = outside.length;
  const found = [...outside.keys()].filter((i) => outside[i] >= 3);
  if (found.length >= 2 && found.length <= 6) return found;
  const even = (shift: number): number[] => [0, 1, 2, 3].map((k) => (shift + Math.round((k * n) / 4)) % n);
  let best = even(0);
  const worth = (places: number[]): number => places.reduce((s, i) => s + outside[i], 0);
  for (let shift = 1; shift < n / 4; shift++) if (worth(even(shift)) > worth(best)) best = even(shift);
  return best.sort((a, b) => a - b);
}

function compacted(points: readonly number[], quads: readonly number[], onLine: readonly number[]): QuadSoup {
  const to = new Int32Array(onLine.length).fill(-1);
  const was: number[] = [];
  for (const v of quads) if (to[v] < 0) to[v] = was.push(v) - 1;
  return {
    points: Float64Array.from(was.flatMap((v) => points.slice(3 * v, 3 * v + 3))),
    quads: Int32Array.from(quads, (v) => to[v]),
    onLine: Int32Array.from(was, (v) => onLine[v]),
  };
}

/** Quads that are folded, have no area, or face against every form. */
export function foldedIn({ points, quads }: QuadSoup, forms: readonly WalkingForm[]): number[] {
  const found: number[] = [];
  for (let q = 0; q < quads.length; q += 4)
    if (qualityOf(points, quads.subarray(q, q + 4), forms).folded > 0) found.push(q / 4);
  return found;
}
