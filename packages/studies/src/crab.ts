import type { Vec3 } from '@half-loop/core/math';
import type { TriangleData } from '@half-loop/core/surface';
import { along, ARM, FINGER, THUMB, WRIST, type Limb } from './crabLine';
import { displace } from './displace';
import { latticeNoise } from './noise';
import { ball, blend, carve, common, cone, ellipsoid, ring } from './sdf';
import { surfaceNets } from './surfaceNets';

/** A place on a limb as a frame: x, away from the line in its plane, and along it. */
interface Frame {
  y: number;
  z: number;
  ay: number;
  az: number;
}
function frameAt(limb: Limb, t: number): Frame {
  const { point, ahead } = along(limb, t);
  return { y: point[1], z: point[2], ay: ahead[1], az: ahead[2] };
}
/** The part of (y, z) that leads away from the line, and the part along it. */
const away = (y: number, z: number, f: Frame): number => (y - f.y) * f.az - (z - f.z) * f.ay;
const ahead = (y: number, z: number, f: Frame): number => (y - f.y) * f.ay + (z - f.z) * f.az;

interface Capsule {
  p: Vec3;
  q: Vec3;
  r: number;
  s: number;
}
/** A run of capsules along a limb, as thick as `radius` says. */
function capsules(limb: Limb, steps: number, radius: (t: number) => number): Capsule[] {
  return Array.from({ length: steps }, (_, i) => {
    const a = i / steps, b = (i + 1) / steps; // prettier-ignore
    return { p: along(limb, a).point, q: along(limb, b).point, r: radius(a), s: radius(b) };
  });
}
function shaft(x: number, y: number, z: number, parts: readonly Capsule[]): number {
  let d = Infinity;
  for (const { p, q, r, s } of parts) {
    const part = cone(x, y, z, p, q, r, s);
    d = d === Infinity ? part : blend(d, part, 0.25);
  }
  return d;
}

const armRadius = (t: number): number => 1.35 + 0.75 * t - 0.25 * Math.max(0, t - 0.8) * 5;
const fingerRadius = (t: number): number => 1.42 - 1.12 * t ** 1.3;
const thumbRadius = (t: number): number => 1.55 - 1.25 * t ** 1.2;

const KEEL = frameAt(ARM, 0.55);
const ELBOW_COLLAR = frameAt(ARM, 0.86);
const WRIST_COLLAR = frameAt(WRIST, 0.84);
const FINGER_COLLAR = frameAt(FINGER, 0.13);
const ARM_PARTS = capsules(ARM, 4, armRadius);
const WRIST_PARTS = capsules(WRIST, 3, (t) => 1.45 + 0.75 * t);
const FINGER_PARTS = capsules(FINGER, 6, fingerRadius);
const THUMB_PARTS = capsules(THUMB, 6, thumbRadius);

const arm = (x: number, y: number, z: number): number => shaft(x * 1.12, y, z, ARM_PARTS);
const foot = (x: number, y: number, z: number): number => ellipsoid(x, y - 0.75, z + 1.1, 2.5, 0.95, 2.3);
/** Keels down the arm's back and belly. */
function armKeel(x: number, y: number, z: number): number {
  const v = away(y, z, KEEL), w = ahead(y, z, KEEL); // prettier-ignore
  return common(Math.hypot(x * 0.9, Math.abs(v) - 1.75) - 0.34, Math.abs(w) - 2.6, 0.6);
}
/** The collar that the elbow turns in, and the soft fold inside it. */
const collar = (x: number, y: number, z: number): number => {
  const v = away(y, z, ELBOW_COLLAR), w = ahead(y, z, ELBOW_COLLAR); // prettier-ignore
  return ring(x * 1.05, v, w, 1.75, 0.42, 0.8);
};
const elbow = (x: number, y: number, z: number): number => ball(x * 1.12, y - 9.2, z + 3.6, 1.62);
const fold = (x: number, y: number, z: number): number => ring(y - 8.3, z + 2.2, x * 0.32, 0.55, 0.16);
const wrist = (x: number, y: number, z: number): number => shaft(x * 1.1, y, z, WRIST_PARTS);
function wristCollar(x: number, y: number, z: number): number {
  const v = away(y, z, WRIST_COLLAR), w = ahead(y, z, WRIST_COLLAR); // prettier-ignore
  return ring(x * 1.05, v, w, 2.15, 0.36, 0.9);
}

const palm = (x: number, y: number, z: number): number =>
  blend(
    ellipsoid(x, y - 11.0, z - 3.0, 2.05, 3.15, 3.4),
    blend(ellipsoid(x, y - 12.3, z - 4.6, 1.75, 1.9, 2.4), ellipsoid(x, y - 9.6, z - 4.8, 1.8, 1.8, 2.6), 1.2),
    1.0,
  );
const keel = (x: number, y: number, z: number): number =>
  blend(
    cone(x, y, z, [0, 12.9, -0.2], [0, 14.1, 3.2], 0.28, 0.42),
    cone(x, y, z, [0, 14.1, 3.2], [0, 14.0, 5.6], 0.42, 0.3),
    0.3,
  );
/** The knuckles that the moving finger hinges on, one on each side. */
const knuckle = (x: number, y: number, z: number): number =>
  ellipsoid(Math.abs(x) - 1.35, y - 12.7, z - 6.3, 0.55, 0.85, 0.85);
const finger = (x: number, y: number, z: number): number => shaft(x * 1.15, y, z, FINGER_PARTS);
const thumb = (x: number, y: number, z: number): number => shaft(x * 1.12, y, z, THUMB_PARTS);
function fingerCollar(x: number, y: number, z: number): number {
  const v = away(y, z, FINGER_COLLAR), w = ahead(y, z, FINGER_COLLAR); // prettier-ignore
  return ring(x * 1.1, v, w, 1.34, 0.24, 0.9);
}
/** The web between the fingers, hollowed. */
const web = (x: number, y: number, z: number): number => ellipsoid(x, y - 11.25, z - 7.6, 3, 0.75, 1.5);

/** Blunt teeth on the inner edge of a finger, larger in the middle: y, z and size of each. */
function teethOf(limb: Limb, radius: (t: number) => number, inward: number): [number, number, number][] {
  return Array.from({ length: 7 }, (_, i) => {
    const t = 0.24 + 0.1 * i;
    const f = frameAt(limb, t);
    const out = inward * radius(t) * 0.92;
    return [f.y + out * f.az, f.z - out * f.ay, 0.36 - 0.035 * Math.abs(i - 2)];
  });
}
const TEETH = [...teethOf(FINGER, fingerRadius, -1), ...teethOf(THUMB, thumbRadius, 1)];
function teeth(x: number, y: number, z: number): number {
  let d = Infinity;
  for (const [ty, tz, size] of TEETH) d = Math.min(d, ball(x * 0.85, y - ty, z - tz, size));
  return d;
}

/** Spines along the arm and the wrist, tips forward. */
interface Spine {
  root: Vec3;
  tip: Vec3;
  size: number;
}
const SPINES: readonly Spine[] = [0.3, 0.48, 0.66].flatMap((t) => {
  const f = frameAt(ARM, t);
  const r = armRadius(t);
  return [-1, 1].map((side) => ({
    root: [side * r * 0.62, f.y + f.az * r * 0.6, f.z - f.ay * r * 0.6] as Vec3,
    tip: [side * r * 1.02, f.y + f.az * r * 1.1 + 0.5, f.z - f.ay * r * 1.1] as Vec3,
    size: 0.34,
  }));
});
const THORNS: readonly Spine[] = [
  { root: [0, 11.6, -2.6], tip: [0, 13.4, -2.4], size: 0.42 },
  { root: [1.1, 11.6, -0.6], tip: [1.9, 13.1, -0.1], size: 0.36 },
  { root: [-1.1, 11.6, -0.6], tip: [-1.9, 13.1, -0.1], size: 0.36 },
];
/** Tubercles in rows over both sides of the palm, smaller to the rims. */
const TUBERCLES = Array.from({ length: 24 }, (_, i) => {
  const row = i % 4, step = Math.floor(i / 4); // prettier-ignore
  const y = 9.2 + 1.15 * row + 0.25 * (step % 2), z = 0.9 + 1.05 * step; // prettier-ignore
  const flat = 1 - ((y - 11) / 3.15) ** 2 - ((z - 3) / 3.4) ** 2;
  return { x: 2.02 * Math.sqrt(Math.max(0, flat)), y, z, size: 0.3 - 0.06 * Math.abs(row - 1.5), flat };
}).filter((t) => t.flat > 0.2);
function tubercles(x: number, y: number, z: number): number {
  let d = Infinity;
  for (const t of TUBERCLES) d = Math.min(d, ball(Math.abs(x) - t.x, y - t.y, z - t.z, t.size));
  return d;
}
/** Three barnacles that settled on one side. */
const BARNACLES = [[2.0, 11.9, 3.2, 0.62], [1.9, 10.6, 4.2, 0.45], [1.75, 9.7, 2.6, 0.5]] as const; // prettier-ignore
function barnacle(x: number, y: number, z: number, [bx, by, bz, size]: readonly number[]): number {
  const r = Math.hypot(y - by, z - bz), h = x - bx + 0.25; // prettier-ignore
  const ribs = 1 + 0.07 * Math.cos(9 * Math.atan2(y - by, z - bz));
  const wall = Math.max(r * ribs - size * (1.05 - 0.45 * (h / size)), Math.abs(h - size * 0.35) - size * 0.75);
  return carve(wall * 0.8, Math.max(r - size * 0.42, -(h - size * 0.35)), 0.06);
}

/** The Crab pincer as a field: arm, elbow, wrist, palm, a fixed and a moving finger, and what grew on them. Centimetres. */
export function crabField(x: number, y: number, z: number): number {
  let d = common(blend(arm(x, y, z), foot(x, y, z), 0.9), -y, 0.4);
  d = blend(d, armKeel(x, y, z), 0.5);
  d = blend(d, collar(x, y, z), 0.25);
  d = blend(d, elbow(x, y, z), 0.35);
  d = blend(d, wrist(x, y, z), 0.5);
  d = carve(d, fold(x, y, z), 0.15);
  d = blend(d, palm(x, y, z), 0.45);
  d = blend(d, wristCollar(x, y, z), 0.25);
  d = blend(d, keel(x, y, z), 0.4);
  d = blend(d, thumb(x, y, z), 0.7);
  d = carve(d, web(x, y, z), 0.4);
  d = blend(d, finger(x, y, z), 0.3);
  d = blend(d, fingerCollar(x, y, z), 0.2);
  d = blend(d, knuckle(x, y, z), 0.2);
  if (z > 6) d = blend(d, teeth(x, y, z), 0.14);
  for (const { root, tip, size } of SPINES) d = blend(d, cone(x, y, z, root, tip, size, 0.12), 0.2);
  for (const { root, tip, size } of THORNS) d = blend(d, cone(x, y, z, root, tip, size, 0.12), 0.25);
  if (y < 8 || z < -1 || z > 8) return d;
  d = blend(d, tubercles(x, y, z), 0.12);
  for (const b of BARNACLES) d = blend(d, barnacle(x, y, z, b), 0.08);
  return d;
}

/** The Crab pincer sculpt: about 120,000 triangles at the standard cell. Seeded detail, cm. */
export function crab(cell = 0.099): TriangleData {
  const base = surfaceNets(crabField, { min: [-3.4, -0.9, -6.4], max: [3.4, 15.4, 15.4], cell });
  const grain = latticeNoise(23), pits = latticeNoise(5); // prettier-ignore
  return displace(base, (x, y, z) => {
    const pit = Math.max(0, pits(x * 2.2, y * 2.2, z * 2.2) - 0.35);
    return 0.03 * grain(x * 1.5, y * 1.5, z * 1.5) + 0.012 * grain(x * 4.5, y * 4.5, z * 4.5) - 0.09 * pit;
  });
}
