import type { AsideWork } from './Aside';
import type { Piece } from './gridQuads';
import { goesByBest, type Try } from './tries';

/** Begins work on ways of one part, by their numbers, in the order in which they are taken. */
export type StartWays = (ways: readonly number[]) => AsideWork;

/** The way during which another processor begins: most forms need no more than the first. */
const FROM = 1;

/** What is done here while a way is under way there. */
interface Meanwhile {
  /** whether this way, which comes later, will be come to as far as can be told */
  isWanted: (way: number) => boolean;
  /** tries it here */
  go: (way: number) => Piece | null;
  /** there is nothing to do but wait */
  wait: () => void;
}

/** Ways of a part that another processor tries while this one tries others. Those that go by the best before them are for this one alone, when they are come to. */
export class OtherWays {
  private readonly ways: readonly number[];
  private readonly ahead = new Map<number, Piece | null>();
  private work: AsideWork | null = null;

  constructor(
    tries: readonly Try[],
    private readonly start: StartWays,
  ) {
    this.ways = [...tries.keys()].filter((i) => i > FROM && !goesByBest(tries[i]));
  }

  /** What came already of a way that is come to, or comes of it there, null where that is nothing sound; undefined where the way is to be gone here. */
  answer(way: number, { isWanted, go, wait }: Meanwhile): Piece | null | undefined {
    const { ahead, ways } = this;
    if (way === FROM) this.work = this.start(ways);
    if (ahead.has(way)) return ahead.get(way);
    const { work } = this;
    const i = ways.indexOf(way);
    if (!work || i === -1 || work.claim(i)) return undefined;
    while (!work.isDone(i)) {
      const next = ways.find((later, k) => k > i && isWanted(later) && work.claim(k));
      if (next === undefined) break;
      ahead.set(next, go(next));
    }
    wait();
    const made = work.answer(i);
    return made && (made.pieces[0] ?? null);
  }

  /** No way is come to any more. */
  stop(): void {
    this.work?.stop();
  }
}
