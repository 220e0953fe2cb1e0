import { describe, expect, it } from 'vitest';
import { seededRng, type Vec3 } from '../math';
import { fillBorder, filled, fillPlans, Patch, sidesOf, spokesFor } from '.';

/** A convex border with so many edges a side: corners on a circle, sides straight (0) to round (1). */
function borderOf(lengths: readonly number[], round: number): { border: Vec3[]; corners: number[] } {
  const n = lengths.length;
  const total = lengths.reduce((a, b) => a + b, 0);
  const border: Vec3[] = [];
  const corners: number[] = [];
  let from = 0;
  for (const length of lengths) {
    const to = from + 2 * Math.PI * (0.5 / n + (0.5 * length) / total);
    const at = (a: number): [number, number] => [Math.cos(a), Math.sin(a)];
    const [p, q] = [at(from), at(to)];
    corners.push(border.length);
    for (let k = 0; k < length; k++) {
      const t = k / length;
      const arc = at(from + (to - from) * t);
      border.push([0, 1].map((i) => (p[i] + (q[i] - p[i]) * t) * (1 - round) + arc[i] * round).concat(0) as unknown as Vec3); // prettier-ignore
    }
    from = to;
  }
  return { border, corners };
}

/** All side lengths up to a most, one of each set that turning and mirroring make alike. */
function* allLengths(sides: number, most: number, own: number[] = []): Generator<number[]> {
  if (own.length === sides) {
    const word = (l: readonly number[]): string => l.map((x) => String.fromCharCode(64 + x)).join('');
    const alike = own.flatMap((_, r) => [[...own.slice(r), ...own.slice(0, r)]].flatMap((l) => [word(l), word([...l].reverse())])); // prettier-ignore
    if (word(own) === alike.reduce((a, b) => (b < a ? b : a))) yield own;
    return;
  }
  for (let k = 1; k <= most; k++) yield* allLengths(sides, most, [...own, k]);
}

/** What a plan says of itself, counted on its quads: how far each point is from four edges, of the border from three, corners from two. */
function irregularity({ quads, border, count }: Patch, corners: readonly number[]): number {
  const at = new Array<number>(count).fill(0);
  for (const quad of quads) for (const v of quad) at[v]++;
  return at.reduce((sum, n, v) => sum + Math.abs(n - (v >= border ? 4 : corners.includes(v) ? 1 : 2)), 0);
}

function check(lengths: readonly number[], round: number): number {
  const { border, corners } = borderOf(lengths, round);
  const [way] = fillBorder(border, corners, null);
  const words = lengths.join();
  expect(way, words).toBeDefined();
  // every side of a quad has its partner or lies on the border, and every border edge has one quad
  const sides = new Map<number, number>();
  for (const quad of way.quads) {
    expect(new Set(quad).size, words).toBe(4);
    quad.forEach((u, k) => {
      const key = u * 100000 + quad[(k + 1) % 4];
      sides.set(key, (sides.get(key) ?? 0) + 1);
    });
  }
  const count = way.points.length;
  for (const [key, n] of sides) {
    const [u, v] = [Math.floor(key / 100000), key % 100000];
    expect(n, words).toBe(1);
    const onBorder = u < border.length && v === (u + 1) % border.length;
    expect(sides.has(v * 100000 + u), words).toBe(!onBorder);
  }
  for (let u = 0; u < border.length; u++) expect(sides.has(u * 100000 + ((u + 1) % border.length)), words).toBe(true);
  expect(count - (sides.size + border.length) / 2 + way.quads.length, words).toBe(1);
  expect(way.least, words).toBeGreaterThan(0.2);
  return way.plan.irregular;
}

/** `npm run sweep -- fill` asks for the whole of it. */
const SWEEP = Number(process.env.HALF_LOOP_SWEEP ?? 0);

describe('the fill of an even border', () => {
  it.each([
    [2, 12, [0.5, 1]],
    [3, SWEEP > 0 ? 12 : 8, [0, 0.5]],
    [4, SWEEP > 0 ? 12 : 5, [0, 0.5]],
  ] as const)(
    'is all quads and square enough for every border of %i sides of up to %i edges',
    (sides, most, rounds) => {
      for (const lengths of allLengths(sides, most))
        if (lengths.reduce((a, b) => a + b) % 2 === 0 && lengths.reduce((a, b) => a + b) >= 4)
          for (const round of rounds) check(lengths, round);
    },
  );

  it.each([5, 6])('is so for %i sides of up to 40 edges, over seeds', (sides) => {
    const rng = seededRng(sides);
    for (let i = 0; i < (SWEEP || 12); i++) {
      const lengths = Array.from({ length: sides }, () => 1 + Math.floor(rng() * 40));
      if (lengths.reduce((a, b) => a + b) % 2 === 1) lengths[0]++;
      check(lengths, 0.3);
    }
  });

  /** A star of N, or for six sides two poles of five in its place: their strips taken away leave a star. */
  function isStar(l: readonly number[]): boolean {
    if (l.length !== 6) return spokesFor(l) !== null;
    const turns = [0, 1, 2].map((turn) => [...l.slice(turn), ...l.slice(0, turn)]);
    return turns.some(([a, b, c, d, e, f]) => {
      for (let p = 0; p < Math.min(c, f); p++)
        for (let q = 0; q < Math.min(a, d); q++) if (spokesFor([a - q, b, c - p, d - q, e, f - p])) return true;
      return false;
    });
  }

  /**
   * The fewest irregular points, each counted by how far it is from four edges, a shared corner once. Indices of N sides add up to 4 − N. The
   * row of quads along a side joins the sides next to it, so that of a side as long as all others together not all edges find their partner
   * there: quads go from it back to itself, round an index of 2 at least, and with the corners' that makes N. (Three sides
   * have no such row, but no star either: 1 + 2.) Else |4 − N| would do: a star or a grid, also with corners shared; where there is
   * none, two more, since all of them are odd or even together.
   */
  function fewest(lengths: readonly number[]): number {
    const n = lengths.length;
    const longest = Math.max(...lengths);
    const rest = lengths.reduce((a, b) => a + b) - longest;
    if (longest >= rest) return n;
    const isPlain = (l: readonly number[]): boolean => (l.length === 4 ? l[0] === l[2] && l[1] === l[3] : isStar(l));
    const merged = (l: readonly number[], i: number): number[] => {
      const turned = [...l.slice(i), ...l.slice(0, i)];
      return [turned[0] + turned[1], ...turned.slice(2)];
    };
    const withShared = (l: readonly number[]): (readonly number[])[] =>
      l.length > 4 ? [l, ...l.flatMap((_, i) => withShared(merged(l, i)))] : [l];
    return withShared(lengths).some(isPlain) ? Math.abs(4 - n) : Math.abs(4 - n) + 2;
  }
  const cornersOf = (lengths: readonly number[]): number[] =>
    lengths.map((_, i) => lengths.slice(0, i).reduce((a, b) => a + b, 0));

  it('has the fewest irregular points that the lengths of its sides allow', () => {
    const rng = seededRng(5);
    const seeded = [5, 6].flatMap((n) => Array.from({ length: SWEEP || 40 }, (_, i) => Array.from({ length: n }, () => 1 + Math.floor(rng() * (i % 3 ? 12 : 40))))); // prettier-ignore
    const small = [...allLengths(3, 12), ...allLengths(4, SWEEP > 0 ? 12 : 6), ...allLengths(5, 4), ...allLengths(6, 3)]; // prettier-ignore
    // one side as long as all others together, two poles of five in one quad, and in one line far apart
    const rare = [[6, 1, 2, 1, 2], [9, 3, 1, 1, 2, 2], [2, 3, 3, 4, 2, 4], [2, 39, 25, 35, 35, 8]]; // prettier-ignore
    for (const lengths of [...small, ...seeded, ...rare]) {
      const total = lengths.reduce((a, b) => a + b);
      // two sides of one edge each leave no room for a star at their corner
      if (total % 2 === 1 || total - Math.max(...lengths) < 3) continue;
      const sides = sidesOf(total, cornersOf(lengths));
      const [first] = fillPlans(sides, () => Math.max(1, total / 8), true).sort((a, b) => a.irregular - b.irregular);
      expect(first.irregular, lengths.join()).toBe(fewest(lengths));
      const patch = new Patch(total);
      first.build(patch);
      expect(irregularity(patch, cornersOf(lengths)), lengths.join()).toBe(first.irregular);
    }
  });

  it('has no pole where a grid fits, one where three or five sides meet, and a pair where sides differ', () => {
    expect(check([4, 7, 4, 7], 0)).toBe(0);
    expect(check([4, 5, 3], 0)).toBe(1);
    expect(check([4, 4, 4, 4, 4], 0)).toBe(1);
    expect(check([6, 4, 4, 4], 0)).toBe(2);
    expect(check([3, 3, 3, 3, 3, 3], 0)).toBe(2);
    expect(spokesFor([4, 5, 3])).toEqual([2, 1, 3]);
    expect(spokesFor([9, 2, 3])).toBeNull();
  });

  it('offers several ways, slides poles along, and has none for an odd border', () => {
    const { border, corners } = borderOf([8, 5, 6, 5], 0);
    const ways = fillBorder(border, corners, null, 6);
    expect(ways.length).toBeGreaterThan(2);
    expect(new Set(ways.map(({ quads }) => JSON.stringify(quads))).size).toBe(ways.length);
    const slides = ways[0].plan.slid;
    expect(slides?.(1)).toBeDefined();
    const odd = borderOf([3, 4, 5, 5], 0);
    expect(fillBorder(odd.border, odd.corners, null)).toEqual([]);
  });

  it('may give up what is hopeless: what it gives is placed to the end all the same', () => {
    const rng = seededRng(7);
    let [good, soonGood, hopeless] = [0, 0, 0];
    const rounds = 40;
    for (let i = 0; i < rounds; i++) {
      const lengths = Array.from({ length: 4 }, () => 2 + Math.floor(rng() * 6));
      if (lengths.reduce((a, b) => a + b) % 2 === 1) lengths[0]++;
      const { border: even, corners } = borderOf(lengths, 0.3);
      // the more uneven a border is the fewer ways there are to fill it well
      const uneven = (x: number): number => x + (i / rounds) * 8 * (rng() - 0.5);
      const border = even.map(([x, y, z]): Vec3 => [uneven(x), uneven(y), uneven(z)]);
      const [to, soon] = [false, true].map((mayGiveUp) => fillBorder(border, corners, null, 1, { mayGiveUp }));
      expect([to.length, soon.length]).toEqual([1, 1]);
      expect(soon[0]).toEqual(filled(border, soon[0].plan, null));
      if (to[0].least > 0.2) good++;
      if (soon[0].least > 0.2) soonGood++;
      const [given] = fillBorder(border, corners, null, 1, { mayGiveUp: true, fewest: soon[0].plan.irregular });
      expect(given?.isGivenUp ?? false).toBe(false);
      const plans = fillPlans(sidesOf(border.length, corners), () => 1).slice(0, 4);
      hopeless += plans.filter((plan) => filled(border, plan, null, true).isGivenUp).length;
    }
    // of borders that have a good way hardly any is left without one
    expect(good).toBeGreaterThan(rounds / 2);
    expect(soonGood).toBeGreaterThan(0.75 * good);
    expect(hopeless).toBeGreaterThan(rounds / 2);
  });
});
