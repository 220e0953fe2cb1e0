import type { TriangleData } from '@half-loop/core/surface';
import { displace } from './displace';
import { latticeNoise } from './noise';
import { ball, blend, carve, common, cone } from './sdf';
import { surfaceNets } from './surfaceNets';

const TURN = 2 * Math.PI;
/** The tube's growth in a turn, and the turns that there are. */
const GROWTH = 1.72;
const TURNS = 3.4;
/** The tube at its end: distance of its middle from the axis, how far it lies under the apex, its radius; cm. */
const END = { out: 2.3, under: 8.1, radius: 2.3 } as const;
const APEX = 9.1;
const WALL = 0.34;
/** Where the tube ends round the axis, radians, and over how much of a turn its rim flares. */
const LAST = 0.55;
const FLARE = { over: 1.1, by: 0.42 } as const;
/** How far in from its end the tube is hollow, radians. */
const HOLLOW = 1.5 * TURN;
const KNOBS = { apart: 0.46, first: 0.75, count: 14 } as const;

/** The tube's size at an angle along it, over that at its end. */
const sizeAt = (t: number): number => GROWTH ** ((t - LAST) / TURN);
/** How far the rim has flared, 0 … 1. */
function flareAt(t: number): number {
  const s = Math.min(1, Math.max(0, 1 - (LAST - t) / FLARE.over));
  return s * s * (3 - 2 * s);
}
const middle = (t: number): [number, number] => [END.out * sizeAt(t), APEX - END.under * sizeAt(t)];

/** One whorl's tube, and the hollow in it, at a point of the half-plane at angle t. */
function whorl(r: number, y: number, t: number): { tube: number; hollow: number } {
  const [out, up] = middle(t);
  const size = sizeAt(t);
  const flare = flareAt(t);
  // a little higher than wide, drawn out below
  const dx = (r - out - 0.5 * flare) / (1 + 0.1 * flare);
  const dy = (y - up) * (y < up ? 0.86 : 1);
  const away = Math.hypot(dx, dy);
  const radius = END.radius * size * (1 + FLARE.by * flare);
  return { tube: away - radius, hollow: away - (radius - WALL * (0.6 + 0.4 * size)) };
}

/** The knobs along the shoulder: x, y, z, radius. */
const KNOB_BALLS = Array.from({ length: KNOBS.count }, (_, i) => {
  const t = LAST - KNOBS.first - i * KNOBS.apart;
  const [out, up] = middle(t);
  const size = sizeAt(t);
  const reach = END.radius * size * (1 + FLARE.by * flareAt(t)) * 0.98;
  const r = out + 0.72 * reach;
  return [r * Math.cos(t), up + 0.66 * reach, r * Math.sin(t), 0.5 * size] as const;
});
function knobs(x: number, y: number, z: number): number {
  let d = Infinity;
  for (const [kx, ky, kz, r] of KNOB_BALLS) d = Math.min(d, ball(x - kx, y - ky, z - kz, r));
  return d;
}

/** The Whelk horn as a field: a growing tube round its axis, open at its flared rim. Centimetres. */
export function whelkField(x: number, y: number, z: number): number {
  const r = Math.hypot(x, z);
  const angle = Math.atan2(z, x);
  let d = cone(x, y, z, [0, -0.4, 0], [0, 7.6, 0], 0.75, 0.25);
  let hollow = Infinity;
  // one turn beyond the end too: its half-plane cuts the tube there
  for (let n = 1; n > -TURNS - 1; n--) {
    const t = angle + n * TURN;
    if (t < LAST - TURNS * TURN || t > LAST + TURN / 2) continue;
    const own = whorl(r, y, t);
    const beyond = (t - LAST) * Math.max(0.4, r);
    if (t < LAST + 0.6 && t > LAST - HOLLOW - 0.5) {
      // the inner lip is the whorl before
      const inside = common(own.hollow, 0.06 - whorl(r, y, t - TURN).tube, 0.12);
      hollow = Math.min(hollow, Math.max(inside, (LAST - HOLLOW - t) * r));
    }
    d = blend(d, common(own.tube, beyond, 0.16), 0.22 * sizeAt(Math.min(t, LAST)));
  }
  d = blend(d, knobs(x, y, z), 0.3);
  // the canal that the tube runs out into
  d = blend(d, cone(x, y, z, [1.5, -0.6, 0.4], [0.35, -2.9, 0.1], 0.85, 0.32), 0.7);
  return carve(d, hollow, 0.18);
}

/** The Whelk horn sculpt: about 200,000 triangles at the standard cell; a coarser cell for tests. Seeded detail, cm. */
export function whelk(cell = 0.073): TriangleData {
  const base = surfaceNets(whelkField, { min: [-5.2, -3.6, -5.2], max: [6.2, 11.4, 5.6], cell, slack: 1.9 });
  const grain = latticeNoise(23);
  return displace(base, (x, y, z) => {
    const lines = Math.sin(14 * Math.log(Math.max(0.2, APEX + 0.6 - y))) ** 2;
    return 0.02 * lines * grain(x * 1.4, y * 1.4, z * 1.4) + 0.012 * grain(x * 5, y * 5, z * 5);
  });
}
