import type { Vec3 } from '@half-loop/core/math';
import { MODEL_COLOURS } from './modelColours';
import { RING, type Mark } from './PointSet';

/** Rings one within the other around a place that is pointed out, dark and light, so that they are seen on any colour. */
export function placeMarks(place: Vec3 | null): Mark[] {
  if (!place) return [];
  const { ink, pointed } = MODEL_COLOURS;
  return ([[ink, 36], [pointed, 33], [pointed, 30], [ink, 27]] as const).map(([colour, size]) => ({ at: place, colour, size, shape: RING })); // prettier-ignore
}
