import { lengthOf, lengthsOf, spokesFor, type Plan, type Side } from './Patch';
import { pairPlans } from './pairPlans';

/** One cell that needs no cut: a grid, or a star round one pole. Null where the lengths do not allow it. */
function cell(sides: readonly Side[]): Plan | null {
  const lengths = lengthsOf(sides);
  if (lengths.length === 4 && lengths[0] === lengths[2] && lengths[1] === lengths[3])
    return { irregular: 0, words: 'a grid', build: (patch) => patch.grid(sides as [Side, Side, Side, Side]) };
  if (lengths.length < 3 || lengths.length > 6 || lengths.length === 4) return null;
  const spokes = spokesFor(lengths);
  if (!spokes) return null;
  const n = lengths.length;
  return { irregular: n === 6 ? 2 : 1, words: `a pole of ${n}`, build: (patch) => patch.star(sides, spokes) };
}

/** Where two points of the border are, so that a cut between them gets a fitting length. Distances in border edges. */
export type Apart = (a: number, b: number) => number;

interface Cut {
  i: number;
  s: number;
  j: number;
  t: number;
  k: number;
}
/** Cuts tried along a long side are spread over it. */
const PLACES = 14;
const places = (length: number): number[] => {
  const step = Math.max(1, Math.floor((length - 1) / PLACES));
  return Array.from({ length: Math.max(0, Math.ceil((length - 1) / step)) }, (_, n) => 1 + n * step);
};

/** The lengths of both parts that a cut leaves. */
function partLengths(lengths: readonly number[], { i, s, j, t, k }: Cut): [number[], number[]] {
  const between = lengths.slice(i + 1, j);
  const beyond = [...lengths.slice(j + 1), ...lengths.slice(0, i)];
  return [
    [lengths[i] - s, ...between, t, k],
    [lengths[j] - t, ...beyond, s, k],
  ];
}
function parts(sides: readonly Side[], chain: Side, { i, s, j, t }: Cut): [Side[], Side[]] {
  const back = [...chain].reverse();
  const between = sides.slice(i + 1, j);
  const beyond = [...sides.slice(j + 1), ...sides.slice(0, i)];
  return [
    [sides[i].slice(s), ...between, sides[j].slice(0, t + 1), back],
    [sides[j].slice(t), ...beyond, sides[i].slice(0, s + 1), chain],
  ];
}

const SPOKES = Array.from({ length: 7 }, (_, n) => new Array<number>(n));
/** The irregular points of one cell with sides of these lengths; null where it needs a cut. */
const isCell = (lengths: readonly number[]): number | null => {
  const n = lengths.length;
  if (n === 4) return lengths[0] === lengths[2] && lengths[1] === lengths[3] ? 0 : null;
  if (n < 3 || n > 6) return null;
  return spokesFor(lengths, SPOKES[n]) ? (n === 6 ? 2 : 1) : null;
};

/** The best cuts into two cells, one for each number of irregular points and each pair of kinds. */
function cutPlans(sides: readonly Side[], apart: Apart): Plan[] {
  const lengths = lengthsOf(sides);
  const best: Tried[][] = [];
  for (let i = 0; i < sides.length; i++)
    for (let j = i + 1; j < sides.length; j++) {
      const along: Tried[] = [];
      for (const s of places(lengths[i])) {
        let known: Tried | null = null;
        for (const t of places(lengths[j]))
          known = bestLength(lengths, { i, s, j, t }, apart(sides[i][s], sides[j][t]), known);
        if (known) along.push(known);
      }
      if (along.length > 0) best.push(along);
    }
  return best
    .map((along) => ({ along, first: along.reduce((a, b) => (b.off < a.off ? b : a)) }))
    .sort((a, b) => a.first.irregular - b.first.irregular || a.first.off - b.first.off)
    .map(({ along, first }) => cutPlan(sides, along, first));
}

/**
 * The length of a cut between two points that leaves two cells, the most even one if that is better than what is known: a cut about as long
 * as it is far, and no cell much smaller than the other. Lengths are tried from the distance outwards, until none can be better.
 */
function bestLength(lengths: readonly number[], at: Omit<Cut, 'k'>, far: number, known: Tried | null): Tried | null {
  const [a, b] = partLengths(lengths, { ...at, k: 0 });
  if (isNeverCell(a) || isNeverCell(b)) return known;
  const all = lengths.reduce((sum, l) => sum + l, 0);
  // both parts are even, as every cell is
  const parity = a.reduce((sum, l) => sum + l, 0) % 2;
  const most = Math.ceil(all / 2) - 1;
  const start = Math.max(1, Math.min(most, Math.round(far)));
  for (const by of [1, -1])
    for (let k = by > 0 ? start : start - 1; k >= 1 && k <= most; k += by) {
      const stretch = Math.abs(Math.log(k / far));
      if (known && stretch >= known.off && (k - far) * by >= 0) break;
      if (k % 2 !== parity) continue;
      a[a.length - 1] = b[b.length - 1] = k;
      const ca = isCell(a);
      const cb = ca === null ? null : isCell(b);
      if (ca === null || cb === null || ca + cb === 0) continue;
      const off = stretch + 0.15 * spread(a) + 0.15 * spread(b);
      if (!known || off < known.off) known = { cut: { ...at, k }, off, irregular: ca + cb };
    }
  return known;
}
/** Whether no length of the last side makes these one cell. */
const isNeverCell = (l: readonly number[]): boolean => l.length > 6 || (l.length === 4 && l[0] !== l[2]);

interface Tried {
  cut: Cut;
  off: number;
  irregular: number;
}
/** A cut as a plan; slid, it is another one of its kind further along. */
function cutPlan(sides: readonly Side[], along: readonly Tried[], { cut, irregular }: Tried): Plan {
  const at = along.findIndex((t) => t.cut === cut);
  const slid = (share: number): Plan => {
    const room = share < 0 ? at : along.length - 1 - at;
    return cutPlan(sides, along, along[at + Math.round(share * room)]);
  };
  return {
    irregular,
    words: poleWords(lengthsOf(sides), cut),
    build: (patch) => {
      const chain = patch.chain(sides[cut.i][cut.s], sides[cut.j][cut.t], cut.k);
      for (const part of parts(sides, chain, cut)) cell(part)?.build(patch);
    },
    ...(along.length > 1 ? { slid } : {}),
  };
}
const spread = (lengths: readonly number[]): number => Math.log(Math.max(...lengths) / Math.min(...lengths));
function poleWords(lengths: readonly number[], cut: Cut): string {
  const poles = partLengths(lengths, cut).map(({ length }) => length).filter((n) => n !== 4); // prettier-ignore
  return poles.length === 1 ? `a pole of ${poles[0]}` : `poles of ${poles.join(' and ')}`;
}

/**
 * Ways with a pole of three that has a grid towards one corner of the border, and one cell round the rest: what a straight cut cannot give,
 * since poles of three and five that stand diagonally have none between them.
 */
function cornerPlans(sides: readonly Side[]): Plan[] {
  const n = sides.length;
  const lengths = lengthsOf(sides);
  const found: Plan[] = [];
  for (let i = 0; i < n; i++) {
    const j = (i + 1) % n;
    const rest = Array.from({ length: n - 2 }, (_, k) => (j + 1 + k) % n);
    const tried: { s: number; t: number; off: number; irregular: number }[] = [];
    for (const s of places(lengths[i]))
      for (const t of places(lengths[j])) {
        const [up, across] = [lengths[i] - s, t];
        const around = [lengths[j] - t, ...rest.map((k) => lengths[k]), s, across + up];
        const cost = isCell(around);
        if (cost === null) continue;
        // the corner's grid about a quarter of both sides, the rest even
        const off = Math.abs(Math.log(up / (lengths[i] * 0.4))) + Math.abs(Math.log(across / (lengths[j] * 0.4))) + 0.15 * spread(around); // prettier-ignore
        tried.push({ s, t, off, irregular: cost + 1 });
      }
    if (tried.length === 0) continue;
    const first = tried.reduce((a, b) => (b.off < a.off ? b : a));
    const along = tried.filter(({ t }) => t === first.t).sort((a, b) => a.s - b.s);
    found.push(cornerPlan(sides, i, rest, along, first));
  }
  return found.sort((a, b) => a.irregular - b.irregular);
}

function cornerPlan(
  sides: readonly Side[],
  i: number,
  rest: readonly number[],
  along: readonly { s: number; t: number; irregular: number }[],
  now: { s: number; t: number; irregular: number },
): Plan {
  const j = (i + 1) % sides.length;
  const at = along.findIndex(({ s }) => s === now.s);
  const slid = (share: number): Plan =>
    cornerPlan(sides, i, rest, along, along[at + Math.round(share * (share < 0 ? at : along.length - 1 - at))]);
  const poles = [3, rest.length + 3].filter((n) => n !== 4);
  return {
    irregular: now.irregular,
    words: poles.length === 1 ? 'a pole of 3 by a corner' : `poles of ${poles.join(' and ')}, by a corner`,
    build: (patch) => {
      const { s, t } = now;
      const pole = patch.point();
      const [up, across] = [lengthOf(sides[i]) - s, t];
      // from side i to the pole as long as the grid is along side j, and on to side j as long as it is along side i
      const first = patch.chain(sides[i][s], pole, across),
        second = patch.chain(pole, sides[j][t], up);
      const whole = [...first, ...second.slice(1)];
      patch.grid([sides[i].slice(s), sides[j].slice(0, t + 1), [...second].reverse(), [...first].reverse()]);
      cell([sides[j].slice(t), ...rest.map((k) => sides[k]), sides[i].slice(0, s + 1), whole])?.build(patch);
    },
    ...(along.length > 1 ? { slid } : {}),
  };
}

/** Sides with some of their corners taken as points of a longer side. */
function merged(sides: readonly Side[], dropped: ReadonlySet<number>): Side[] {
  // corner i is where side i begins
  const kept = sides.map((_, i) => i).filter((i) => !dropped.has(i));
  return kept.map((i) => {
    const side = [...sides[i]];
    for (let k = (i + 1) % sides.length; dropped.has(k) && k !== i; k = (k + 1) % sides.length) side.push(...sides[k].slice(1)); // prettier-ignore
    return side;
  });
}

/** A ring of quads along the whole border, and a grid inside it. Works for every even border. */
function ringPlans(sides: readonly Side[]): Plan[] {
  const loop = sides.flatMap((side) => side.slice(0, -1));
  const half = loop.length / 2;
  const found: Plan[] = [];
  for (let a = 1; a <= half / 2; a++) {
    const b = half - a;
    if (b < 1 || (a > 1 && b / a > 3) || (a === 1 && half > 5)) continue;
    // turned so that the grid's corners lie by corners of the border where they can
    const turns = Math.min(loop.length, a === b ? a : half);
    for (const turn of bestTurns(sides, loop.length, a, b, turns))
      found.push({
        irregular: 4 + sides.length,
        shared: sides.length,
        words: `a ring, and ${a} by ${b} inside`,
        build: (patch) => {
          const inner = loop.map(() => patch.point());
          const n = loop.length;
          for (let i = 0; i < n; i++) patch.quads.push([loop[i], loop[(i + 1) % n], inner[(i + 1) % n], inner[i]]);
          const at = (from: number, edges: number): number[] =>
            Array.from({ length: edges + 1 }, (_, k) => inner[(from + k) % n]);
          patch.grid([at(turn, a), at(turn + a, b), at(turn + a + b, a), at(turn + 2 * a + b, b)]);
        },
      });
  }
  return found;
}

/** The turns, at most two, that bring a grid's corners nearest to the border's. */
function bestTurns(sides: readonly Side[], count: number, a: number, b: number, turns: number): number[] {
  const corners: number[] = [];
  let at = 0;
  for (const side of sides) {
    corners.push(at);
    at += lengthOf(side);
  }
  const off = (turn: number): number => {
    const grid = [turn, turn + a, turn + a + b, turn + 2 * a + b];
    return corners.reduce((sum, c) => sum + Math.min(...grid.map((g) => Math.min((((c - g) % count) + count) % count, (((g - c) % count) + count) % count))), 0); // prettier-ignore
  };
  return Array.from({ length: turns }, (_, t) => t).sort((x, y) => off(x) - off(y)).slice(0, 2); // prettier-ignore
}

/** What ways are put in order by. */
const costOf = ({ irregular, shared = 0 }: Plan): number => irregular + 0.5 * shared;

/** With so many ways found no more corners are shared. */
const ENOUGH = 8;
const bits = (mask: number): number => (mask === 0 ? 0 : (mask & 1) + bits(mask >> 1));
/** More ways than this are not looked at for one set of corners dropped. */
const MOST = 6;

/**
 * Ways to fill a border of two to six sides with quads, those with the fewest irregular points first: one cell, two cells with a cut between
 * them, the same with corners shared by two faces, and a ring with a grid inside, which every even border allows. After Takayama, Panozzo and
 * Sorkine-Hornung 2014, their patterns found by search. `firstOnly` ends the search once nothing better can come. An odd border gives none.
 * Cost: the cuts tried, some thousands.
 */
export function fillPlans(sides: readonly Side[], apart: Apart, firstOnly = false): Plan[] {
  const total = lengthsOf(sides).reduce((a, b) => a + b, 0);
  if (total % 2 !== 0 || total < 4) return [];
  const found: Plan[] = [];
  const n = sides.length;
  const masks = Array.from({ length: 1 << n }, (_, mask) => mask).sort((a, b) => bits(a) - bits(b) || a - b);
  for (const mask of masks) {
    const dropped = new Set(Array.from({ length: n }, (_, i) => i).filter((i) => mask & (1 << i)));
    if (n - dropped.size < 2) continue;
    // corners are shared only where it takes that to find enough ways, or where it may still give a better one
    const isBest = found.some((plan) => costOf(plan) <= 1.5 * dropped.size);
    if (isBest && (firstOnly || (found.length >= ENOUGH && dropped.size > 1))) break;
    const left = merged(sides, dropped);
    const more = dropped.size;
    const one = cell(left);
    const ways = one ? [one] : [...cornerPlans(left), ...cutPlans(left, apart), ...pairPlans(left)].sort((a, b) => a.irregular - b.irregular).slice(0, MOST); // prettier-ignore
    for (const way of ways)
      found.push({ ...way, irregular: way.irregular + more,
        shared: more, words: more > 0 ? `${way.words}, ${more === 1 ? 'a corner' : `${more} corners`} shared` : way.words }); // prettier-ignore
    // what shares more corners than it must is seldom wanted, and never first
    if (mask === 0 && one) break;
  }
  if (!firstOnly || found.length === 0) found.push(...ringPlans(sides));
  return found.sort((a, b) => costOf(a) - costOf(b));
}
