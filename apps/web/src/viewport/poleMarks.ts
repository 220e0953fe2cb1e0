import { poleKind, polesOf } from '@half-loop/core/inspect';
import { mirrored, type MirrorPlane, type Vec3 } from '@half-loop/core/math';
import type { PolyMesh } from '@half-loop/core/mesh';
import { SLIP } from '../kit/theme';
import { srgb } from './materials';
import type { Mark } from './PointSet';

const STYLE = {
  two: [SLIP.pole6, 6, 15],
  three: [SLIP.pole3, 3, 17],
  five: [SLIP.pole5, 5, 17],
  sixPlus: [SLIP.pole6, 6, 19],
} as const;

/** A shape at each pole, and at its mirror image. */
export function poleMarks(mesh: PolyMesh, plane: MirrorPlane | null): (Mark & { vertex: number })[] {
  return polesOf(mesh, plane).flatMap((pole) => {
    const at = mesh.point(pole.vertex);
    const mark = { ...poleMark(pole.valence, at), vertex: pole.vertex };
    return plane && !pole.onPlane ? [mark, { ...mark, at: mirrored(at, plane) }] : [mark];
  });
}

/** The shape that stands for so many edges or sides, at a place. */
export function poleMark(valence: number, at: Vec3): Mark {
  const [hex, shape, size] = STYLE[poleKind(valence)];
  return { at, colour: srgb(hex), size, shape };
}
