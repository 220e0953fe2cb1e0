import {
  add,
  addScaled,
  dot,
  meanPoint,
  normalize,
  ontoPlane,
  scale,
  sub,
  turned,
  type MirrorPlane,
  type Vec3,
} from '@half-loop/core/math';
import { areaNormal } from '@half-loop/core/mesh';

/** How a row that is drawn out of a border lies to it. */
export interface RowShape {
  /** each spoke square to the border, or along the line from the border's centre */
  spokes: 'square' | 'centre';
  /** of the new row about the border's centre, per cent */
  scale: number;
  /** of the new row about the border's axis, degrees */
  turn: number;
}
export const PLAIN_ROW: RowShape = { spokes: 'square', scale: 100, turn: 0 };

/** An end of a border edge, and which way it is drawn out there. */
interface Spoke {
  from: Vec3;
  outward: Vec3;
}

/**
 * Where the ends of a row go when it is drawn out by a length: along their spokes, then scaled and turned about the centre of the border. A border that goes on
 * in a mirrored half has its centre on the plane, and is not turned.
 */
export function rowPlaces(
  spokes: readonly Spoke[],
  length: number,
  shape: RowShape,
  plane: MirrorPlane | null,
): Vec3[] {
  const points = spokes.map((s) => s.from);
  const middle = meanPoint(points);
  const centre = plane ? ontoPlane(middle, plane) : middle;
  const area = areaNormal(points);
  const axis = dot(area, area) > 0 ? normalize(area) : null;
  return spokes.map(({ from, outward }) => {
    const flat = (p: Vec3): Vec3 => (axis ? addScaled(p, axis, -dot(p, axis)) : p);
    const away = flat(sub(from, centre));
    const isRound = shape.spokes === 'centre' && axis !== null && dot(away, away) > 0;
    const ray = isRound ? scale(normalize(away), Math.sign(dot(away, outward)) || 1) : outward;
    const p = addScaled(from, ray, length);
    if (!axis) return p;
    const d = sub(p, centre);
    // only across the axis: how far out the row lies is the drag's
    const across = flat(d);
    const scaled = add(centre, add(sub(d, across), scale(across, shape.scale / 100)));
    return plane || shape.turn === 0 ? scaled : turned(scaled, centre, axis, (shape.turn * Math.PI) / 180);
  });
}
