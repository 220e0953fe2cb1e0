import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { NONE, type PolyMesh } from '../../mesh';
import { operator, plural } from '../operator';
import { count, share } from '../params';
import { edgesBetween, only, pickedFaces } from '../picked';
import { addEdgePoints, commonFace, splitFace, type EdgePoint } from './edgePoints';

/**
 * The same cut in all picked faces at once: from a fraction of one side to a fraction of another. Sides are counted in
 * each face from the one that answers the first picked face's, carried from face to face across their shared edges, so
 * that a strip is cut in one line. A fraction of 0 or 1 is a corner.
 */
export const cutFaces = operator({
  name: 'cut-faces',
  title: 'Cut each face',
  params: z.object({
    from: count('From side', { min: 1, max: 12, start: 1 }),
    fromAt: share('at', { min: 0, max: 1, start: 0.5 }),
    to: count('To side', { min: 1, max: 12, start: 3 }),
    toAt: share('at', { min: 0, max: 1, start: 0.5 }),
  }),
  run(mesh, selection, { from, fromAt, to, toAt }, ground) {
    const faces = pickedFaces(mesh, selection, 'Pick the faces to cut.');
    const points = new Map<string, EdgePoint>();
    const cuts = [...firstSides(mesh, faces)].map(([f, first]) => {
      const halves = mesh.faceHalves(f);
      const start = halves.indexOf(first);
      const end = (side: number, at: number): string | number => {
        const h = halves[(start + side - 1) % halves.length];
        if (at === 0 || at === 1) return at === 0 ? mesh.origin(h) : mesh.target(h);
        const along = h % 2 === 0 ? at : 1 - at;
        const key = `${h >> 1}:${along.toFixed(6)}`;
        points.set(key, { edge: h >> 1, at: along });
        return key;
      };
      return [end(from, fromAt), end(to, toAt)];
    });
    const made = new Map([...points.keys()].map((key, i) => [key, i]));
    const vertices = addEdgePoints(mesh, [...points.values()], ground);
    const lines: [number, number][] = [];
    for (const cut of cuts) {
      const [a, b] = cut.map((end) => (typeof end === 'number' ? end : vertices[made.get(end) as number]));
      const f = a === b || mesh.findHalf(a, b) !== NONE ? NONE : commonFace(mesh, a, b);
      if (f === NONE) continue;
      splitFace(mesh, f, a, b);
      lines.push([a, b]);
    }
    if (lines.length === 0) throw new TopologyError('NO_WAY', 'These two places lie on one side; nothing would be cut.', { faces }); // prettier-ignore
    return {
      selection: only({ edges: edgesBetween(mesh, lines) }),
      report: { sentence: `${plural(lines.length, 'face')} cut alike`, counts: { faces: lines.length } },
    };
  },
});

/** For each face the half-edge that counts as its first side. */
function firstSides(mesh: PolyMesh, faces: readonly number[]): Map<number, number> {
  const picked = new Set(faces);
  const first = new Map<number, number>();
  for (const f of faces) {
    if (first.has(f)) continue;
    first.set(f, mesh.faceHalf.data[f]);
    for (const queue = [f]; queue.length > 0;) {
      const at = queue.pop() as number;
      const halves = mesh.faceHalves(at);
      const start = halves.indexOf(first.get(at) as number);
      halves.forEach((h, i) => {
        const g = mesh.face(h ^ 1);
        if (!picked.has(g) || first.has(g)) return;
        const there = mesh.faceHalves(g);
        // the shared edge is side k here; there its opposite is side k, or itself in a face without one
        const k = (i - start + halves.length) % halves.length;
        const across = there.length === 4 ? (there.indexOf(h ^ 1) + 2) % 4 : there.indexOf(h ^ 1);
        first.set(g, there[(across - k + 4 * there.length) % there.length]);
        queue.push(g);
      });
    }
  }
  return first;
}
