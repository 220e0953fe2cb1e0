import { AXES, axisIndex, axisVector, boxCentre, mirrored, turned, type Axis, type MirrorPlane, type Rng, type Vec3 } from '../math'; // prettier-ignore
import type { SculptSurface } from './SculptSurface';

export interface SymmetryProposal extends MirrorPlane {
  /** rms distance of mirrored samples from the surface, over the diagonal */
  error: number;
  /** the greatest such distance: what one side alone has, as a limb in another pose, is but a small share of all */
  farthest: number;
  /** whether one side may stand for both; 'nearly' where it may but for some places, which only one of them has */
  sides: 'alike' | 'nearly' | 'unlike';
}
type Rated = Omit<SymmetryProposal, 'farthest' | 'sides'>;

/** Below this error sides are alike, if no place is further off than that: a tip that is would not be laid. */
const SYMMETRIC_BELOW = 0.01;
const APART_BELOW = 0.02;
/** So many places tell how far apart the sides are at most. */
const LOOKED_AT = 2000;

/**
 * For each axis, the plane across which the surface matches itself best, best axis first. Starts at the box's centre, at
 * zero and at the samples' mean, then narrows round the best. Cost: about 100 · samples closest-point queries, and some thousands.
 */
export function measureSymmetry(surface: SculptSurface, rng: Rng, samples = 150): SymmetryProposal[] {
  const points = sampled(surface, rng, samples);
  const errorOf = (plane: MirrorPlane): number => offBy(surface, points, (p) => mirrored(p, plane));
  const rated = AXES.map((axis) => refine(axis, surface, errorOf)).sort((a, b) => a.error - b.error);
  const all = sampled(surface, rng, LOOKED_AT);
  const farthestOf = (plane: MirrorPlane): number => all.reduce((far, p) => Math.max(far, surface.closest(mirrored(p, plane)).distance), 0); // prettier-ignore
  return rated.map((plane) => {
    const farthest = farthestOf(plane) / (surface.diagonal || 1);
    const sides = plane.error >= SYMMETRIC_BELOW ? 'unlike' : farthest < APART_BELOW ? 'alike' : 'nearly';
    return { ...plane, farthest, sides };
  });
}

function sampled(surface: SculptSurface, rng: Rng, samples: number): Vec3[] {
  const vertices = surface.positions.length / 3;
  const picks = Array.from({ length: samples }, () => 3 * Math.floor(rng() * vertices));
  return picks.map((i) => [surface.positions[i], surface.positions[i + 1], surface.positions[i + 2]]);
}

/** How far points lie off the surface when they are moved: rms, over the diagonal. */
function offBy(surface: SculptSurface, points: readonly Vec3[], move: (p: Vec3) => Vec3): number {
  let sum = 0;
  for (const p of points) sum += surface.closest(move(p)).distance ** 2;
  return Math.sqrt(sum / points.length) / (surface.diagonal || 1);
}

export interface TurnProposal {
  axis: Axis;
  count: number;
  /** rms distance of turned samples from the surface, over the diagonal */
  error: number;
}
/** Sectors that are looked for, at most. */
const MOST_SECTORS = 16;

/**
 * Into how many alike sectors round an axis through zero the surface falls: the greatest count that turns it onto itself about as well as any;
 * null where none does. What is round all over gives the greatest there is. Cost: about 45 · samples closest-point queries.
 */
export function measureTurns(surface: SculptSurface, rng: Rng, samples = 150): TurnProposal | null {
  const points = sampled(surface, rng, samples);
  const all = AXES.flatMap((axis) =>
    Array.from({ length: MOST_SECTORS - 1 }, (_, i): TurnProposal => {
      const count = i + 2;
      const turn = (p: Vec3): Vec3 => turned(p, [0, 0, 0], axisVector(`+${axis}`), (2 * Math.PI) / count);
      return { axis, count, error: offBy(surface, points, turn) };
    }),
  ).filter(({ error }) => error < SYMMETRIC_BELOW);
  const least = Math.min(...all.map(({ error }) => error));
  const good = all.filter(({ error }) => error <= 2 * least + 1e-3);
  return good.length > 0 ? good.reduce((a, b) => (b.count > a.count ? b : a)) : null;
}

function refine(axis: Axis, surface: SculptSurface, errorOf: (p: MirrorPlane) => number): Rated {
  const k = axisIndex(axis);
  let mean = 0;
  for (let i = k; i < surface.positions.length; i += 3) mean += surface.positions[i];
  mean /= surface.positions.length / 3;
  const rate = (offset: number): Rated => ({ axis, offset, error: errorOf({ axis, offset }) });
  const better = (a: Rated, b: Rated): Rated => (b.error < a.error ? b : a);
  let best = [0, boxCentre(surface.box)[k], mean].map(rate).reduce(better);
  for (let step = 0.01 * surface.diagonal; step > 1e-4 * surface.diagonal; step /= 2)
    best = [best.offset - step, best.offset + step].map(rate).reduce(better, best);
  const zero = rate(0);
  return zero.error <= best.error * 1.05 + 1e-5 ? zero : best;
}
