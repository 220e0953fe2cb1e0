import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { alongCurve, distance, dot, lerp, normalize, sub, type Vec3 } from '../../math';
import { chainsOf, NONE, reweave, type PolyMesh, type Selection } from '../../mesh';
import { onMidline, settle, type Ground } from '../ground';
import { operator, plural } from '../operator';
import { share, toggle, VertexId } from '../params';
import { only } from '../picked';
import { beyond, railsOf } from './rails';

const Params = z.object({
  by: share('By', { min: -1, max: 1, start: 0.25, hint: 'Along the edges to one side; negative to the other' }),
  even: toggle('Keep the distance even', false, 'All points go as far as the shortest edge allows'),
  following: toggle('Follow the curvature', true, 'Round forms stay round'),
  weld: toggle('Weld on arrival', false, 'At the end of the edge'),
  /** single vertices: the neighbour that they slide towards */
  towards: z.optional(VertexId),
});

interface Track {
  vertex: number;
  /** half-edge out of the vertex that it slides along */
  rail: number;
}

/**
 * Slides loops, edges or single vertices along their own edges, never past the ends of those. Picked edges slide as
 * chains: positive to the left of each chain, negative to its right. The selection stays.
 */
export const slide = operator({
  name: 'slide',
  title: 'Slide',
  params: Params,
  run(mesh, selection, { by, even, following, weld, towards }, ground) {
    const tracks = tracksOf(mesh, selection, by, towards, ground);
    const lengths = tracks.map(({ vertex, rail }) => distance(mesh.point(vertex), mesh.point(mesh.target(rail))));
    const shortest = Math.min(...lengths);
    const t = Math.abs(by);
    const places = tracks.map(({ rail }, i) => {
      const fraction = even && lengths[i] > 0 ? (t * shortest) / lengths[i] : t;
      return placeOn(mesh, rail, Math.min(1, fraction), following, ground);
    });
    tracks.forEach(({ vertex }, i) => settle(mesh, vertex, places[i], ground));
    let welded = 0;
    if (weld && t === 1 && !even) {
      const arrived = new Map(tracks.map(({ vertex, rail }) => [vertex, mesh.target(rail)]));
      welded = arrived.size;
      reweave(mesh, arrived);
    }
    const how = even ? 'evenly' : `by ${Math.round(t * 100)} %`;
    return {
      selection: welded > 0 ? only({}) : selection,
      report: {
        sentence: `${plural(tracks.length, 'point')} slid ${how}${welded > 0 ? ' and welded' : ''}`,
        counts: { vertices: tracks.length, welded, distance: t * shortest },
      },
    };
  },
});

function tracksOf(
  mesh: PolyMesh,
  selection: Selection,
  by: number,
  towards: number | undefined,
  ground: Ground,
): Track[] {
  const tracks = new Map<number, number>();
  const edges = selection.edges.filter((e) => mesh.hasEdge(e));
  const aim = aimOf(mesh, edges, selection.vertices, towards);
  for (const chain of chainsOf(mesh, edges)) {
    const sides = railsOf(mesh, chain);
    const flip = aim !== null && pointsAway(mesh, sides, aim) ? -1 : 1;
    for (const { vertex, left, right } of sides) {
      const rail = by * flip >= 0 ? left : right;
      if (rail !== NONE && !tracks.has(vertex)) tracks.set(vertex, rail);
    }
  }
  if (edges.length === 0)
    for (const v of selection.vertices) {
      if (!mesh.hasVertex(v)) continue;
      const halves = mesh.vertexHalves(v);
      if (halves.length === 0) continue;
      const direction: Vec3 = aim ?? sub(mesh.point(mesh.target(halves[0])), mesh.point(v));
      const along = (h: number): number => dot(direction, normalize(sub(mesh.point(mesh.target(h)), mesh.point(v)))) * (by >= 0 ? 1 : -1); // prettier-ignore
      tracks.set(
        v,
        halves.reduce((best, h) => (along(h) > along(best) ? h : best)),
      );
    }
  if (ground.plane)
    for (const [v, rail] of tracks)
      if (onMidline(mesh, v, ground) && !onMidline(mesh, mesh.target(rail), ground)) tracks.delete(v);
  if (tracks.size === 0)
    throw new TopologyError('NOTHING_PICKED', 'Pick a loop, edges or points that have edges to slide along.');
  return [...tracks].map(([vertex, rail]) => ({ vertex, rail }));
}

/** The direction that `towards` names: from the picked vertex that it neighbours. */
function aimOf(mesh: PolyMesh, edges: readonly number[], vertices: readonly number[], towards?: number): Vec3 | null {
  if (towards === undefined || !mesh.hasVertex(towards)) return null;
  const ends = new Set([...edges.flatMap((e) => [mesh.origin(2 * e), mesh.target(2 * e)]), ...vertices]);
  const h = mesh.vertexHalves(towards).find((g) => ends.has(mesh.target(g)));
  return h === undefined ? null : sub(mesh.point(towards), mesh.point(mesh.target(h)));
}

function pointsAway(mesh: PolyMesh, sides: { vertex: number; left: number; right: number }[], aim: Vec3): boolean {
  let sum = 0;
  for (const { vertex, left, right } of sides)
    for (const [rail, sign] of [
      [left, 1],
      [right, -1],
    ] as const)
      // prettier-ignore
      if (rail !== NONE) sum += sign * dot(aim, sub(mesh.point(mesh.target(rail)), mesh.point(vertex)));
  return sum < 0;
}

/** The point at a fraction of a rail, on the curve that runs over it when wanted. */
function placeOn(mesh: PolyMesh, rail: number, t: number, following: boolean, ground: Ground): Vec3 {
  const a = mesh.point(mesh.origin(rail)),
    b = mesh.point(mesh.target(rail));
  if (!following) return lerp(a, b, t);
  return alongCurve(beyond(mesh, rail ^ 1, ground), a, b, beyond(mesh, rail, ground), t);
}
