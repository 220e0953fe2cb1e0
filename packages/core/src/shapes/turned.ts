import { normalize, scale, type Vec3 } from '../math';
import { ShapeBuilder, type Ends, type Shape } from './Shape';

/** How round forms are divided. */
export interface Round {
  sides: number;
  /** radians from +z of the first point: half a side makes a flat face the axis */
  turn: number;
}

export interface CylinderOptions extends Round {
  radius: number;
  /** of the upper end; 0: a tip */
  top: number;
  height: number;
  rings: number;
  ends: Ends;
}
/** A cylinder or cone on the floor. */
export function cylinder({ radius, top, height, sides, rings, ends, turn }: CylinderOptions): Shape {
  const shape = new ShapeBuilder();
  const rows: number[][] = [];
  for (let j = 0; j <= rings; j++) {
    const t = j / rings;
    if (j === rings && top === 0) break;
    rows.push(shape.ring(sides, radius + (top - radius) * t, height * t, turn));
  }
  for (let j = 0; j + 1 < rows.length; j++) shape.join(rows[j], rows[j + 1]);
  shape.cap(rows[0], ends, false);
  const last = rows[rows.length - 1];
  if (top > 0) shape.cap(last, ends, true);
  else shape.cap(last, 'fan', true, () => [0, height, 0]);
  return shape;
}

/** A pipe with walls: closed, a ring of quads at each end. */
export function tube(
  outer: number,
  inner: number,
  height: number,
  { sides, rings, turn }: Round & { rings: number },
): Shape {
  const shape = new ShapeBuilder();
  const wall = (r: number): number[][] => Array.from({ length: rings + 1 }, (_, j) => shape.ring(sides, r, (height * j) / rings, turn)); // prettier-ignore
  const [out, within] = [wall(outer), wall(inner)];
  for (let j = 0; j < rings; j++) {
    shape.join(out[j], out[j + 1]);
    shape.join(within[j + 1], within[j]);
  }
  shape.join(out[rings], within[rings]);
  shape.join(within[0], out[0]);
  return shape;
}

/** A capsule on the floor: half balls of `rings` rows on a cylinder of `belts` rows. `height` is that of the whole. */
export function capsule(
  radius: number,
  height: number,
  { sides, rings, belts, ends, turn }: Round & { rings: number; belts: number; ends: 'fan' | 'quads' },
): Shape {
  const shape = new ShapeBuilder();
  const straight = Math.max(0, height - 2 * radius);
  const rows: number[][] = [];
  const round = (j: number): number => (j / (rings + 0.5)) * (Math.PI / 2);
  for (let j = rings; j > 0; j--) rows.push(shape.ring(sides, radius * Math.cos(round(j)), radius - radius * Math.sin(round(j)), turn)); // prettier-ignore
  const waist = straight > 0 ? belts : 0;
  for (let j = 0; j <= waist; j++) rows.push(shape.ring(sides, radius, radius + (straight * j) / Math.max(1, waist), turn)); // prettier-ignore
  for (let j = 1; j <= rings; j++) rows.push(shape.ring(sides, radius * Math.cos(round(j)), radius + straight + radius * Math.sin(round(j)), turn)); // prettier-ignore
  for (let j = 0; j + 1 < rows.length; j++) shape.join(rows[j], rows[j + 1]);
  shape.cap(rows[0], ends, false, ontoBall([0, radius, 0], radius));
  shape.cap(rows[rows.length - 1], ends, true, ontoBall([0, radius + straight, 0], radius));
  return shape;
}

/** A ball by rings: `rings` bands of faces from end to end. */
export function ringedBall(
  radius: number,
  { sides, rings, ends, turn }: Round & { rings: number; ends: 'fan' | 'quads' },
): Shape {
  const shape = new ShapeBuilder();
  const rows = Array.from({ length: rings - 1 }, (_, j) => {
    const a = ((j + 1) / rings) * Math.PI;
    return shape.ring(sides, radius * Math.sin(a), radius - radius * Math.cos(a), turn);
  });
  for (let j = 0; j + 1 < rows.length; j++) shape.join(rows[j], rows[j + 1]);
  const onto = ontoBall([0, radius, 0], radius);
  shape.cap(rows[0], ends, false, onto);
  shape.cap(rows[rows.length - 1], ends, true, onto);
  return shape;
}

/** A ring lying on the floor: `sides` round the whole, `around` round the tube. */
export function torus(radius: number, tubeRadius: number, { sides, turn, around }: Round & { around: number }): Shape {
  const shape = new ShapeBuilder();
  const rows = Array.from({ length: around }, (_, j) => {
    const a = (j / around) * 2 * Math.PI;
    return shape.ring(sides, radius - tubeRadius * Math.cos(a), tubeRadius * (1 - Math.sin(a)), turn);
  });
  rows.forEach((row, j) => shape.join(row, rows[(j + 1) % around]));
  return shape;
}

/** Points inside a ring of a ball, pushed out onto it. */
const ontoBall =
  (centre: Vec3, radius: number) =>
  (p: Vec3): Vec3 => {
    const d = normalize([p[0] - centre[0], p[1] - centre[1], p[2] - centre[2]]);
    const q = scale(d, radius);
    return [centre[0] + q[0], centre[1] + q[1], centre[2] + q[2]];
  };
