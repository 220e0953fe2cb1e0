import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { add, cross, length, normalize, sub, type Plane, type Vec3 } from '../../math';
import { NONE, vertexNormal, type PolyMesh } from '../../mesh';
import type { Ground } from '../ground';
import { operator, plural } from '../operator';
import { liveVertex, Point, toggle, VertexId } from '../params';
import { edgesBetween, only } from '../picked';
import { addEdgePoints, commonFace, splitFace } from './edgePoints';
import { march, pointAt, straightCut, type Place } from './march';

const Anchor = z.union([
  z.object({ vertex: VertexId }),
  z.object({ edge: z.tuple([VertexId, VertexId]), at: z.number().check(z.minimum(0), z.maximum(1)) }),
]);
export type Anchor = z.infer<typeof Anchor>;

/**
 * Cuts along a stroke over any number of faces: from anchor to anchor (vertices, or fractions of edges, named by
 * their ends), straight as seen from `eye`, or straight over the surface without one. Closed: back to the first. All the way round:
 * on past the last anchor until the cut closes or meets a border. Refuses (NO_WAY) where the surface ends between anchors.
 */
export const cut = operator({
  name: 'cut',
  title: 'Cut',
  params: z.object({
    anchors: z.array(Anchor).check(z.minLength(2)),
    closed: toggle('Closed', false),
    round: toggle('All the way round', false, 'On past the last point, until the cut closes or meets a border'),
    eye: z.optional(Point),
  }),
  run(mesh, _selection, { anchors, closed, round, eye }, ground) {
    const places = anchors.map((a) => placeOf(mesh, a));
    const path = round ? roundPath(mesh, places, eye ?? null) : fullPath(mesh, closed ? [...places, places[0]] : places, eye ?? null); // prettier-ignore
    const before = mesh.faceCount;
    const lines = cutAlong(mesh, path, ground);
    const added = mesh.faceCount - before;
    if (added === 0 && lines.length === 0)
      throw new TopologyError('NO_WAY', 'The cut runs along edges that are there already.');
    return {
      selection: only({ edges: edgesBetween(mesh, lines) }),
      report: { sentence: `Cut through ${plural(added, 'face')}`, counts: { faces: added, edges: lines.length } },
    };
  },
});

function placeOf(mesh: PolyMesh, anchor: Anchor): Place {
  if ('vertex' in anchor) return { vertex: liveVertex(mesh, anchor.vertex) };
  const [u, v] = anchor.edge.map((w) => liveVertex(mesh, w));
  const h = mesh.findHalf(u, v);
  if (h === NONE) throw new TopologyError('NOTHING_PICKED', 'A picked edge is no longer there; pick it again.', { vertices: [u, v] }); // prettier-ignore
  if (anchor.at === 0 || anchor.at === 1) return { vertex: anchor.at === 0 ? u : v };
  return { edge: h >> 1, at: h % 2 === 0 ? anchor.at : 1 - anchor.at };
}

function fullPath(mesh: PolyMesh, places: Place[], eye: Vec3 | null): Place[] {
  const path: Place[] = [places[0]];
  for (let i = 1; i < places.length; i++)
    path.push(
      ...straightCut(mesh, places[i - 1], places[i], planeThrough(mesh, places[i - 1], places[i], eye)).slice(1),
    );
  return path;
}

/** The plane of the first and last place, followed until it closes, or to a border at both ends. */
function roundPath(mesh: PolyMesh, places: Place[], eye: Vec3 | null): Place[] {
  const [a, b] = [places[0], places[places.length - 1]];
  const plane = planeThrough(mesh, a, b, eye);
  const ahead = sub(pointAt(mesh, b), pointAt(mesh, a));
  const on = march(mesh, a, plane, ahead, null);
  if (on.closed) return [...on.places, a];
  const back = march(mesh, a, plane, [-ahead[0], -ahead[1], -ahead[2]], null);
  return [...back.places.slice(1).reverse(), ...on.places];
}

/** The plane through two places and the eye; without an eye, upright on the surface between them. */
export function planeThrough(mesh: PolyMesh, a: Place, b: Place, eye: Vec3 | null): Plane {
  const [p, q] = [pointAt(mesh, a), pointAt(mesh, b)];
  const up = eye ? sub(eye, p) : normalAt(mesh, a, b);
  const normal = cross(sub(q, p), up);
  if (length(normal) === 0)
    throw new TopologyError('NO_WAY', 'Two points of the cut lie in one line of sight; turn the view a little.');
  return { point: p, normal: normalize(normal) };
}

function normalAt(mesh: PolyMesh, ...places: Place[]): Vec3 {
  const at = (v: number): Vec3 => vertexNormal(mesh, v);
  return places
    .flatMap((p) => ('vertex' in p ? [at(p.vertex)] : [at(mesh.origin(2 * p.edge)), at(mesh.target(2 * p.edge))]))
    .reduce((s, n) => add(s, n), [0, 0, 0] as Vec3);
}

/** Makes the vertices of a path and joins each to the next through their common face. Returns the joined pairs. */
export function cutAlong(mesh: PolyMesh, path: readonly Place[], ground: Ground): [number, number][] {
  const unique = new Map<number, { edge: number; at: number }>();
  path.forEach((p) => 'edge' in p && unique.set(p.edge, p));
  const points = [...unique.values()];
  const made = addEdgePoints(mesh, points, ground);
  const vertexAt = new Map(points.map((p, i) => [p.edge, made[i]]));
  const run = path.map((p) => ('vertex' in p ? p.vertex : (vertexAt.get(p.edge) as number)));
  const lines: [number, number][] = [];
  for (let i = 1; i < run.length; i++) {
    const [a, b] = [run[i - 1], run[i]];
    if (a === b || mesh.findHalf(a, b) !== NONE) continue;
    const f = commonFace(mesh, a, b);
    if (f === NONE)
      throw new TopologyError('NO_WAY', 'The cut leaves the surface between two of its points.', { vertices: [a, b] });
    splitFace(mesh, f, a, b);
    lines.push([a, b]);
  }
  return lines;
}
