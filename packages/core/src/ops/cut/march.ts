import { TopologyError } from '../../errors';
import { dot, lerp, sub, type Plane, type Vec3 } from '../../math';
import { NONE, type PolyMesh } from '../../mesh';

/** A place on the lines of a mesh: a vertex, or a fraction of an edge from origin(2e). */
export type Place = { vertex: number } | { edge: number; at: number };

export function pointAt(mesh: PolyMesh, place: Place): Vec3 {
  if ('vertex' in place) return mesh.point(place.vertex);
  return lerp(mesh.point(mesh.origin(2 * place.edge)), mesh.point(mesh.target(2 * place.edge)), place.at);
}

export const samePlace = (a: Place, b: Place): boolean =>
  'vertex' in a ? 'vertex' in b && a.vertex === b.vertex : 'edge' in b && a.edge === b.edge;

const facesAt = (mesh: PolyMesh, place: Place): number[] =>
  'vertex' in place
    ? mesh.vertexFaces(place.vertex)
    : [mesh.face(2 * place.edge), mesh.face(2 * place.edge + 1)].filter((f) => f !== NONE);

/** A crossing this near a corner, as a fraction of the edge, is the corner itself. */
const CORNER = 1e-4;

/**
 * Follows a plane over the faces, from a place on it, first towards `ahead`: the places where it crosses edges, until it
 * reaches `goal`, comes back to where it began, or runs out over a border. Cost: the faces it crosses.
 */
export function march(
  mesh: PolyMesh,
  from: Place,
  plane: Plane,
  ahead: Vec3,
  goal: Place | null,
): { places: Place[]; reached: boolean; closed: boolean } {
  const places: Place[] = [from];
  const seen = new Set<number>();
  for (let at = from; ;) {
    if (goal && places.length > 1 && samePlace(at, goal)) return { places, reached: true, closed: false };
    const goalFaces = goal ? new Set(facesAt(mesh, goal)) : null;
    const faces = facesAt(mesh, at).filter((f) => !seen.has(f));
    const direct = goalFaces && faces.find((f) => goalFaces.has(f));
    if (goal && direct !== null && direct !== undefined)
      return { places: [...places, goal], reached: true, closed: false };
    const next = bestExit(mesh, faces, at, plane, places.length === 1 ? ahead : null);
    if (!next) return { places, reached: false, closed: false };
    seen.add(next.face);
    if (samePlace(next.place, from)) return { places, reached: goal === null, closed: true };
    places.push(next.place);
    at = next.place;
  }
}

function bestExit(
  mesh: PolyMesh,
  faces: readonly number[],
  at: Place,
  plane: Plane,
  ahead: Vec3 | null,
): { face: number; place: Place } | null {
  const p = pointAt(mesh, at);
  let best: { face: number; place: Place; rank: number } | null = null;
  for (const face of faces)
    for (const place of exitsOf(mesh, face, at, plane)) {
      const way = sub(pointAt(mesh, place), p);
      const rank = ahead ? dot(way, ahead) : 1 / (1 + dot(way, way));
      if (rank > 0 && (!best || rank > best.rank)) best = { face, place, rank };
    }
  return best;
}

function exitsOf(mesh: PolyMesh, f: number, entry: Place, { point, normal }: Plane): Place[] {
  const side = (v: number): number => dot(normal, sub(mesh.point(v), point));
  const exits: Place[] = [];
  for (const h of mesh.faceHalves(f)) {
    const [u, v] = [mesh.origin(h), mesh.target(h)];
    const [a, b] = [side(u), side(v)];
    let place: Place | null = null;
    if (a === 0) place = { vertex: u };
    else if (b !== 0 && a < 0 !== b < 0) {
      const t = a / (a - b);
      place =
        t < CORNER ? { vertex: u } : t > 1 - CORNER ? { vertex: v } : { edge: h >> 1, at: h % 2 === 0 ? t : 1 - t };
    }
    if (!place || samePlace(place, entry) || liesBeside(mesh, place, entry)) continue;
    exits.push(place);
  }
  return exits;
}

/** A crossing that is the end of the edge it began on leads nowhere. */
function liesBeside(mesh: PolyMesh, place: Place, entry: Place): boolean {
  const ends = (e: number): number[] => [mesh.origin(2 * e), mesh.target(2 * e)];
  if ('edge' in entry && 'vertex' in place) return ends(entry.edge).includes(place.vertex);
  return 'vertex' in entry && 'edge' in place && ends(place.edge).includes(entry.vertex);
}

/** The places between two, cut straight through by a plane that holds both. Throws NO_WAY where the surface ends between. */
export function straightCut(mesh: PolyMesh, from: Place, to: Place, plane: Plane): Place[] {
  const ahead = sub(pointAt(mesh, to), pointAt(mesh, from));
  const { places, reached } = march(mesh, from, plane, ahead, to);
  if (!reached)
    throw new TopologyError('NO_WAY', 'The surface ends between two points of the cut; go round the gap with further points.'); // prettier-ignore
  return places;
}
