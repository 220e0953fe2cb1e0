import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { add, boxCentre, boxOf, isOnPlane, meanPoint, ontoPlane, planeDistance, scale, SIGNED_AXES, sub, turned, type Vec3 } from '../../math'; // prettier-ignore
import type { PolyMesh, Selection } from '../../mesh';
import type { Ground } from '../ground';
import { operator } from '../operator';
import { choice, degrees, plain, proposedLength, shownWhen } from '../params';
import { pickedVertices } from '../picked';

const Params = z.object({
  pivot: choice('Pivot', [['base', 'middle of its base'], ['centre', 'its centre'], ['picked', 'what is picked'], ['typed', 'typed in']], 'base'), // prettier-ignore
  px: shownWhen(proposedLength('Pivot x'), 'pivot', 'typed'),
  py: shownWhen(proposedLength('Pivot y'), 'pivot', 'typed'),
  pz: shownWhen(proposedLength('Pivot z'), 'pivot', 'typed'),
  goes: choice('The pivot goes', [['zero', 'to zero'], ['to', 'where I say'], ['nowhere', 'nowhere']], 'zero'), // prettier-ignore
  x: shownWhen(proposedLength('To x'), 'goes', 'to'),
  y: shownWhen(proposedLength('To y'), 'goes', 'to'),
  z: shownWhen(proposedLength('To z'), 'goes', 'to'),
  tx: degrees('Turn about x', { min: -180, max: 180, start: 0 }),
  ty: degrees('Turn about y', { min: -180, max: 180, start: 0 }),
  tz: degrees('Turn about z', { min: -180, max: 180, start: 0 }),
  size: plain('Size', { min: 0.001, max: 1000, start: 1, step: 0.1 }),
  up: z._default(z.enum(SIGNED_AXES), '+y'),
});
type Params = z.infer<typeof Params>;

/** Where the pivot of a piece is. Throws NOTHING_PICKED when it is to be what is picked, and nothing is. Cost: the points. */
export function pivotOf(
  mesh: PolyMesh,
  selection: Selection,
  p: Pick<Params, 'pivot' | 'px' | 'py' | 'pz' | 'up'>,
): Vec3 {
  if (p.pivot === 'typed') return [p.px ?? 0, p.py ?? 0, p.pz ?? 0];
  if (p.pivot === 'picked')
    return meanPoint(pickedVertices(mesh, selection, 'Pick what the pivot shall be in the middle of.').map((v) => mesh.point(v))); // prettier-ignore
  const box = boxOf([...mesh.vertices()].flatMap((v) => [...mesh.point(v)]));
  const centre = boxCentre(box);
  if (p.pivot === 'centre') return centre;
  const k = ['x', 'y', 'z'].indexOf(p.up[1]);
  return centre.map((c, i) => (i !== k ? c : p.up[0] === '+' ? box.min[k] : box.max[k])) as unknown as Vec3;
}

/**
 * Makes a piece's position, turn and size part of its points: scaled and turned (about x, then y, then z) about its pivot, and the pivot
 * brought to zero or another place. With symmetry the midline must stay in its plane, else it refuses (OFF_MIDLINE).
 * Cost: the points.
 */
export const settlePiece = operator({
  name: 'settle',
  title: 'Settle',
  params: Params,
  run(mesh, selection, p, ground) {
    if (mesh.vertexCount === 0) throw new TopologyError('NOTHING_PICKED', 'There is nothing here to settle.');
    const from = pivotOf(mesh, selection, p);
    const to: Vec3 = p.goes === 'zero' ? [0, 0, 0] : p.goes === 'to' ? [p.x ?? 0, p.y ?? 0, p.z ?? 0] : from;
    const place = (q: Vec3): Vec3 => {
      let d = scale(sub(q, from), p.size);
      for (const [axis, by] of [
        [[1, 0, 0], p.tx],
        [[0, 1, 0], p.ty],
        [[0, 0, 1], p.tz],
      ] as [Vec3, number][])
        if (by !== 0) d = turned(d, [0, 0, 0], axis, (by * Math.PI) / 180);
      return add(to, d);
    };
    const places = [...mesh.vertices()].map((v): [number, Vec3] => [
      v,
      keptInPlane(mesh, v, place(mesh.point(v)), ground),
    ]);
    for (const [v, q] of places) mesh.setPoint(v, q);
    const at = to.map((c) => Number(c.toPrecision(4))).join(', ');
    return {
      selection,
      report: {
        sentence: `Settled with its pivot at ${at}`,
        counts: { vertices: places.length, px: from[0], py: from[1], pz: from[2] },
      },
    };
  },
});

function keptInPlane(mesh: PolyMesh, v: number, to: Vec3, { plane }: Ground): Vec3 {
  if (!plane) return to;
  const was = planeDistance(mesh.point(v), plane),
    is = planeDistance(to, plane);
  if (!isOnPlane(mesh.point(v), plane) && was * is > 0) return to;
  if (isOnPlane(mesh.point(v), plane) && Math.abs(is) <= 1e-9 * (1 + Math.max(...to.map(Math.abs)))) return ontoPlane(to, plane); // prettier-ignore
  throw new TopologyError('OFF_MIDLINE', 'This would take the midline out of its plane: make the mirror real first, or keep to turns and moves along the plane.', { vertices: [v] }); // prettier-ignore
}
