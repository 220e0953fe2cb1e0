import { addScaled, normalize, scale, sub, type Vec3 } from '@half-loop/core/math';
import { addVertex, PolyMesh } from '@half-loop/core/mesh';
import type { SculptSurface } from '@half-loop/core/surface';
import { along, ARM, FINGER, PALM, THUMB, WRIST, type Limb } from './crabLine';
import { between, layCap, layQuads, layRows } from './layRows';

const SIDES = 14;
const FINGER_SIDES = 8;
const TURN = 2 * Math.PI;

/** Where a ring of the low-poly goes round a limb. */
interface Station {
  limb: Limb;
  t: number;
  /** how far its plane leans from square to the limb, degrees; bisects the bend at a joint */
  lean?: number;
  /** the farthest that a point may be from the middle line, cm */
  reach: number;
}

/** One loop at the elbow and one at the hinge of the finger: too few for the bends, as the demo wants it. */
const BODY: readonly Station[] = [
  { limb: ARM, t: 0.01, reach: 3.2 },
  { limb: ARM, t: 0.06, reach: 3.2 },
  { limb: ARM, t: 0.16, reach: 3 },
  { limb: ARM, t: 0.36, reach: 3 },
  { limb: ARM, t: 0.56, reach: 3 },
  { limb: ARM, t: 0.76, reach: 3 },
  { limb: WRIST, t: 0.02, lean: -38, reach: 2.6 },
  { limb: WRIST, t: 0.6, lean: -8, reach: 3 },
  { limb: PALM, t: 0.02, reach: 3.4 },
  { limb: PALM, t: 0.26, reach: 4 },
  { limb: PALM, t: 0.5, reach: 4.4 },
  { limb: PALM, t: 0.76, reach: 4.4 },
];
const FINGERS = [0.2, 0.34, 0.48, 0.62, 0.76, 0.9, 0.985];

/** Points round a limb where rays from its middle line meet the sculpt, angles from +x through the limb's outside. */
function ringAt(surface: SculptSurface, { limb, t, lean = 0, reach }: Station, angles: readonly number[]): Vec3[] {
  const { point, ahead } = along(limb, t);
  const out: Vec3 = [0, ahead[2], -ahead[1]];
  const a = (lean / 360) * TURN;
  const leaning = normalize(addScaled(scale(out, Math.cos(a)), ahead, Math.sin(a)));
  return angles.map((angle) => {
    const d = addScaled([Math.cos(angle), 0, 0], leaning, Math.sin(angle));
    const hit = surface.raycast(point, d);
    return hit && hit.distance <= reach ? hit.point : surface.closest(addScaled(point, d, reach)).point;
  });
}

/**
 * The Crab pincer's low-poly in the demo: complete and all quads. Fourteen points round the arm and the palm; the palm's last ring
 * parts into two fingers of eight along a strip through the web, which leaves a pole of five at each of its corners.
 */
export function crabRings(surface: SculptSurface): PolyMesh {
  const mesh = new PolyMesh();
  const round = Array.from({ length: SIDES }, (_, i) => ((i + 0.5) / SIDES) * TURN);
  const rows = BODY.map((s) => ringAt(surface, s, round));
  const middle = (p: Vec3): Vec3 => sub(p, nearestOn([ARM, WRIST, PALM], p));
  const ids = layRows(mesh, rows, true, middle);
  layCap(mesh, ids[0], [0, -1, 0]);

  const last = ids[ids.length - 1];
  const web = [0.35, -0.35].map((rise) => addVertex(mesh, webPoint(surface, rise)));
  const ahead = (): Vec3 => [0, 0, 1];
  layQuads(mesh, between([last[0], web[0], last[6]], [last[13], web[1], last[7]], false), ahead);
  layFinger(mesh, surface, [...last.slice(0, 7), web[0]], FINGER, -0.25);
  layFinger(mesh, surface, [...last.slice(7), web[1]], THUMB, 0.25);
  return mesh;
}

/** The place between the fingers that a ray from inside the palm meets, `rise` above the middle. */
function webPoint(surface: SculptSurface, rise: number): Vec3 {
  const from: Vec3 = [0, 11.2 + rise, 4];
  const hit = surface.raycast(from, [0, 0, 1]);
  return hit ? hit.point : from;
}

/** A finger's rings, welded to its base, and its tip; the last point of a ring lies on the inner edge, `turn` of a turn from +x. */
function layFinger(mesh: PolyMesh, surface: SculptSurface, base: number[], limb: Limb, turn: number): void {
  const angles = Array.from({ length: FINGER_SIDES }, (_, i) => ((i + 1) / FINGER_SIDES + turn) * TURN);
  const rows = FINGERS.map((t) => ringAt(surface, { limb, t, reach: 2.2 }, angles));
  const outward = (p: Vec3): Vec3 => sub(p, nearestOn([limb], p));
  const ids = layRows(mesh, rows, true, outward);
  layQuads(mesh, between(base, ids[0], true), outward);
  layCap(mesh, ids[ids.length - 1], along(limb, 1).ahead);
}

function nearestOn(limbs: readonly Limb[], p: Vec3): Vec3 {
  let best: Vec3 = p, least = Infinity; // prettier-ignore
  for (const limb of limbs)
    for (let t = 0; t <= 1; t += 0.05) {
      const { point } = along(limb, t);
      const d = Math.hypot(...sub(p, point));
      if (d < least) [best, least] = [point, d];
    }
  return best;
}
