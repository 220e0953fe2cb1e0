import { distance, lerp, type Vec3 } from '../../math';
import { WalkingForm, type SculptSurface } from '../../surface';
import { onCurve, type Curve } from '../lines/lines';
import { QuadCheck } from '../quads/QuadCheck';
import { surfaceOfQuads, type QuadSoup } from '../quads/QuadSoup';
import { aroundOf, relaxed, relaxedSafely } from './relax';
import { squarer } from './squarer';
import { wayOver } from './wayOver';

const ROUNDS = 8;
/** Rounds of evening out at the end. */
const EVENED = 12;
/** In a round a point goes no further than this share of the quads round it: its neighbours must be able to follow. */
const REACH = 0.8;
/** What sticks out by more than this share of a quad is reached for, if not asked otherwise. */
const STICKS_OUT = 0.5;
const MOST = 200;
/** A point reaches for what is no further over the form than so many times as far as straight, and a quad: what lies beyond a gap is another limb's. So many of the nearest are asked. */
const ROUNDABOUT = 4;
const NEAREST = 12;
/** A corner worse than this, and than it was, is not worth the reach. */
const SUFFERS = 0.32;

/**
 * Draws the quads out to what of the form they do not reach, tips and ridges: the nearest point of the same limb goes to each place that sticks out
 * farthest, step by step, and stays there, as those do that are `tips` already, while the others even out and come as square as they can. Where quads suffer still it goes back to where it was. `samples` are
 * places of the form, xyz; `beyond` is how far one sticks out, in quads' lengths. Changes the points; gives those that reached out and stay. Cost: a closest point per sample where something sticks out, and round.
 */
export function fitted(
  soup: QuadSoup,
  curves: readonly Curve[],
  surface: SculptSurface,
  samples: Float64Array,
  size: number,
  tips: ReadonlySet<number> = new Set(),
  beyond = STICKS_OUT,
): Set<number> {
  const before = soup.points.slice();
  const around = aroundOf(soup);
  const reached = new Set(tips);
  let asked: Int32Array | null = null;
  for (let round = 0; round < ROUNDS; round++) {
    const low = surfaceOfQuads(soup);
    asked ??= worthAsking(low, samples, size, soup.quads.length / 4);
    const far: { at: number; away: number }[] = [];
    for (const i of asked) {
      const away = low.distanceBeyond([samples[i], samples[i + 1], samples[i + 2]], beyond * size);
      if (away > beyond * size) far.push({ at: i, away });
    }
    if (far.length === 0) break;
    const pinned = new Set<number>();
    far.sort((a, b) => b.away - a.away);
    const taken: number[] = [];
    for (const { at } of far.slice(0, 4000)) {
      const p: Vec3 = [samples[at], samples[at + 1], samples[at + 2]];
      if (taken.length >= MOST || taken.some((i) => Math.hypot(samples[i] - p[0], samples[i + 1] - p[1], samples[i + 2] - p[2]) < 1.6 * size)) continue; // prettier-ignore
      taken.push(at);
      const v = nearestPoints(soup, curves, p).find((one) => {
        const there = pointOf(soup, one);
        return wayOver(surface, p, there, ROUNDABOUT * distance(p, there) + size) < Infinity;
      });
      if (v === undefined) continue;
      const from = pointOf(soup, v);
      const to = lerp(from, p, Math.min(1, (REACH * localSize(soup, around, v)) / distance(from, p)));
      soup.points.set(soup.onLine[v] >= 0 ? onCurve(curves[soup.onLine[v]], ...to) : to, 3 * v);
      pinned.add(v);
      reached.add(v);
    }
    const free = pointsRound(soup, around, pinned);
    holding(soup, (v) => pinned.has(v) || tips.has(v) || !free.has(v), () => relaxed(soup, curves, surface, 5)); // prettier-ignore
  }
  // the others even out round what was reached
  const free = pointsRound(soup, around, reached);
  holding(soup, (v) => reached.has(v) || !free.has(v), () => relaxedSafely(soup, curves, surface, EVENED)); // prettier-ignore
  squarer(soup, curves, surface, reached);
  const now = new QuadCheck(soup.points, soup.quads, [new WalkingForm(surface)]);
  const then = new QuadCheck(before, soup.quads);
  backWhereWorse(soup, before, (q) => now.least(q) < Math.min(SUFFERS, then.least(q)) || now.isFolded(q));
  return new Set([...reached].filter((v) => [0, 1, 2].some((k) => soup.points[3 * v + k] !== before[3 * v + k])));
}

/** Points so many quads round those that move make room. */
const RINGS = 12;

/** Points some quads round others, and these: `around` is `aroundOf` the quads. Cost: those quads. */
export function pointsRound({ quads }: QuadSoup, around: readonly number[][], some: ReadonlySet<number>): Set<number> {
  const near = new Set(some);
  for (let ring = 0, last = [...some]; ring < RINGS; ring++) {
    const next: number[] = [];
    for (const q of last.flatMap((v) => around[v]))
      for (const w of quads.subarray(q, q + 4)) {
        if (near.has(w)) continue;
        near.add(w);
        next.push(w);
      }
    last = next;
  }
  return near;
}

/** Does something while points that are to be held stay where they are. */
export function holding({ onLine }: QuadSoup, isHeld: (v: number) => boolean, act: () => void): void {
  const kept = onLine.slice();
  for (let v = 0; v < onLine.length; v++) if (isHeld(v)) onLine[v] = -2;
  act();
  onLine.set(kept);
}

/** So many places for each quad tell where something may stick out: there all are asked. */
const ASKED = 12;
/** Where a place is further away than this share of a quad. */
const LOOK = 0.2;

/** Where in `samples` the places begin that lie in cells, as large as a quad, in which something is some way off the quads, or in cells beside such. */
function worthAsking(low: SculptSurface, samples: Float64Array, size: number, quads: number): Int32Array {
  const n = samples.length / 3;
  const cell = (i: number, k: number): number => Math.floor(samples[i + k] / size) + WIDE / 2;
  const found = new Set<number>();
  const step = 3 * Math.max(1, Math.floor(n / (ASKED * quads)));
  for (let i = 0; i < samples.length; i += step) {
    if (low.distanceBeyond([samples[i], samples[i + 1], samples[i + 2]], LOOK * size) <= LOOK * size) continue;
    const [x, y, z] = [cell(i, 0), cell(i, 1), cell(i, 2)];
    for (let a = x - 1; a <= x + 1; a++) for (let b = y - 1; b <= y + 1; b++) for (let c = z - 1; c <= z + 1; c++) found.add((a * WIDE + b) * WIDE + c); // prettier-ignore
  }
  const all: number[] = [];
  if (found.size > 0)
    for (let i = 0; i < samples.length; i += 3) if (found.has((cell(i, 0) * WIDE + cell(i, 1)) * WIDE + cell(i, 2))) all.push(i); // prettier-ignore
  return Int32Array.from(all);
}
/** Cells along an axis, at most: three of them have room in a number. */
const WIDE = 1 << 17;

/** Puts the points of quads that suffered, and of those round them, back to where they were, until none suffer. `suffers` is asked of 4·q. */
export function backWhereWorse(
  { points, quads }: QuadSoup,
  before: Float64Array,
  suffers: (q: number) => boolean,
): void {
  let asked = Array.from({ length: quads.length / 4 }, (_, i) => 4 * i);
  for (let round = 0; round < 12; round++) {
    const back = new Set(asked.filter(suffers).flatMap((q) => [...quads.subarray(q, q + 4)]));
    if (back.size === 0) return;
    // a ring more each round: quads between what went back and what did not are pulled askew
    for (let ring = 0; ring < round; ring++) {
      const inside = new Set(back);
      for (let q = 0; q < quads.length; q += 4) {
        const own = quads.subarray(q, q + 4);
        if (own.some((v) => inside.has(v))) for (const v of own) back.add(v);
      }
    }
    for (const v of back) points.set(before.subarray(3 * v, 3 * v + 3), 3 * v);
    // the others are as they were when they were asked
    asked = [];
    for (let q = 0; q < quads.length; q += 4) if (quads.subarray(q, q + 4).some((v) => back.has(v))) asked.push(q);
  }
  points.set(before);
}

/** Where a point is, as a key. */
export const placeKey = (p: Float64Array, v: number): string => `${p[3 * v]} ${p[3 * v + 1]} ${p[3 * v + 2]}`;

/** The points that are at some places, told by their keys. Cost: linear. */
export const pointsAt = ({ points, onLine }: QuadSoup, places: ReadonlySet<string>): Set<number> =>
  new Set([...onLine.keys()].filter((v) => places.has(placeKey(points, v))));

/** Mean edge length of the quads round a point: those of a tip may be far smaller than others. */
function localSize({ points: p, quads }: QuadSoup, around: readonly number[][], v: number): number {
  let [sum, n] = [0, 0];
  for (const q of around[v])
    for (let k = 0; k < 4; k++, n++) {
      const [a, b] = [3 * quads[q + k], 3 * quads[q + ((k + 1) & 3)]];
      sum += Math.hypot(p[a] - p[b], p[a + 1] - p[b + 1], p[a + 2] - p[b + 2]);
    }
  return sum / n;
}

const pointOf = ({ points: p }: QuadSoup, v: number): Vec3 => [p[3 * v], p[3 * v + 1], p[3 * v + 2]];

/** Some points nearest to a place, off the lines or on one in the mirror plane, where the form goes on; the nearest first. Cost: the points. */
function nearestPoints({ points, onLine }: QuadSoup, curves: readonly Curve[], p: Vec3): number[] {
  const found: { v: number; away: number }[] = [];
  for (let v = 0; v < onLine.length; v++) {
    if (onLine[v] !== -1 && !curves[onLine[v]]?.isMirrored) continue;
    const away = (points[3 * v] - p[0]) ** 2 + (points[3 * v + 1] - p[1]) ** 2 + (points[3 * v + 2] - p[2]) ** 2;
    if (found.length === NEAREST && away >= found[NEAREST - 1].away) continue;
    const after = found.findIndex((other) => other.away > away);
    found.splice(after < 0 ? found.length : after, 0, { v, away });
    if (found.length > NEAREST) found.pop();
  }
  return found.map(({ v }) => v);
}
