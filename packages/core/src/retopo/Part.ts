import { TopologyError } from '../errors';
import type { SculptSurface } from '../surface';
import { finished } from './finish';
import { drawnApart } from './fit/drawnApart';
import { facingOf } from './fit/facing';
import { relaxedSafely } from './fit/relax';
import { unfold } from './fit/unfold';
import type { TriMesh } from './form/TriMesh';
import { gridQuads, type Piece } from './gridQuads';
import { barenessOf } from './limbs/bare';
import { squared } from './mend/settled';
import type { Asked } from './options';
import { OtherWays, type StartWays } from './OtherWays';
import { pairedQuads } from './paired';
import { areaIn, Prepared, type Ready } from './Prepared';
import { FormCrossings } from './quads/FormCrossings';
import { linesLost } from './quads/linesLost';
import type { Task } from './quads/Task';
import { verified } from './quads/verify';
import type { Stages } from './Stages';
import {
  goesByBest,
  isBetter,
  isGood,
  isSmall,
  isSound,
  isWorthwhile,
  lacks,
  mostLost,
  triesOf,
  type Try,
} from './tries';
import { evenTriangles } from './working';

/** Pairs are tried with so many times as many quads as were asked for. */
const FINER_PAIRS = [1, 2, 4];
/** Where tries begin in a part's way and where what is kept is finished, which few quads are at once; each try has this share of what the one before it left. */
const TRYING = { from: 0.2, to: 0.68, each: 0.6 };
const FINISH: [number, number] = [TRYING.to, 1 - TRYING.to];
/** Where it is finished at once, that takes the last part of a try. */
const FINISHED = 0.35;
const stretchOf = (i: number, ready: Ready): [number, number] => {
  const to = isSmall(ready) ? 1 : TRYING.to;
  const left = (to - TRYING.from) * (1 - TRYING.each) ** i;
  return [to - left, TRYING.each * left];
};
const lastOf = ([from, long]: [number, number]): [number, number] => [from + (1 - FINISHED) * long, FINISHED * long];

/** The best so far, and the way it was made. */
interface Tried {
  piece: Piece;
  way: Try;
}

/** Of a part's pieces, which come the largest first. */
const LARGEST = 0;

/** One connected part of the input on its way to quads. Making it readies it for them; `lay` lays them. */
export class Part {
  readonly mended: string[];
  private readonly prepared: Prepared;
  private readonly made: (Piece | null)[] = [];
  /** the latest, and of which piece it is: most tries share one */
  private task: { of: Ready; finer: number; task: Task } | null = null;

  constructor(
    mesh: TriMesh,
    readonly target: number,
    private readonly options: Asked,
    private readonly stages: Stages,
    /** an outer shell is tried so often only, and its handles may go */
    private readonly shellTries?: number,
  ) {
    this.prepared = new Prepared(mesh, target, options, stages);
    this.mended = this.prepared.mended;
  }

  /** Lays every piece by the best of some tries, if one is sound. Cost: that of the tries. */
  lay(start: StartWays | null = null): this {
    for (const [j, ready] of this.prepared.ready.entries()) {
      const best = this.bestTry(ready, j === LARGEST ? start : null);
      this.made[j] = best && (isSmall(ready) ? best.piece : this.finished(best.piece, ready, best.way.finer, FINISH));
    }
    return this;
  }

  /** Whether every piece has quads that lack small handles at most. */
  get isLaid(): boolean {
    return this.made.every((piece) => piece !== null);
  }
  /** Whether its borders lie in the mirror plane alone. */
  get isClosed(): boolean {
    return this.prepared.isClosed;
  }
  /** The part as it came, for its outer shell. */
  get surface(): SculptSurface {
    return this.prepared.surface;
  }
  /** The quads of every piece; pairs where there are none yet. Throws NO_WAY where even pairs do not come out. */
  pieces(): Piece[] {
    return this.prepared.ready.map((piece, i) => (this.made[i] ??= this.byPairs(piece)));
  }

  /** The largest piece by the way of this number; null where that leads to nothing sound. Cost: that of the way. */
  byWay(i: number): Piece | null {
    const ready = this.prepared.ready[LARGEST];
    return this.tried(ready, triesOf(ready)[i], i, Infinity);
  }

  /** The best of some tries, each finished where there are few quads; null where none is sound. */
  private bestTry(ready: Ready, start: StartWays | null): Tried | null {
    const { target } = ready;
    const tries = triesOf(ready).slice(0, this.shellTries);
    const others = start && new OtherWays(tries, start);
    let best: Tried | null = null;
    try {
      for (const [i, one] of tries.entries()) {
        const known: Piece | null = best && best.piece;
        if (!isWorthwhile(one, i, known, target)) break;
        const { finer } = one;
        const most = mostLost(one, known);
        const way: Try = goesByBest(one) && best ? { ...best.way, closes: false, finer } : one;
        const other: Piece | null | undefined = others?.answer(i, {
          isWanted: (k) => (!known || lacks(known)) && isWorthwhile(tries[k], k, known, target),
          go: (k) => this.tried(ready, tries[k], k, mostLost(tries[k], known)),
          wait: () => this.stages.begin('Other ways', 0),
        });
        const piece: Piece | null = other === undefined ? this.tried(ready, way, i, most) : other;
        const isLess = piece !== null && piece.verdict.handlesLost <= most;
        if (isLess && (!best || isBetter(piece, best.piece, target))) best = { piece, way };
        if (best && (this.shellTries !== undefined || isGood(best.piece, target, finer))) break;
      }
    } finally {
      others?.stop();
    }
    this.stages.way = 0;
    return best;
  }

  /** One try, the one of this number, finished where there are few quads; null where it is not sound. */
  private tried(ready: Ready, way: Try, i: number, most: number): Piece | null {
    const { finer } = way;
    this.stages.stretch = stretchOf(i, ready);
    this.stages.way = i;
    const raw = gridQuads(this.taskOf(ready, finer), way, this.options, this.stages, most);
    const sound = raw && isSound(raw) ? raw : null;
    return sound && isSmall(ready) ? this.finished(sound, ready, finer, lastOf(stretchOf(i, ready))) : sound;
  }

  private finished(piece: Piece, ready: Ready, finer: number, stretch: [number, number]): Piece {
    this.stages.stretch = stretch;
    return finished(piece, this.taskOf(ready, finer), ready.target, this.stages);
  }

  private taskOf(of: Ready, finer: number): Task {
    if (this.task?.of !== of || this.task.finer !== finer) this.task = { of, finer, task: this.prepared.taskOf(of, finer) }; // prettier-ignore
    return this.task.task;
  }

  /** Quads that are sound by their making; relaxing keeps them so. Finer ones where the others run through each other. */
  private byPairs(piece: Ready): Piece {
    let best: Piece | null = null;
    for (const finer of FINER_PAIRS) {
      const made = this.pairedAt(piece, finer * piece.target);
      if (!best || made.crossing < best.crossing) best = made;
      if (best.crossing === 0) break;
    }
    return best as Piece;
  }

  private pairedAt({ reduced, corners, topology, samples }: Ready, target: number): Piece {
    const { curves, surface } = this.prepared;
    this.stages.stretch = FINISH;
    this.stages.begin('Pairing', 0);
    const size = Math.sqrt(areaIn(reduced) / target);
    // a triangle becomes three quads, a pair of them four: some 2.2 a triangle
    const length = Math.sqrt(2.2 / 0.433) * size;
    const coarse = reduced.compact().mesh;
    const lengths = new Float64Array(coarse.vertices).fill(length);
    const kept = evenTriangles(coarse, corners, curves, surface, lengths, this.options.plane);
    const { mesh, was } = coarse.compact();
    const paired = pairedQuads(
      mesh,
      Uint8Array.from(was, (v) => kept[v]),
    );
    relaxedSafely(paired, curves, surface, 20, facingOf(paired));
    // a form that is doubled or turned over tells no side
    squared(paired, { curves, surface, forms: [] }, new Set());
    const { soup, crossing } = drawnApart(
      paired,
      size,
      this.options.plane,
      new FormCrossings(() => surface, size).crossingElsewhere,
    );
    unfold(soup, this.options.plane);
    const verdict = verified(soup, topology, []);
    if (verdict.reasons.length > 0)
      throw new TopologyError('NO_WAY', `No sound quads were found for a part of this surface: ${verdict.reasons.join('; ')}. Ask for more faces, or mend the surface there.`); // prettier-ignore
    return {
      soup,
      verdict,
      route: 'paired',
      lost: linesLost(soup, curves, size),
      ...barenessOf(soup, { samples, size }, surface),
      crossing: crossing.length,
      tips: new Set(),
    };
  }
}
