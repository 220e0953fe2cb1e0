import { distance, lerp, ontoPlane, type Vec3 } from '@half-loop/core/math';
import type { ToolHost } from './Tool';

/** Where a drag was caught, and on what. */
export interface Caught {
  at: Vec3;
  what: 'a point' | 'a point of another piece' | 'an edge middle' | 'the midline' | 'a grid step';
}

/** Pixels within which a place catches. */
const CATCH_PX = 12;

/** The place near p that a drag catches on: a point, the middle of an edge, the midline, else the nearest grid step. */
export function caughtPlace(host: ToolHost, p: Vec3, own: ReadonlySet<number>, gridStep: number): Caught {
  const { mesh, plane } = host.session;
  const { picker, camera } = host.scene;
  const within = CATCH_PX * camera.pixelSize(picker.pixelOf(p).along);
  const vertex = picker.grid.vertexWithin(p, within, own);
  if (vertex !== null) return { at: mesh.point(vertex), what: 'a point' };
  const other = otherPoint(host, p, within);
  if (other) return { at: other, what: 'a point of another piece' };
  const near = picker.grid.vertexWithin(p, within * 6, own);
  if (near !== null)
    for (const h of mesh.vertexHalves(near)) {
      const middle = lerp(mesh.point(near), mesh.point(mesh.target(h)), 0.5);
      if (!own.has(mesh.target(h)) && distance(middle, p) < within) return { at: middle, what: 'an edge middle' };
    }
  if (plane && distance(ontoPlane(p, plane), p) < within) return { at: ontoPlane(p, plane), what: 'the midline' };
  const step = (x: number): number => (gridStep > 0 ? Math.round(x / gridStep) * gridStep : x);
  return { at: [step(p[0]), step(p[1]), step(p[2])], what: 'a grid step' };
}

/** The nearest point of the pieces that are shown beside the one in hand. Cost: their points. */
function otherPoint({ session }: ToolHost, p: Vec3, within: number): Vec3 | null {
  let best: Vec3 | null = null,
    least = within;
  for (const { id, mesh, visible } of session.document.pieces) {
    if (!visible || id === session.piece.id) continue;
    for (const v of mesh.vertices()) {
      const far = distance(mesh.point(v), p);
      if (far >= least) continue;
      least = far;
      best = mesh.point(v);
    }
  }
  return best;
}
