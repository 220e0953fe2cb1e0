import type { Vec3 } from '../../math';
import type { SculptSurface } from '../../surface';
import { middleOf, type QuadSoup, surfaceOfQuads } from '../quads/QuadSoup';
import type { Task } from '../quads/Task';

/** So many quads' lengths from the quads, a place of the form has none; more than this share of such places are a limb. */
export const LOST = { away: 2.5, share: 0.004 };
/** About so many places tell a share. */
const MOST_ASKED = 15_000;
/** No more than this may be out of reach of a limb that ends early. */
export const WHOLE = 2e-4;
/** Filling anew may cost so much of the form. */
export const DEARLY_BARE = 0.005;
/** So far away, it is not followed; so far, a limb ends early. */
export const BARE = 0.5;
export const SHORT = 1.5;
/** A quad whose middle is so far off the form is over none. */
const ASTRAY = 0.45;

/** Whether a part of the form has no quads. */
export const isShort = (soup: QuadSoup, task: Task): boolean => bareShare(soup, task, LOST.away) > LOST.share;

/** How far quads leave a form bare. */
export interface Bareness {
  /** share of the form's places that are not followed */
  bare: number;
  /** share of them that are so far off that a limb ends early */
  short: number;
  /** how far away they are, the root of the mean square, in lengths of a quad */
  away: number;
  /** quads over no form, as where they close a limb off that then stands beside it */
  astray: number;
}

/** Cost: a closest point for some thousand places, and for each quad. */
export function barenessOf(soup: QuadSoup, task: Pick<Task, 'samples' | 'size'>, form: SculptSurface): Bareness {
  const { samples, size } = task;
  if (soup.quads.length === 0) return { bare: 1, short: 1, away: 1, astray: 0 };
  const { far, asked } = placesBeyond(surfaceOfQuads(soup), samples, 0);
  const share = (away: number): number => far.filter((place) => place.away > away * size).length / Math.max(1, asked);
  const squared = far.reduce((sum, { away }) => sum + away ** 2, 0) / Math.max(1, asked);
  return {
    bare: share(BARE),
    short: share(SHORT),
    away: Math.sqrt(squared) / size,
    astray: astrayOf(soup, size, form),
  };
}

function astrayOf(soup: QuadSoup, size: number, form: SculptSurface): number {
  const far = ASTRAY * size;
  let sum = 0;
  for (let q = 0; q < soup.quads.length; q += 4) if (form.distanceBeyond(middleOf(soup, q), far) > far) sum++;
  return sum;
}

/** Share of the form's places that are further than so many quads' lengths from any. */
export function bareShare(soup: QuadSoup, { samples, size }: Task, away: number): number {
  if (soup.quads.length === 0) return 1;
  const { far, asked } = placesBeyond(surfaceOfQuads(soup), samples, away * size);
  return far.length / Math.max(1, asked);
}

/** Of some of a form's places, xyz in `samples`, those that are further from quads than so much; and how many were asked. Cost: a closest point for each of these. */
export function placesBeyond(
  low: SculptSurface,
  samples: Float64Array,
  near: number,
): { far: { place: Vec3; away: number }[]; asked: number } {
  const step = 3 * Math.max(1, Math.floor(samples.length / (3 * MOST_ASKED)));
  const far: { place: Vec3; away: number }[] = [];
  let asked = 0;
  for (let i = 0; i < samples.length; i += step, asked++) {
    const place: Vec3 = [samples[i], samples[i + 1], samples[i + 2]];
    const away = low.distanceBeyond(place, near);
    if (away > near) far.push({ place, away });
  }
  return { far, asked };
}
