import { TopologyError } from '../../errors';
import { add, addScaled, axisVector, cross, dot, length, lerp, meanPoint, normalize, ontoPlane, pathThrough, planeDistance, scale, sub, turned, type MirrorPlane, type Path, type Vec3 } from '../../math'; // prettier-ignore
import type { Ground } from '../ground';
import type { Sectors } from '../solid/sectors';

/** A closed line round a limb, run counter-clockwise seen against the way that the rings go; or the part of it that one half, or one sector, holds. */
export interface RingSection {
  path: Path;
  centre: Vec3;
  normal: Vec3;
  /** into how many parts the whole falls: 1, 2 at a mirror, or as many as there are sectors */
  parts: number;
  /** the ends of the part: exactly in the midline, or each other's images; null where it closes */
  ends: readonly [Vec3, Vec3] | null;
}

/** Which part of a ring is laid. */
export interface RingPart {
  /** the side of the mirror, 1 or −1 */
  side: number;
  /** where a sector's part begins, as seen from the axis; null: so that a point that is asked for lies in its middle */
  from: Vec3 | null;
}

/**
 * The section of a limb at a point, square to a direction: whole, or what one half or one sector has of it. Throws NO_WAY where there is none, or it does not close.
 * Cost: a section of the form, or two.
 */
export function sectionAt(at: Vec3, normal: Vec3, ground: Ground, part: RingPart): RingSection {
  const { plane, sectors } = ground;
  if (sectors && !plane && windsRound(loopAt(at, normal, ground), sectors.sectors)) return sectorSection(at, normal, ground, sectors.sectors, part.from); // prettier-ignore
  const whole = loopAt(at, normal, ground);
  const crosses = plane !== null && whole.some((q) => planeDistance(q, plane) > 0) && whole.some((q) => planeDistance(q, plane) < 0); // prettier-ignore
  if (!plane || !crosses) return sectionOf(whole, normal, 1);
  // square to the mirror, so that both halves are one ring
  const flat = normalize(sub(normal, scale(axisVector(`+${plane.axis}`), dot(normal, axisVector(`+${plane.axis}`)))));
  if (length(flat) === 0) throw new TopologyError('OFF_MIDLINE', 'This ring would lie in the mirror itself; draw across the limb.'); // prettier-ignore
  return sectionOf(halfOf(loopAt(at, flat, ground), plane, part.side), flat, 2);
}

/** The loop nearest to a point, counter-clockwise seen against the limb's direction. */
function loopAt(at: Vec3, normal: Vec3, { form }: Ground): Vec3[] {
  if (!form?.section)
    throw new TopologyError('NO_WAY', 'Rings are laid round a sculpt, a guide body or another piece; choose what points stick to.'); // prettier-ignore
  const section = form.section(at, normal);
  if (!section) throw new TopologyError('NO_WAY', 'The surface ends here: there is nothing to lay a ring round.');
  if (!section.closed)
    throw new TopologyError('NO_WAY', 'The surface is open here, so the ring does not close; draw a row along it instead.'); // prettier-ignore
  return leftTurning(section.points, normal);
}

function sectionOf(points: readonly Vec3[], normal: Vec3, parts: number): RingSection {
  const path = pathThrough(points, parts === 1);
  if (!path) throw new TopologyError('NO_WAY', 'The surface is too thin here for a ring.');
  return {
    path,
    centre: meanPoint(evenly(path, 32)),
    normal,
    parts,
    ends: parts === 1 ? null : [points[0], points[points.length - 1]],
  };
}

/** The longest stretch of a loop on one side of the mirror, its ends exactly in it. */
function halfOf(loop: readonly Vec3[], plane: MirrorPlane, side: number): Vec3[] {
  const n = loop.length;
  const isOn = (p: Vec3): boolean => planeDistance(p, plane) * side > 0;
  let best: Vec3[] = [];
  for (let i = 0; i < n; i++) {
    if (isOn(loop[i]) || !isOn(loop[(i + 1) % n])) continue;
    const run = [crossingOf(loop[i], loop[(i + 1) % n], plane)];
    let k = i + 1;
    for (; isOn(loop[k % n]); k++) run.push(loop[k % n]);
    run.push(crossingOf(loop[(k + n - 1) % n], loop[k % n], plane));
    if (run.length > best.length) best = run;
  }
  return best;
}
function crossingOf(a: Vec3, b: Vec3, plane: MirrorPlane): Vec3 {
  const [da, db] = [planeDistance(a, plane), planeDistance(b, plane)];
  return ontoPlane(lerp(a, b, da === db ? 0.5 : da / (da - db)), plane);
}

/** Whether a loop goes once round the axis of some sectors. */
function windsRound(loop: readonly Vec3[], { axis, about }: Sectors): boolean {
  const way = axisVector(`+${axis}`);
  const out = loop.map((p) => outwards(p, about, way));
  const sum = out.reduce((total, u, i) => total + angleBetween(u, out[(i + 1) % out.length], way), 0);
  return Math.abs(sum) > Math.PI;
}
const outwards = (p: Vec3, about: Vec3, way: Vec3): Vec3 => addScaled(sub(p, about), way, -dot(sub(p, about), way));
/** By how much a direction turns to another, counter-clockwise seen against `way`; radians, −π to π. */
const angleBetween = (u: Vec3, w: Vec3, way: Vec3): number => Math.atan2(dot(cross(u, w), way), dot(u, w));

/** What one sector has of a section that goes round the axis: from a direction on, to exactly the image of its start. */
function sectorSection(at: Vec3, normal: Vec3, ground: Ground, sectors: Sectors, from: Vec3 | null): RingSection {
  const way = axisVector(`${dot(normal, axisVector(`+${sectors.axis}`)) < 0 ? '-' : '+'}${sectors.axis}`);
  const loop = loopAt(at, way, ground);
  const n = loop.length;
  const span = (2 * Math.PI) / sectors.count;
  const out = (p: Vec3): Vec3 => outwards(p, sectors.about, way);
  const begin = from ? outwards(from, [0, 0, 0], way) : turned(out(at), [0, 0, 0], way, -span / 2);
  const angles = loop.map((p) => angleBetween(begin, out(p), way));
  // where it passes the direction forwards, not the far side of the axis
  const k = angles.findIndex((a, i) => a < 0 && angles[(i + 1) % n] >= 0 && angles[(i + 1) % n] - a < Math.PI);
  if (k < 0) throw new TopologyError('NO_WAY', 'The surface does not go round the axis here.');
  const [a, b] = [angles[k], angles[(k + 1) % n]];
  const start = lerp(loop[k], loop[(k + 1) % n], -a / (b - a));
  const points = [start];
  for (let i = 1; i < n && angles[(k + i) % n] < span && angles[(k + i) % n] >= 0; i++) points.push(loop[(k + i) % n]);
  points.push(turned(start, sectors.about, way, span));
  return sectionOf(points, way, sectors.count);
}

/** So many points at even steps along a path. */
export const evenly = (path: Path, n: number, from = 0): Vec3[] =>
  Array.from({ length: n }, (_, i) => path.at(from + (path.length * i) / n).point);

/** Which way round a loop runs, seen against a direction: positive for counter-clockwise. */
export function turnOf(points: readonly Vec3[], normal: Vec3): number {
  let sum: Vec3 = [0, 0, 0];
  for (let i = 1; i + 1 < points.length; i++) sum = add(sum, cross(sub(points[i], points[0]), sub(points[i + 1], points[0]))); // prettier-ignore
  return dot(sum, normal);
}
const leftTurning = (points: readonly Vec3[], normal: Vec3): Vec3[] =>
  turnOf(points, normal) > 0 ? [...points] : [...points].reverse();
