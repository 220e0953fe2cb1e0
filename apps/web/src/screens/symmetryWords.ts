import type { Unit } from '@half-loop/contract';
import type { SymmetryProposal } from '@half-loop/core/surface';
import { lengthText } from './format';

/** The best of some planes whose sides are so. */
export const planeWith = (
  planes: readonly SymmetryProposal[],
  own: SymmetryProposal['sides'],
): SymmetryProposal | undefined => planes.find(({ sides }) => sides === own);

const NOT_LAID = 'With symmetry on, what one side alone has is not laid.';

/** How well a sculpt of that diagonal matches itself across a plane. */
export function mirroredWords(plane: SymmetryProposal, diagonal: number, unit: Unit): string {
  const { error, farthest, sides } = plane;
  const off = `Mirrored, the sculpt lies ${lengthText(error * diagonal, unit)} from itself (${(100 * error).toFixed(2)} % of its size), at most ${lengthText(farthest * diagonal, unit)}.`;
  return sides === 'alike' ? off : `${off} ${NOT_LAID}`;
}

/** That a sculpt is symmetrical but for some places. */
export const nearlyWords = ({ axis, farthest }: SymmetryProposal, diagonal: number, unit: Unit): string =>
  `nearly symmetrical across ${axis}, but its sides are up to ${lengthText(farthest * diagonal, unit)} apart in places. ${NOT_LAID}`;
