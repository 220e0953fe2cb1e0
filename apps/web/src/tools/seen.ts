import { meanPoint } from '@half-loop/core/math';
import { NONE } from '@half-loop/core/mesh';
import type { LoopStop } from '@half-loop/core/ops';
import { poleMark, type Mark, type Overlay, type Srgb } from '../viewport';
import { seenPoint } from './placing';
import type { ToolHost } from './Tool';

/** Width of a walk drawn over the model, pixels. */
export const LOOP_WIDTH = 1.6;

/** Edges as lines over the model, on the half that the pointer is on. */
export function seenEdges(host: ToolHost, edges: readonly number[], onImage: boolean, colour: Srgb): Overlay['lines'] {
  const { mesh } = host.session;
  const seen = (v: number): Overlay['lines'][number]['a'] => seenPoint(host, mesh.point(v), onImage);
  return edges
    .filter((e) => mesh.hasEdge(e))
    .map((e) => ({ a: seen(mesh.origin(2 * e)), b: seen(mesh.target(2 * e)), colour, width: LOOP_WIDTH }));
}

/** Where a loop stops: the pole's shape at the pole, the shape of its sides on a face in the way. */
export function stopMarks(host: ToolHost, stops: readonly LoopStop[], onImage: boolean): Mark[] {
  const { mesh } = host.session;
  return stops.map(({ vertex, why, count }) => {
    const odd = why === 'pole' ? undefined : mesh.vertexHalves(vertex).map((h) => mesh.face(h)).find((f) => f !== NONE && mesh.faceHalves(f).length === count); // prettier-ignore
    const at = odd === undefined ? mesh.point(vertex) : meanPoint(mesh.faceVertices(odd).map((v) => mesh.point(v)));
    return poleMark(count, seenPoint(host, at, onImage));
  });
}
