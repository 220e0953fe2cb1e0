import { LEAST_ROUND } from '../quads/slender';
import type { PolePair } from './polePairs';
import { valueAt, type Ring } from './rings';
import type { Walk, WholeNumbers } from './wholeNumbers';

/** No more steps are taken than so many for each ring and each pair of poles. */
const STEPS = 4;

/** Along one vector of the basis or two, each one way. */
export type Along = readonly { vector: number; way: number }[];

/** What thin limbs lack: how many quads go round each ring, and how far apart each pair of poles is, along one axis and along the other. */
export interface Thin {
  rounds: Int32Array;
  re: Int32Array;
  im: Int32Array;
}

/**
 * Whole numbers under which enough quads go round every limb, and the corners of its cap are apart. Those nearest to the girth of a limb that is two or three quads' lengths round are two, and the map then lays its sides onto each
 * other: there is no inside that quads could enclose. With four they come out longer than wide, and run all along it.
 */
export class RoomRound {
  /** of each ring, and each pair along either axis, over the whole numbers; and how many more it has for a step along each vector */
  private readonly rows: Readonly<Record<keyof Thin, readonly Int32Array[]>>;
  private readonly by: Readonly<Record<keyof Thin, readonly Int32Array[]>>;

  /** `best` is what the numbers would be if they need not be whole: it tells which way round is forward. */
  constructor(
    private readonly whole: WholeNumbers,
    rings: readonly Ring[],
    pairs: readonly PolePair[],
    best: Float64Array,
  ) {
    const rounds = rings.map(({ round }) => (valueAt(round, best) < 0 ? round.map((x) => -x) : round));
    this.rows = { rounds, re: pairs.map(({ re }) => re), im: pairs.map(({ im }) => im) };
    const alongEach = (rows: readonly Int32Array[]): Int32Array[] =>
      rows.map((row) => Int32Array.from({ length: whole.vectors }, (_, i) => valueAt(row, whole.vector(i))));
    this.by = { rounds: alongEach(rounds), re: alongEach(this.rows.re), im: alongEach(this.rows.im) };
  }

  /** How it is under whole numbers. */
  at(z: Int32Array): Thin {
    const valuesOf = (rows: readonly Int32Array[]): Int32Array => Int32Array.from(rows, (row) => valueAt(row, z));
    return { rounds: valuesOf(this.rows.rounds), re: valuesOf(this.rows.re), im: valuesOf(this.rows.im) };
  }

  /** Whether a step leaves each ring that it makes smaller enough, and puts no poles onto each other. Cost: the rings and pairs. */
  allows({ rounds, re, im }: Thin, along: Along): boolean {
    for (let ring = 0; ring < rounds.length; ring++) {
      const more = moreFor(this.by.rounds[ring], along);
      if (more < 0 && rounds[ring] + more < LEAST_ROUND) return false;
    }
    for (let pair = 0; pair < re.length; pair++) {
      if (re[pair] === 0 && im[pair] === 0) continue;
      if (re[pair] + moreFor(this.by.re[pair], along) === 0 && im[pair] + moreFor(this.by.im[pair], along) === 0) return false; // prettier-ignore
    }
    return true;
  }

  /** Counts a step that was taken. */
  count(thin: Thin, along: Along): void {
    for (const key of ['rounds', 're', 'im'] as const)
      for (let i = 0; i < thin[key].length; i++) thin[key][i] += moreFor(this.by[key][i], along);
  }

  /** Whole numbers from `z` on, at `scale` of the lengths: by the steps that cost least in stretch for what they bring. Cost of each step: for each ring or pair that lacks something, the vectors that it is in times all. */
  from(z: Int32Array, scale: number): Int32Array {
    const thin = this.at(z);
    if (this.isRoomy(thin)) return z;
    const walk = this.whole.walkFrom(z, scale);
    const now = z.slice();
    for (let i = 0; i < STEPS * (thin.rounds.length + thin.re.length) && !this.isRoomy(thin); i++) {
      const along = this.cheapest(thin, walk);
      if (!along) break;
      for (const { vector, way } of along) {
        walk.step(vector, way);
        this.whole.vector(vector).forEach((x, k) => (now[k] += way * x));
      }
      this.count(thin, along);
    }
    return now;
  }

  private isRoomy({ rounds, re, im }: Thin): boolean {
    return rounds.every((n) => n >= LEAST_ROUND) && re.every((x, i) => x !== 0 || im[i] !== 0);
  }

  /** The step that costs least for what it brings to a ring or a pair, of those that may be taken; null where there is none. */
  private cheapest(thin: Thin, walk: Walk): Along | null {
    let best: Along | null = null;
    let least = Infinity;
    for (const lack of this.lacks(thin))
      for (let vector = 0; vector < lack.x.length; vector++) {
        if (lack.x[vector] === 0 && lack.y[vector] === 0) continue;
        for (const way of WAYS)
          for (let second = ALONE; second < lack.x.length; second++) {
            if (second === vector) continue;
            for (const other of second === ALONE ? NO_WAY : WAYS) {
              const price = priceOf(lack, walk, vector, way, second, other);
              if (price >= least) continue;
              const along =
                second === ALONE
                  ? [{ vector, way }]
                  : [
                      { vector, way },
                      { vector: second, way: other },
                    ];
              if (this.allows(thin, along)) [best, least] = [along, price];
            }
          }
      }
    return best;
  }

  /** Rings that too few quads go round, each once, and pairs on one place. */
  private *lacks({ rounds, re, im }: Thin): Generator<Lack> {
    const told = new Set<string>();
    for (const [ring, x] of this.by.rounds.entries()) {
      const lacking = LEAST_ROUND - rounds[ring];
      const key = `${lacking} ${x.join(' ')}`;
      if (lacking <= 0 || told.has(key)) continue;
      told.add(key);
      yield { x, y: x, brings: (more) => Math.min(lacking, more) };
    }
    for (const [pair, x] of this.by.re.entries())
      if (re[pair] === 0 && im[pair] === 0)
        yield { x, y: this.by.im[pair], brings: (more, across) => (more !== 0 || across !== 0 ? 1 : 0) };
  }
}

/** What has too little room: by how much it is further along two rows for a step along each vector, and what that brings. */
interface Lack {
  x: Int32Array;
  y: Int32Array;
  brings: (x: number, y: number) => number;
}

const WAYS = [1, -1];
const NO_WAY = [0];
/** In the place of a second vector where there is none. */
const ALONE = -1;

/** What a step along one vector or two costs in stretch for each thing that it brings; infinite where it brings none. */
function priceOf(
  { x, y, brings }: Lack,
  walk: Walk,
  vector: number,
  way: number,
  second: number,
  other: number,
): number {
  const isAlone = second === ALONE;
  const more = brings(way * x[vector] + (isAlone ? 0 : other * x[second]), way * y[vector] + (isAlone ? 0 : other * y[second])); // prettier-ignore
  if (more <= 0) return Infinity;
  return (walk.change(vector, way) + (isAlone ? 0 : walk.changeAfter(second, other, vector, way))) / more;
}

function moreFor(by: Int32Array, along: Along): number {
  let more = 0;
  for (const { vector, way } of along) more += way * by[vector];
  return more;
}
