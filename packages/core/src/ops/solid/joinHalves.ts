import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { AXES, isOnPlane, ontoPlane, planeDistance, type MirrorPlane } from '../../math';
import { chainsOf, reweave, type PolyMesh } from '../../mesh';
import { makeReal } from '../makeReal';
import { operator, plural } from '../operator';
import { choice, proposedLength } from '../params';
import { meanLength, only } from '../picked';
import { pairsWithin } from '../weld';

const Params = z.object({
  half: choice('The other half', [['mirror', 'is mirrored from this one'], ['there', 'is there already']], 'mirror'), // prettier-ignore
  axis: choice('Across', [['x', 'x'], ['y', 'y'], ['z', 'z']], 'x'), // prettier-ignore
  at: proposedLength('Plane at', 'Empty: at zero'),
  within: proposedLength('Points join within', 'Empty: a tenth of an edge'),
});

/**
 * Joins two halves at a plane: the one that is there and its mirror image, or two that are there. First the border ring is checked: its
 * points are brought into the plane, its edges counted, and each point's partner found. Afterwards no edge may be open in the
 * plane. Refuses (OFF_MIDLINE) points on both sides of the mirror, (COUNTS_DIFFER) points without a partner, and (NO_WAY) what stays open.
 * Cost: the mesh.
 */
export const joinHalves = operator({
  name: 'join-halves',
  title: 'Join halves',
  params: Params,
  run(mesh, _selection, { half, axis, at, within }, ground) {
    if (ground.plane)
      throw new TopologyError('NO_WAY', 'Symmetry is on, so the halves are joined already; make the mirror real instead.'); // prettier-ignore
    const plane: MirrorPlane = { axis: AXES[AXES.indexOf(axis as 'x')], offset: at ?? 0 };
    const reach = within ?? 0.1 * meanLength(mesh, mesh.edges());
    const ring = ringIn(mesh, plane, reach);
    if (ring.edges.length === 0)
      throw new TopologyError('NO_WAY', `No open border lies within ${Number(reach.toPrecision(3))} of the plane; move the half to it, or join from further off.`); // prettier-ignore
    for (const v of ring.off) mesh.setPoint(v, ontoPlane(mesh.point(v), plane));
    const joined = half === 'mirror' ? mirrorOver(mesh, plane) : weldOver(mesh, ring, reach);
    const open = ringIn(mesh, plane, 0).edges;
    if (open.length > 0)
      throw new TopologyError('NO_WAY', `${plural(open.length, 'edge')} would stay open in the plane.`, { edges: open }); // prettier-ignore
    const chains = ring.counts.length;
    const words = [
      `${plural(chains, 'border ring')} of ${ring.counts.join(' and ')} edges in one plane`,
      ring.off.length > 0 && `${plural(ring.off.length, 'point')} brought onto it`,
      ring.counts.some((n) => n % 2 === 1) && 'a count is odd',
      joined,
      'nothing left open',
    ];
    return {
      selection: only({}),
      report: { sentence: words.filter(Boolean).join(', '), counts: { rings: chains, edges: ring.edges.length, moved: ring.off.length } }, // prettier-ignore
    };
  },
});

interface Ring {
  edges: number[];
  vertices: Set<number>;
  /** points that are near the plane, not on it */
  off: number[];
  /** edges of each run */
  counts: number[];
}

/** Border edges with both ends within `reach` of the plane. */
function ringIn(mesh: PolyMesh, plane: MirrorPlane, reach: number): Ring {
  const isNear = (v: number): boolean => Math.abs(planeDistance(mesh.point(v), plane)) <= reach;
  const edges = [...mesh.edges()].filter((e) => mesh.isBorderEdge(e) && isNear(mesh.origin(2 * e)) && isNear(mesh.target(2 * e))); // prettier-ignore
  const vertices = new Set(edges.flatMap((e) => [mesh.origin(2 * e), mesh.target(2 * e)]));
  return {
    edges,
    vertices,
    off: [...vertices].filter((v) => !isOnPlane(mesh.point(v), plane)),
    counts: chainsOf(mesh, edges).map(({ halves }) => halves.length),
  };
}

function mirrorOver(mesh: PolyMesh, plane: MirrorPlane): string {
  const sides = [1, -1].map((side) => [...mesh.vertices()].filter((v) => planeDistance(mesh.point(v), plane) * side > 0)); // prettier-ignore
  const fewer = sides[0].length < sides[1].length ? sides[0] : sides[1];
  if (fewer.length > 0)
    throw new TopologyError('OFF_MIDLINE', `${plural(fewer.length, 'point')} lie beyond the plane, where the mirrored half will be; move the plane or the points.`, { vertices: fewer }); // prettier-ignore
  return makeReal.run(mesh, only({}), plane, { plane: null, form: null }).report.sentence;
}

/** Pairs the ring's points across, whatever lies between them and the plane, and welds each. */
function weldOver(mesh: PolyMesh, ring: Ring, reach: number): string {
  const pairs = pairsWithin(mesh, 2 * reach, ring.vertices);
  const paired = new Set(pairs.flat());
  const alone = [...ring.vertices].filter((v) => !paired.has(v));
  if (alone.length > 0)
    throw new TopologyError('COUNTS_DIFFER', `${plural(alone.length, 'point')} of the border rings (${ring.counts.join(' and ')} edges) have no partner; insert the missing loops, or join from further off.`, { vertices: alone }); // prettier-ignore
  reweave(mesh, new Map(pairs));
  return `${plural(pairs.length, 'pair')} welded`;
}
