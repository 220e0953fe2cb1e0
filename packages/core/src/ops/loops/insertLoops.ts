import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { alongCurve, distance, lerp, type Vec3 } from '../../math';
import { between, edgeRing, NONE, Rebuild, type PolyMesh } from '../../mesh';
import { newPlace, type Ground } from '../ground';
import { operator, plural } from '../operator';
import { choice, count, proposedLength, share, toggle } from '../params';
import { edgesBetween, only, pickedEdges } from '../picked';
import { splitFaces } from '../splitFaces';
import { beyond } from './rails';

const Params = z.object({
  count: count('Loops', { min: 1, max: 64, start: 1 }),
  at: share('Where', { min: 0.01, max: 0.99, start: 0.5, hint: 'One loop: how far along the rungs' }),
  hold: proposedLength('Held at', 'A fixed distance from one side instead of a fraction'),
  side: choice('Held from', [['start', 'one side'], ['end', 'the other'], ['both', 'both sides']], 'start'), // prettier-ignore
  following: toggle('Follow the curvature', true, 'Round forms stay round'),
  ends: choice('Where it stops', [['n-gon', 'leave an n-gon'], ['triangle', 'end in a triangle']], 'n-gon'), // prettier-ignore
});
type Params = z.infer<typeof Params>;

/**
 * Inserts edge loops into the rings of the picked edges: one at a fraction, several evenly, or held at a distance (file
 * units) from one side or both. Flat, or on the cubic through each rung's ends and their neighbours across, so that
 * a round form stays round. Rings that cross make a grid where they do. A ring that ends in a triangle or
 * n-gon leaves it with one corner more, or splits it into triangles. The selection is the new loops.
 */
export const insertLoops = operator({
  name: 'insert-loops',
  title: 'Insert loops',
  params: Params,
  run(mesh, selection, params, ground) {
    const rungs = rungsOf(mesh, pickedEdges(mesh, selection, 'Pick an edge of the ring that the loop shall cross.'));
    const faces = new Set<number>();
    for (const h of rungs.values()) for (const g of [h, h ^ 1]) if (mesh.face(g) !== NONE) faces.add(mesh.face(g));
    const places = [...rungs].map(([e, h]) => ({ e, h, points: placesOn(mesh, h, params, ground) }));
    const before = mesh.faceCount;
    const rebuild = new Rebuild(mesh, []);
    const split = new Map<number, number[]>();
    for (const { e, h, points } of places) {
      const ends = [mesh.origin(h), mesh.target(h)];
      const made = points.map(({ at, t }) => rebuild.vertex(at, between(ends[0], ends[1], t)));
      split.set(e, h === 2 * e ? made : made.reverse());
    }
    const { lines, ngons } = splitFaces(mesh, rebuild, faces, split, { fan: params.ends === 'triangle', ground });
    rebuild.finish();
    const loops = places[0].points.length;
    const added = mesh.faceCount - before;
    const left = ngons > 0 ? `; it stops in ${plural(ngons, 'face')} that ${ngons === 1 ? 'is' : 'are'} no quad` : '';
    return {
      selection: only({ edges: edgesBetween(mesh, lines) }),
      report: {
        sentence: `${plural(loops, 'loop')} added, ${plural(added, 'face')} more${left}`,
        counts: { loops, faces: added, vertices: places.length * loops, stopped: ngons },
      },
    };
  },
});

/** Edge → its half-edge in the sense of its ring, for all rings through the picked edges. */
function rungsOf(mesh: PolyMesh, edges: readonly number[]): Map<number, number> {
  const rungs = new Map<number, number>();
  for (const e of edges) {
    if (rungs.has(e)) continue;
    if (mesh.isLooseEdge(e))
      throw new TopologyError('NO_WAY', 'A loose edge has no faces to put a loop into.', { edges: [e] });
    for (const h of edgeRing(mesh, 2 * e).halves) if (!rungs.has(h >> 1)) rungs.set(h >> 1, h);
  }
  return rungs;
}

function placesOn(mesh: PolyMesh, h: number, params: Params, ground: Ground): { at: Vec3; t: number }[] {
  const [u, v] = [mesh.origin(h), mesh.target(h)];
  const [a, b] = [mesh.point(u), mesh.point(v)];
  const before = params.following ? beyond(mesh, h ^ 1, ground) : null,
    after = params.following ? beyond(mesh, h, ground) : null;
  return fractionsOf(params, distance(a, b)).map((t) => {
    const at = params.following ? alongCurve(before, a, b, after, t) : lerp(a, b, t);
    return { at: newPlace(mesh, at, [u, v], ground), t };
  });
}

function fractionsOf({ count: n, at, hold, side }: Params, length: number): number[] {
  if (hold === null) return n === 1 ? [at] : Array.from({ length: n }, (_, i) => (i + 1) / (n + 1));
  const most = side === 'both' ? 0.45 : 0.9;
  const t = Math.max(0.001, Math.min(most, length > 0 ? Math.abs(hold) / length : 0.5));
  return side === 'start' ? [t] : side === 'end' ? [1 - t] : [t, 1 - t];
}
