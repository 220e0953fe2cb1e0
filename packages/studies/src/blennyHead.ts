import { ball, blend, carve, common, cone, ellipsoid, ring, turn } from './sdf';

/** Parts of the Blenny's head: x is the distance from the midline (both halves at once), +z the snout, +y up; cm. */
export const EYE = { x: 1.95, y: 8.5, z: 3.0, radius: 1.3 } as const;
/** the eye's axis, unit: outward, forward and a little up */
export const EYE_AXIS = [0.8, 0.3, 0.52] as const;
const AXIS = EYE_AXIS;

/** Along the eye's axis, and across it: up and sideways. */
function eyeFrame(x: number, y: number, z: number): [number, number, number] {
  const dx = x - EYE.x, dy = y - EYE.y, dz = z - EYE.z; // prettier-ignore
  const out = dx * AXIS[0] + dy * AXIS[1] + dz * AXIS[2];
  const up = (dy - out * AXIS[1]) / 0.954;
  const side = (dx * AXIS[2] - dz * AXIS[0]) / 0.954;
  return [out, up, side];
}

export function skull(x: number, y: number, z: number): number {
  const head = ellipsoid(x, y - 6.1, z - 1.2, 3.15, 3.75, 3.9);
  const forehead = ellipsoid(x, y - 7.7, z - 2.5, 2.3, 2.2, 2.35);
  const snout = ellipsoid(x, y - 5.3, z - 3.3, 2.55, 1.9, 2.0);
  return blend(blend(head, forehead, 1.6), snout, 1.2);
}
export const cheek = (x: number, y: number, z: number): number => ball(x - 2.0, y - 4.7, z - 1.9, 1.5);
export const chin = (x: number, y: number, z: number): number => ellipsoid(x, y - 3.2, z - 2.9, 2.0, 0.95, 2.1);
export const nape = (x: number, y: number, z: number): number => ellipsoid(x, y - 9.2, z + 0.4, 0.75, 0.9, 2.4);

export const socket = (x: number, y: number, z: number): number =>
  ball(x - EYE.x - 0.35, y - EYE.y - 0.12, z - EYE.z - 0.22, 1.52);
export function eyeball(x: number, y: number, z: number): number {
  const [out, up, side] = eyeFrame(x, y, z);
  const globe = ball(out, up, side, EYE.radius);
  const pupil = ball(out - EYE.radius - 0.34, up, side, 0.62);
  const iris = ring(up, side, out - 1.06, 0.74, 0.1);
  return carve(carve(globe, pupil, 0.08), iris, 0.08);
}
/** The lids: shells over the globe, open in a lens shape that droops outward. */
export function upperLid(x: number, y: number, z: number): number {
  const [out, up, side] = eyeFrame(x, y, z);
  const shell = Math.abs(ball(out, up, side, EYE.radius + 0.1)) - 0.3;
  const edge = 0.62 - 0.1 * side * side + 0.12 * side - up + 0.2 * (out - 1);
  return common(shell, Math.max(edge, -out - 0.5), 0.16);
}
export function lowerLid(x: number, y: number, z: number): number {
  const [out, up, side] = eyeFrame(x, y, z);
  const shell = Math.abs(ball(out, up, side, EYE.radius + 0.06)) - 0.27;
  const edge = up + 0.72 - 0.12 * side * side;
  return common(shell, Math.max(edge, -out - 0.5), 0.14);
}
export const brow = (x: number, y: number, z: number): number =>
  blend(
    cone(x, y, z, [0.75, 9.5, 3.7], [1.9, 10.05, 2.7], 0.42, 0.5),
    cone(x, y, z, [1.9, 10.05, 2.7], [2.75, 9.3, 1.3], 0.5, 0.3),
    0.3,
  );

/** A brow tuft: a stem that forks into five fingers. */
export function browTuft(x: number, y: number, z: number): number {
  const stem = cone(x, y, z, [1.75, 9.8, 2.6], [1.95, 11.2, 2.35], 0.42, 0.34);
  const fingers = [
    [1.25, 12.7, 2.75], [1.75, 13.5, 2.25], [2.4, 13.2, 1.7], [2.95, 12.4, 1.35], [2.85, 11.5, 2.6],
  ] as const; // prettier-ignore
  let d = stem;
  for (const tip of fingers) d = blend(d, cone(x, y, z, [1.95, 11.1, 2.35], tip, 0.3, 0.17), 0.22);
  return d;
}
export const nostril = (x: number, y: number, z: number): number =>
  carve(
    blend(
      cone(x, y, z, [0.85, 6.9, 4.3], [1.05, 7.35, 5.25], 0.38, 0.33),
      cone(x, y, z, [1.05, 7.3, 5.1], [1.22, 8.1, 5.62], 0.18, 0.18),
      0.15,
    ),
    ball(x - 1.04, y - 7.3, z - 5.56, 0.22),
    0.06,
  );

/** How far the mouth's line hangs below its middle, by distance from the midline. */
const droop = (x: number): number => 0.085 * x * x - 0.1 * x;
const lipArc = (x: number, y: number, z: number, R: number, r: number): number =>
  ring(x * 0.95, (z - 2.05) * 0.84, y, R, r, 0.85);

export const upperLip = (x: number, y: number, z: number): number =>
  lipArc(x, y - 5.12 + droop(x), z, 2.82, 0.5 + 0.05 * Math.cos(x * 1.8));
export const lowerLip = (x: number, y: number, z: number): number => lipArc(x, y - 4.08 + droop(x), z, 2.66, 0.52);
export const mouth = (x: number, y: number, z: number): number =>
  ellipsoid(x, y - 4.6 + droop(x), z - 3.0, 2.75, 0.3, 2.75);
/** The comb of teeth behind the lips. */
export function teeth(x: number, y: number, z: number): number {
  const angle = Math.atan2(x * 0.95, (z - 2.05) * 0.84);
  return ring(x * 0.95, (z - 2.05) * 0.84, (y - 4.9 + droop(x)) * 0.75, 2.46, 0.17 + 0.05 * Math.cos(angle * 34));
}

export function gillCover(x: number, y: number, z: number): number {
  const [u, v] = turn(z + 0.5, y - 5.5, 12);
  return ellipsoid(x - 2.45, v, u, 0.95, 2.45, 2.0);
}
/** The groove behind the gill cover, a crescent open to the front. */
export function gillSlit(x: number, y: number, z: number): number {
  const crescent = ring(z + 0.35, y - 5.5, (x - 2.85) * 0.42, 2.35, 0.26);
  return common(crescent, z + 0.7, 0.2);
}
export const gillRidges = (x: number, y: number, z: number): number => {
  let d = Infinity;
  for (const r of [1.0, 1.5]) d = Math.min(d, common(ring(z + 0.1, y - 5.4, (x - 3.22) * 0.7, r, 0.13), z + 0.2, 0.2));
  return d;
};

/** The mouth's middle line at a distance from the midline: its height, and the direction out of the lips there. */
export function mouthLine(x: number): { y: number; outward: [number, number, number] } {
  const across = Math.min(1, (x * 0.95) / 2.82);
  const z = (Math.sqrt(1 - across * across) * 2.82) / 0.84;
  const l = Math.hypot(x, z);
  return { y: 4.6 - droop(x), outward: [x / l, 0, z / l] };
}
