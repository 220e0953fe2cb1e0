import { TopologyError } from '../errors';
import type { SculptSurface } from '../surface';
import { barenessOf, WHOLE } from './bare';
import { finished, SOUND } from './finish';
import { gridQuads, USUAL_WAY, type Piece, type Way } from './gridQuads';
import { drawnApart } from './drawnApart';
import { COUNT_OFF, type Asked } from './options';
import { pairedQuads } from './paired';
import { areaIn, Prepared, type Ready } from './Prepared';
import { facingOf, relaxedSafely } from './relax';
import { squared } from './settled';
import { roundsOf } from './spirals';
import type { Stages } from './Stages';
import type { Task } from './Task';
import type { TriMesh } from './TriMesh';
import { unfold } from './unfold';
import { linesLost } from './linesLost';
import { verified } from './verify';
import { evenTriangles } from './working';

/**
 * Tries of a part: with few poles, as is enough for most forms; with more of them, and closer to the form, where quads left much of it bare, both with no loops held to ridges; the best of these again without rings that close, where handles or the count
 * are off with them; along the form less than asked for; then with more quads, for forms whose limbs and handles are too fine for as many as were asked for.
 */
const TRIES: readonly (Way & { finer: number })[] = [
  { ...USUAL_WAY, finer: 1 },
  { ...USUAL_WAY, near: 2.5, follow: 1, ridges: false, finer: 1 },
  { ...USUAL_WAY, near: 3.5, follow: 3, ridges: false, finer: 1 },
  { ...USUAL_WAY, closes: false, finer: 1 },
  { ...USUAL_WAY, near: 4, follow: 0.3, finer: 1 },
  { near: 3, follow: 0.5, finer: 1.3, evenness: 0.5, closes: true, ridges: true },
  { near: 3, follow: 0.5, finer: 1.8, evenness: 0.5, closes: true, ridges: true },
];
/** So many are compared where what is sound already has all that it should; one more where only its count is off. */
const COMPARED = 3;
/** With more handles than this each try takes long, and other ways with the same count differ little: more quads are tried sooner. */
const MANY_HANDLES = 12;
const TRIES_OF_MANY_HANDLES = TRIES.filter(({ near, closes }) => near !== 2.5 && near !== 4 && closes);
/** With a count so much further off than may be another try is compared. */
const OFF = 0.01;
/** With less of the form bare than this, quads are good enough. */
const COVERED = 0.015;
/** Pairs are tried with so many times as many quads as were asked for. */
const FINER_PAIRS = [1, 2, 4];
/** With more quads than this a limb that is so many of their lengths short would not be, if they were as long as with so few. */
const MANY = 2500;
/** No finer tries beyond so many quads. */
const FINEST = 6000;

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

/** One connected part of the input on its way to quads. */
export class Part {
  readonly mended: string[];
  private readonly prepared: Prepared;
  private readonly made: (Piece | null)[];

  constructor(
    mesh: TriMesh,
    readonly target: number,
    private readonly options: Asked,
    private readonly stages: Stages,
    /** an outer shell is tried so often only, and its handles may go */
    private readonly shellTries = 0,
  ) {
    this.prepared = new Prepared(mesh, target, options, stages);
    this.mended = this.prepared.mended;
    this.made = this.prepared.ready.map((piece) => {
      const best = this.tryGrid(piece);
      if (!best) return null;
      return isSmall(piece) ? best.piece : this.finished(best.piece, best.task, piece, FINISH);
    });
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

  /** The best of some tries, each finished where there are few quads, and what it was made of; null where none is sound. */
  private tryGrid(ready: Ready): { piece: Piece; task: Task } | null {
    let best: { piece: Piece; task: Task; way: Way } | null = null;
    let task: Task | null = null;
    const { euler, borders } = ready.topology;
    const all = 2 - borders - euler > 2 * MANY_HANDLES ? TRIES_OF_MANY_HANDLES : TRIES;
    const tries = this.shellTries > 0 ? all.slice(0, this.shellTries) : all;
    for (const [i, { finer, ...own }] of tries.entries()) {
      const compared = COMPARED + (best && countOff(best.piece, ready.target) > 0 ? 1 : 0);
      if (best && missing(best.piece) === 0 && i >= compared) break;
      // more quads than asked for are for limbs, handles and room to pass each other, not for lines
      if (finer > 1 && (finer * ready.target > FINEST || (best && isWhole(best.piece)))) break;
      this.stages.stretch = stretchOf(i, ready);
      this.stages.way = i;
      if (!task || task.target !== finer * ready.target) task = this.prepared.taskOf(ready, finer);
      const way: Way = own.closes ? own : { ...(best?.way ?? own), closes: false };
      // what lacks more handles than the best will not be taken; with more quads than asked for, neither what lacks as many
      const most = best ? best.piece.verdict.handlesLost - (finer > 1 && best.piece.crossing === 0 ? 1 : 0) : Infinity;
      const raw = gridQuads(task, way, this.options, this.stages, most);
      const isSound = raw && (raw.verdict.reasons.length === 0 || raw.verdict.handlesLost > 0);
      const piece = isSound && isSmall(ready) ? this.finished(raw, task, ready, lastOf(stretchOf(i, ready))) : raw;
      if (piece && isSound && (!best || isBetter(piece, best.piece, ready.target))) best = { piece, task, way };
      if (best && (this.shellTries > 0 || isGood(best.piece, ready.target, finer))) break;
    }
    this.stages.way = 0;
    return best;
  }

  private finished(piece: Piece, task: Task, { target }: Ready, stretch: [number, number]): Piece {
    this.stages.stretch = stretch;
    return finished(piece, task, target, this.stages);
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
    const { soup, crossing } = drawnApart(paired, size, this.options.plane);
    unfold(soup, this.options.plane);
    const verdict = verified(soup, topology, []);
    if (verdict.reasons.length > 0)
      throw new TopologyError('NO_WAY', `No sound quads were found for a part of this surface: ${verdict.reasons.join('; ')}. Ask for more faces, or mend the surface there.`); // prettier-ignore
    return {
      soup,
      verdict,
      route: 'paired',
      lost: linesLost(soup, curves, size),
      ...barenessOf(soup, { samples, size }),
      crossing: crossing.length,
      tips: new Set(),
    };
  }
}

/** Each quad that runs through others counts so many times as much as a line, and more than ten as much as a handle: that is small, they are a knot. */
const CROSSING = 10;

/** What quads that are sound do not have of the form, and of what was drawn on it, or where they run through each other. */
const missing = ({ verdict, lost, crossing }: Piece): number =>
  100 * verdict.handlesLost + lost.drawn + CROSSING * crossing;

/** Sound, and apart from itself. */
const isWhole = ({ verdict, crossing }: Piece): boolean => verdict.reasons.length === 0 && crossing === 0;

/** Nothing another try would make better by much; with more quads than asked for there is none. */
function isGood(piece: Piece, target: number, finer: number): boolean {
  if (missing(piece) > 0) return false;
  if (finer > 1) return true;
  const turning = spiralling(piece);
  const isStraight =
    target > SMALL ? turning < NEARLY_STRAIGHT : turning < STRAIGHT && piece.verdict.quality.mean > SQUARE;
  return (
    piece.bare < COVERED &&
    piece.short < WHOLE * Math.max(1, target / MANY) &&
    countOff(piece, target) < OFF &&
    isStraight
  );
}

/** So few quads are soon laid: each try is finished, and what came of it compared. */
const SMALL = 700;
const isSmall = ({ target }: Ready): boolean => target <= SMALL;
/** Corners on the mean, and a share of the ways across quads that spiral round limbs, that no other try is made for; with many quads, which take longer, only the latter, and a greater one. */
const SQUARE = 0.97;
const STRAIGHT = 0.005;
const NEARLY_STRAIGHT = 0.03;

/** By what share of the count more or fewer quads than wanted came out, beyond what may be. */
const countOff = ({ soup }: Pick<Piece, 'soup'>, target: number): number => Math.max(0, Math.abs(soup.quads.length / 4 / target - 1) - COUNT_OFF); // prettier-ignore

/** A share of the form without quads costs so many times as much as one of poles; and one that a limb lacks. */
const LIMBS = 4;
const TIPS = 20;
/** A share of the count too many or too few costs so many times as much as one of poles: that many faces were asked for. */
const COUNTS = 3;
/** A share of the ways across quads that spiral round limbs where rings belong, as much as so many times one of poles. */
const SPIRALS = 0.6;

const spiralling = ({ soup }: Pick<Piece, 'soup'>): number =>
  roundsOf(soup).spiral / Math.max(1, soup.quads.length / 2);
/** What corners lack of square on the mean, what the least lacks of being sound, and how far places are away, as much as so many times a share of poles. */
const CORNERS = 1;
const LEAST = 1;
const AWAY = 1;

/** Fewer handles and lines missing, or crossings; with as many, less of the form bare, where that does not cost as much in poles, spirals or the count. */
function isBetter(a: Piece, b: Piece, target: number): boolean {
  if (missing(a) !== missing(b)) return missing(a) < missing(b);
  const price = ({ bare, short, away, ...piece }: Piece): number =>
    LIMBS * bare +
    TIPS * short +
    AWAY * away +
    piece.verdict.irregular / Math.max(1, piece.verdict.interior) +
    COUNTS * countOff(piece, target) +
    SPIRALS * spiralling(piece) +
    CORNERS * (1 - piece.verdict.quality.mean) +
    LEAST * Math.max(0, SOUND - piece.verdict.quality.least);
  return price(a) < price(b);
}
