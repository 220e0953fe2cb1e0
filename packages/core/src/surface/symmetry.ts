import { AXES, axisIndex, boxCentre, mirrored, type Axis, type MirrorPlane, type Rng } from '../math';
import type { SculptSurface } from './SculptSurface';

export interface SymmetryProposal extends MirrorPlane {
  /** rms distance of mirrored samples from the surface, over the diagonal */
  error: number;
}

/**
 * For each axis, the plane across which the surface matches itself best, best axis first. Starts at the box's centre, at
 * zero and at the samples' mean, then narrows round the best. Cost: about 100 · samples closest-point queries.
 */
export function measureSymmetry(surface: SculptSurface, rng: Rng, samples = 150): SymmetryProposal[] {
  const vertices = surface.positions.length / 3;
  const picks = Array.from({ length: samples }, () => 3 * Math.floor(rng() * vertices));
  const points = picks.map((i) => surface.positions.subarray(i, i + 3)).map((p) => [p[0], p[1], p[2]] as const);
  const errorOf = (plane: MirrorPlane): number => {
    let sum = 0;
    for (const p of points) sum += surface.closest(mirrored(p, plane)).distance ** 2;
    return Math.sqrt(sum / points.length) / (surface.diagonal || 1);
  };
  return AXES.map((axis) => refine(axis, surface, errorOf)).sort((a, b) => a.error - b.error);
}

function refine(axis: Axis, surface: SculptSurface, errorOf: (p: MirrorPlane) => number): SymmetryProposal {
  const k = axisIndex(axis);
  let mean = 0;
  for (let i = k; i < surface.positions.length; i += 3) mean += surface.positions[i];
  mean /= surface.positions.length / 3;
  const rate = (offset: number): SymmetryProposal => ({ axis, offset, error: errorOf({ axis, offset }) });
  const better = (a: SymmetryProposal, b: SymmetryProposal): SymmetryProposal => (b.error < a.error ? b : a);
  let best = [0, boxCentre(surface.box)[k], mean].map(rate).reduce(better);
  for (let step = 0.01 * surface.diagonal; step > 1e-4 * surface.diagonal; step /= 2)
    best = [best.offset - step, best.offset + step].map(rate).reduce(better, best);
  const zero = rate(0);
  return zero.error <= best.error * 1.05 + 1e-5 ? zero : best;
}

/** Below this error the plane is proposed as symmetric. */
export const SYMMETRIC_BELOW = 0.01;
