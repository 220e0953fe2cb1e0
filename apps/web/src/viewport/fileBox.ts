import { boxOf, type Box } from '@half-loop/core/math';
import type { Session } from '../session';

/** The box of the sculpt, or of what is shown without one; file space. Cost: the shown pieces' points where there is no sculpt. */
export function fileBoxOf({ surface, document, piece }: Session): Box {
  if (surface) return surface.box;
  const seen = document.pieces.filter((p) => p.visible || p === piece).map((p) => p.mesh);
  const points = seen.flatMap((mesh) => [...mesh.vertices()].flatMap((v) => [...mesh.point(v)]));
  return points.length > 3 ? boxOf(points) : { min: [-5, -5, -5], max: [5, 5, 5] };
}
