import type { TriangleData } from '@half-loop/core/surface';
import { displace } from './displace';
import { latticeNoise } from './noise';
import { ball, blend, carve, common, cone, ellipsoid } from './sdf';
import { surfaceNets } from './surfaceNets';
import { stemRadius, tendrilSpine, type Spine } from './tendrilSpine';

const spine = tendrilSpine();
/** where the frill and the suckers turn to, radians along the stem */
const twist = (s: number): number => Math.sin(s * 0.16) * (1 - s / 50);

interface Local {
  s: number;
  /** across the stem: away from the curl's inside, and sideways; both turned by the twist */
  out: number;
  side: number;
  /** how far past the spine's ends */
  beyond: number;
}

/** The nearest place on the spine, and the point in its turned frame. */
function local(x: number, y: number, z: number, { count, step, point, normal, binormal, tangent }: Spine): Local {
  let best = Infinity,
    i = 0;
  for (let k = 0; k < count; k++) {
    const dx = x - point[3 * k], dy = y - point[3 * k + 1], dz = z - point[3 * k + 2]; // prettier-ignore
    const d = dx * dx + dy * dy + dz * dz;
    if (d < best) {
      best = d;
      i = k;
    }
  }
  const dx = x - point[3 * i], dy = y - point[3 * i + 1], dz = z - point[3 * i + 2]; // prettier-ignore
  const along = dx * tangent[3 * i] + dy * tangent[3 * i + 1] + dz * tangent[3 * i + 2];
  const n = -(dx * normal[3 * i] + dy * normal[3 * i + 1] + dz * normal[3 * i + 2]);
  const b = dx * binormal[3 * i] + dy * binormal[3 * i + 1] + dz * binormal[3 * i + 2];
  const s = i * step + Math.max(-step, Math.min(step, along));
  const c = Math.cos(twist(s)),
    w = Math.sin(twist(s));
  const isEnd = i === 0 ? along < 0 : i === count - 1 && along > 0;
  return { s, out: n * c + b * w, side: b * c - n * w, beyond: isEnd ? Math.abs(along) : 0 };
}

/** The stem with five ribs wound round it. */
function stem({ s, out, side, beyond }: Local): number {
  const ribs = Math.cos(5 * Math.atan2(side, out) + 0.5 * s);
  return (Math.hypot(out, side, beyond) - stemRadius(s) * (1 + 0.055 * ribs)) * 0.9;
}

/** The ruffled frill along the outside, thickest at its root. */
function frill({ s, out, side, beyond }: Local): number {
  const grow = Math.min(1, Math.max(0, (s - 3) / 6)) * Math.min(1, Math.max(0, (spine.length - 0.5 - s) / 10));
  const height = stemRadius(s) + grow * (1.9 + 0.45 * Math.sin(s * 0.8)) * (0.9 + 0.1 * Math.cos(s * 2.6));
  const lift = Math.max(0, out - stemRadius(s) * 0.7);
  const ruffle = 0.34 * lift * Math.sin(s * 1.3) + 0.06 * lift * Math.sin(s * 3.4 + 1);
  const sheet = (Math.abs(side - ruffle) - 0.27 - 0.12 * Math.max(0, 1 - lift)) * 0.75;
  return common(common(sheet, (out - height) * 0.8, 0.2), Math.max(-out, beyond - 0.1), 0.2);
}

interface Spot {
  s: number;
  at: number[];
  axis: number[];
  size: number;
}

/** A place on the stem's skin at `angle` from the outside, radians. */
function onStem(s: number, angle: number, size: number): Spot {
  const i = Math.min(spine.count - 1, Math.round(s / spine.step));
  const a = angle + twist(s);
  const axis = [0, 1, 2].map((k) => -spine.normal[3 * i + k] * Math.cos(a) + spine.binormal[3 * i + k] * Math.sin(a));
  const r = stemRadius(s);
  return { s, at: [0, 1, 2].map((k) => spine.point[3 * i + k] + axis[k] * r * 0.96), axis, size };
}

/** Two rows of suckers on the inside, closer and smaller towards the tip. */
const SUCKERS: Spot[] = [];
for (let s = 5.5, row = 0; s < spine.length - 3; row++) {
  const r = stemRadius(s);
  SUCKERS.push(onStem(s, Math.PI + (row % 2 === 0 ? 0.48 : -0.48), 0.46 * r));
  s += 0.56 * r + 0.12;
}
const BLADDERS: Spot[] = [9, 14.5, 19.5, 24, 28.5].map((s, i) => onStem(s, i % 2 === 0 ? 1.25 : -1.25, 1.3 - 0.14 * i));

function sucker(x: number, y: number, z: number, { at, axis, size }: Spot): number {
  const dx = x - at[0], dy = y - at[1], dz = z - at[2]; // prettier-ignore
  const h = dx * axis[0] + dy * axis[1] + dz * axis[2];
  const r = Math.sqrt(Math.max(0, dx * dx + dy * dy + dz * dz - h * h));
  const foot = Math.hypot(r, Math.max(0, Math.abs(h) - size * 0.35)) - size * 0.62;
  const rim = Math.hypot(r - size * 0.78, h - size * 0.42) - size * 0.26;
  return carve(blend(foot, rim, size * 0.25), Math.hypot(r, h - size * 0.85) - size * 0.56, size * 0.12);
}

/** A gas bladder: a pear on a stalk, and the blade that it holds up, midrib and waves and all. */
function bladder(x: number, y: number, z: number, { at, axis, size }: Spot): number {
  const point = (h: number): number[] => at.map((p, k) => p + axis[k] * h + (k === 1 ? h * 0.5 : 0));
  const [neck, bulb, top] = [point(0.9), point(1.9 + size * 0.4), point(2.6 + size)];
  const far = Math.hypot(x - bulb[0], y - bulb[1], z - bulb[2]);
  if (far > 9) return far - 7;
  const stalk = cone(x, y, z, at, neck, 0.36, 0.28);
  const pear = blend(
    cone(x, y, z, neck, bulb, 0.28, size * 0.72),
    ball(x - bulb[0], y - bulb[1], z - bulb[2], size),
    0.4,
  );
  const grip = cone(x, y, z, bulb, top, 0.4, 0.24);
  return blend(blend(blend(stalk, pear, 0.3), grip, 0.3), blade(x, y, z, top, axis, size), 0.25);
}

function blade(x: number, y: number, z: number, root: number[], axis: number[], size: number): number {
  const flat = Math.hypot(axis[0], axis[2]) || 1;
  const ox = axis[0] / flat, oz = axis[2] / flat; // prettier-ignore
  const dx = x - root[0], dy = y - root[1], dz = z - root[2]; // prettier-ignore
  const out = dx * ox + dz * oz;
  const length = 3.2 + 2.2 * size;
  const along = 0.5 * out + 0.866 * dy;
  const bow = -0.866 * out + 0.5 * dy + 0.06 * along * along;
  const across = dx * oz - dz * ox;
  const wave = 0.16 * Math.sin(along * 2.1) * Math.abs(across);
  const width =
    1.15 *
    size *
    Math.sqrt(Math.max(0.02, Math.sin(Math.PI * Math.min(1, Math.max(0, 0.06 + (0.94 * along) / length)))));
  const rib = 0.14 * Math.max(0, 1 - Math.abs(across) / 0.3);
  const sheet = Math.abs(bow + wave) - 0.2 - rib;
  return (
    common(common(sheet, (Math.abs(across) - width) * 0.8, 0.2), Math.max(along - length, -along - 0.2), 0.2) * 0.85
  );
}

/** The holdfast: a disc and nine forked claws that grip the floor. */
function holdfast(x: number, y: number, z: number): number {
  let d = ellipsoid(x, y - 1.1, z, 2.1, 1.25, 2.1);
  for (let i = 0; i < 9; i++) {
    const a = (i / 9) * 2 * Math.PI + 0.3 * Math.sin(i * 5);
    const far = 3.9 + 0.9 * Math.sin(i * 3.7);
    const [cx, cz] = [Math.cos(a), Math.sin(a)];
    const knee = [cx * 2.3, 1.05, cz * 2.3];
    const [ax, az] = [Math.cos(a + 0.22), Math.sin(a + 0.22)];
    const [bx, bz] = [Math.cos(a - 0.2), Math.sin(a - 0.2)];
    const claw = blend(
      cone(x, y, z, [cx * 0.9, 1.7, cz * 0.9], knee, 0.62, 0.46),
      Math.min(
        cone(x, y, z, knee, [ax * far, 0.26, az * far], 0.42, 0.24),
        cone(x, y, z, knee, [bx * far * 0.85, 0.26, bz * far * 0.85], 0.38, 0.22),
      ),
      0.3,
    );
    d = blend(d, claw, 0.45);
  }
  return d;
}

/** The Kelp tendril as a field; the curl is open, so that nothing touches itself. Centimetres. */
export function kelpField(x: number, y: number, z: number): number {
  const at = local(x, y, z, spine);
  let d = blend(stem(at), frill(at), 0.3);
  for (const spot of SUCKERS)
    if (Math.abs(spot.s - at.s) < 2.5) d = blend(d, sucker(x, y, z, spot), 0.14 * spot.size + 0.04);
  for (const spot of BLADDERS) d = blend(d, bladder(x, y, z, spot), 0.35);
  return y < 6 ? blend(d, holdfast(x, y, z), 0.8) : d;
}

/** The Kelp tendril sculpt: about 60,000 triangles at the standard cell. Seeded detail, cm. */
export function kelp(cell = 0.2): TriangleData {
  const base = surfaceNets(kelpField, { min: [-14, -1.2, -13], max: [25, 38, 14], cell, slack: 1.9 });
  const grain = latticeNoise(19);
  return displace(
    base,
    (x, y, z) => 0.05 * grain(x * 1.1, y * 0.55, z * 1.1) + 0.025 * grain(x * 2.6, y * 2.6, z * 2.6),
  );
}
