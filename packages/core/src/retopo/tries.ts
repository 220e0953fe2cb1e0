import { SOUND } from './finish';
import { USUAL_WAY, type Piece, type Way } from './gridQuads';
import { WHOLE } from './limbs/bare';
import { countMissed, mayBeOff } from './options';
import type { Ready } from './Prepared';
import { roundsOf } from './quads/spirals';

/** A way to lay a piece, with so many times as many quads as were asked for. */
export interface Try extends Way {
  finer: number;
}

/**
 * Tries of a part: with few poles, as is enough for most forms; with more of them, and closer to the form, where quads left much of it bare, both with no loops held to ridges; the best of these again without rings that close, where handles or the count
 * are off with them; along the form less than asked for; then with more quads, for forms whose limbs and handles are too fine for as many as were asked for.
 */
const TRIES: readonly Try[] = [
  { ...USUAL_WAY, finer: 1 },
  { ...USUAL_WAY, near: 2.5, follow: 1, ridges: false, finer: 1 },
  { ...USUAL_WAY, near: 3.5, follow: 3, ridges: false, finer: 1 },
  { ...USUAL_WAY, closes: false, finer: 1 },
  { ...USUAL_WAY, near: 4, follow: 0.3, finer: 1 },
  { near: 3, follow: 0.5, finer: 1.3, evenness: 0.5, closes: true, ridges: true },
  { near: 3, follow: 0.5, finer: 1.8, evenness: 0.5, closes: true, ridges: true },
];
/** With more handles than this each try takes long, and other ways with the same count differ little: more quads are tried sooner. */
const MANY_HANDLES = 12;
const TRIES_OF_MANY_HANDLES = TRIES.filter(({ near, closes }) => near !== 2.5 && near !== 4 && closes);

const handlesOf = ({ topology: { euler, borders } }: Ready): number => (2 - borders - euler) / 2;

/** In the order in which they are made. */
export function triesOf(ready: Ready): readonly Try[] {
  return handlesOf(ready) > MANY_HANDLES ? TRIES_OF_MANY_HANDLES : TRIES;
}

/** Whether a try goes by the best one before it, and by no way of its own. */
export const goesByBest = ({ closes }: Try): boolean => !closes;

/** So many are compared where what is sound already has all that it should; one more where only its count is off. */
const COMPARED = 3;
/** No finer tries beyond so many quads. */
const FINEST = 6000;

/** Whether a try, the one of this number, may make a piece any better; where it does not, none after it does. */
export function isWorthwhile({ finer }: Try, i: number, best: Piece | null, target: number): boolean {
  const compared = COMPARED + (best && countOff(best, target) > 0 ? 1 : 0);
  if (best && !lacks(best) && i >= compared) return false;
  // more quads than asked for are for limbs, handles and room to pass each other, not for lines
  return finer === 1 || (finer * target <= FINEST && !(best && isWhole(best)));
}

/** How many handles a try may lack: what lacks more than the best will not be taken; with more quads than asked for, neither what lacks as many. */
export const mostLost = ({ finer }: Try, best: Piece | null): number =>
  best ? best.verdict.handlesLost - (finer > 1 && best.crossing === 0 ? 1 : 0) : Infinity;

/** Each quad that runs through others counts so many times as much as a line, and more than ten as much as a handle: that is small, they are a knot. */
const CROSSING = 10;

/** What quads that are sound do not have of the form, and of what was drawn on it, or where they run through each other. */
const missing = ({ verdict, lost, crossing }: Piece): number =>
  100 * verdict.handlesLost + lost.drawn + CROSSING * crossing;

/** Whether a handle or a drawn line is missing, or quads run through each other: others are tried for that as long as there are any. */
export const lacks = (piece: Piece): boolean => missing(piece) > 0;

/** Sound, and apart from itself. */
const isWhole = ({ verdict, crossing }: Piece): boolean => verdict.reasons.length === 0 && crossing === 0;

/** Sound, but for handles that may be too small for its quads. */
export const isSound = ({ verdict }: Piece): boolean => verdict.reasons.length === 0 || verdict.handlesLost > 0;

/** With less of the form bare than this, quads are good enough. */
const COVERED = 0.015;
/** With a count so much further off than may be another try is compared. */
const OFF = 0.01;
/** With more quads than this a limb that is so many of their lengths short would not be, if they were as long as with so few. */
const MANY = 2500;

/** Nothing another try would make better by much; with more quads than asked for there is none. */
export function isGood(piece: Piece, target: number, finer: number): boolean {
  if (lacks(piece)) return false;
  if (finer > 1) return true;
  const turning = spiralling(piece);
  const square = target < FEW ? FAIRLY_SQUARE : SQUARE;
  const isStraight =
    target > SMALL ? turning < NEARLY_STRAIGHT : turning < STRAIGHT && piece.verdict.quality.mean > square;
  return (
    piece.bare < COVERED &&
    piece.short < WHOLE * Math.max(1, target / MANY) &&
    countOff(piece, target) < OFF &&
    isStraight
  );
}

/** So few quads are soon laid: each try is finished, and what came of it compared. */
const SMALL = 700;
export const isSmall = ({ target }: Ready): boolean => target <= SMALL;
/** Corners on the mean, and a share of the ways across quads that spiral round limbs, that no other try is made for; with many quads, which take longer, only the latter, and a greater one. */
const SQUARE = 0.97;
const STRAIGHT = 0.005;
const NEARLY_STRAIGHT = 0.03;
/** Of fewer quads than this most corners are beside poles: that square on the mean is enough. */
const FEW = 60;
const FAIRLY_SQUARE = 0.93;

/** By what share of the count more or fewer quads than wanted came out, beyond what may be: of many, which are not finished yet, a few too many go by rows. */
function countOff({ soup }: Pick<Piece, 'soup'>, target: number): number {
  const count = soup.quads.length / 4;
  return target > SMALL ? Math.max(0, Math.abs(count / target - 1) - mayBeOff(target)) : countMissed(count, target);
}

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
/** A quad over no form, however many quads there are. */
const ASTRAY = 0.03;

/** Fewer handles and lines missing, or crossings; with as many, less of the form bare, where that does not cost as much in poles, spirals or the count. */
export function isBetter(a: Piece, b: Piece, target: number): boolean {
  if (missing(a) !== missing(b)) return missing(a) < missing(b);
  const price = ({ bare, short, away, astray, ...piece }: Piece): number =>
    LIMBS * bare +
    TIPS * short +
    AWAY * away +
    ASTRAY * astray +
    piece.verdict.irregular / Math.max(1, piece.verdict.interior) +
    COUNTS * countOff(piece, target) +
    SPIRALS * spiralling(piece) +
    CORNERS * (1 - piece.verdict.quality.mean) +
    LEAST * Math.max(0, SOUND - piece.verdict.quality.least);
  return price(a) < price(b);
}
