import type { TriangleData } from '@half-loop/core/surface';
import * as head from './blennyHead';
import { displace } from './displace';
import { latticeNoise } from './noise';
import { ball, blend, carve, common, cone, ellipsoid } from './sdf';
import { surfaceNets } from './surfaceNets';

const trunk = (x: number, y: number, z: number): number =>
  cone(x * 1.12, y, z, [0, 6.0, 0], [0, 5.6, -9.5], 3.35, 2.35);
const cut = (z: number): number => -(z + 8.6);
const belly = (x: number, y: number, z: number): number => ellipsoid(x, y - 3.6, z + 3.2, 2.4, 1.6, 4.6);
/** The pebble that the bust stands on, with its neck. */
const pebble = (x: number, y: number, z: number): number =>
  blend(ellipsoid(x, y - 0.75, z + 3.4, 3.3, 0.85, 4.3), cone(x, y, z, [0, 2.0, -3.6], [0, 3.4, -3.8], 1.8, 1.7), 1.4);

/** Top of the back, and how high the dorsal fin stands over it. */
const back = (z: number): number => 9.35 + 0.1 * z;
const DORSAL = { spacing: 1.05, first: -0.2, last: -8.3 } as const;
function dorsalFin(x: number, y: number, z: number): number {
  const along = (DORSAL.first - z) / (DORSAL.first - DORSAL.last);
  const height = 3.5 * Math.sqrt(Math.max(0, Math.min(1, along * 4))) * (1 - 0.18 * along);
  const wave = Math.cos(((z + y * 0.3 - 2.5) * 2 * Math.PI) / DORSAL.spacing);
  const top = back(z) + height * (0.86 + 0.14 * wave);
  const thick = 0.13 + 0.075 * (wave + 1) * Math.max(0.2, 1 - (y - back(z)) / 5);
  const ends = Math.max(z - DORSAL.first - (y - back(z)) * -0.35, DORSAL.last - z);
  return common(common(x - thick, (y - top) * 0.6, 0.12), Math.max(ends, back(z) - 2.5 - y), 0.15);
}

const FIN_ROOT = [2.75, 4.3, -2.9] as const;
/** The pectoral fin: a fan of ten rays with a scalloped rim, standing off the body. */
function pectoralFin(x: number, y: number, z: number): number {
  const dx = x - FIN_ROOT[0], dy = y - FIN_ROOT[1], dz = z - FIN_ROOT[2]; // prettier-ignore
  const u = dx * 0.62 - dz * 0.785,
    w = dx * 0.785 + dz * 0.62;
  const angle = Math.atan2(dy + 0.35 * u, u);
  const r = Math.hypot(dy + 0.35 * u, u);
  const rays = Math.cos(angle * 13);
  const rim = 4.3 * (0.93 + 0.07 * rays) * (1 - 0.12 * Math.abs(angle));
  const cup = 0.12 * Math.sin(angle * 2) + 0.05 * r;
  const sheet = Math.abs(w - cup) - (0.13 + 0.05 * (rays + 1) + 0.2 * Math.max(0, 1 - r / 2));
  return common(
    common(sheet, (r - rim) * 0.8, 0.12),
    Math.max(angle - 1.15, -0.78 - angle) * Math.max(0.4, r) * 0.8,
    0.15,
  );
}
const finRoot = (x: number, y: number, z: number): number => ellipsoid(x - 2.6, y - 4.2, z + 2.6, 0.75, 1.25, 0.8);

/** The pelvic fins: two pairs of fingers that the fish props itself up on. */
function pelvicFins(x: number, y: number, z: number): number {
  const hip = cone(x, y, z, [0.9, 3.2, 1.1], [1.25, 2.0, 1.9], 0.6, 0.45);
  const front = cone(x, y, z, [1.25, 2.0, 1.9], [1.75, 0.32, 3.1], 0.42, 0.28);
  const rear = cone(x, y, z, [1.25, 2.0, 1.8], [2.35, 0.32, 2.1], 0.4, 0.28);
  return blend(hip, blend(front, rear, 0.3), 0.35);
}

/** The Blenny bust as a field: some thirty parts, mirrored across x = 0. Centimetres. */
export function blennyField(x0: number, y: number, z: number): number {
  const x = Math.abs(x0);
  let d = blend(trunk(x, y, z), head.skull(x, y, z), 1.8);
  d = blend(d, belly(x, y, z), 1.0);
  d = common(d, cut(z), 0.9);
  d = blend(d, head.cheek(x, y, z), 0.9);
  d = blend(d, head.chin(x, y, z), 0.7);
  d = blend(d, head.nape(x, y, z), 0.7);
  d = blend(d, head.brow(x, y, z), 0.45);
  d = carve(d, head.socket(x, y, z), 0.3);
  d = blend(d, head.upperLid(x, y, z), 0.22);
  d = blend(d, head.lowerLid(x, y, z), 0.22);
  d = blend(d, head.eyeball(x, y, z), 0.12);
  d = carve(d, head.mouth(x, y, z), 0.25);
  d = blend(d, head.upperLip(x, y, z), 0.32);
  d = blend(d, head.lowerLip(x, y, z), 0.32);
  d = carve(d, ellipsoid(x, y - 4.6 + 0.085 * x * x - 0.1 * x, z - 3.2, 2.5, 0.2, 2.9), 0.14);
  d = blend(d, head.teeth(x, y, z), 0.06);
  d = blend(d, head.nostril(x, y, z), 0.2);
  d = blend(d, head.gillCover(x, y, z), 0.35);
  d = blend(d, head.gillRidges(x, y, z), 0.2);
  d = carve(d, head.gillSlit(x, y, z), 0.22);
  d = blend(d, head.browTuft(x, y, z), 0.3);
  d = blend(d, finRoot(x, y, z), 0.5);
  d = blend(d, pectoralFin(x, y, z), 0.3);
  d = blend(d, dorsalFin(x, y, z), 0.35);
  d = blend(d, pelvicFins(x, y, z), 0.4);
  for (const [px, py, pz, r] of WARTS) d = blend(d, ball(x - px, y - py, z - pz, r), 0.25);
  return blend(d, pebble(x, y, z), 0.7);
}

const WARTS = [
  [0.35, 9.75, 3.5, 0.24], [0.5, 9.95, 2.6, 0.2], [2.75, 7.0, 2.4, 0.2], [2.6, 6.4, 3.0, 0.17], [2.2, 6.1, 3.75, 0.17], [1.6, 6.2, 4.5, 0.16],
] as const; // prettier-ignore

/** The Blenny bust sculpt: about 150,000 triangles at the standard cell; a coarser cell for tests. Seeded detail, cm. */
export function blenny(cell = 0.109): TriangleData {
  const base = surfaceNets(blennyField, { min: [-6.6, -0.9, -9.4], max: [6.6, 14.4, 7.2], cell });
  const grain = latticeNoise(41),
    skin = latticeNoise(7);
  return displace(base, (x0, y, z) => {
    const x = Math.abs(x0);
    const eye = Math.min(1, Math.max(0, head.eyeball(x, y, z) * 4));
    const blotch = 0.5 + 0.5 * skin(x * 0.5, y * 0.5, z * 0.5);
    const rows = Math.sin(z * 5.5 + Math.sin(y * 5.5) * 0.7) * Math.sin(y * 5.5);
    const scales = z < -1.5 && y > 2.4 ? 0.022 * rows * Math.min(1, (-1.5 - z) / 2) : 0;
    return eye * (0.035 * blotch * grain(x * 2.4, y * 2.4, z * 2.4) + 0.012 * grain(x * 6, y * 6, z * 6) + scales);
  });
}
