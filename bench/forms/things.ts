import { ball, blend, carve, cone, ellipsoid, ring, type Field } from '@half-loop/studies';
import { along, box, limb, sector, type Bead } from './chains';

/** A bent blade with a groove, a guard with a bow over the grip, a pommel. */
export const cutlass: Field = (x, y, z) => {
  const bend = 0.07 * (y - 0.2) ** 2;
  const tip = Math.max(0, y - 1.9);
  const wide = 0.22 - 0.5 * tip * tip;
  const across = Math.abs(x - bend);
  const flat = (Math.abs(z) + 0.2 * across - 0.055) / 1.02;
  let d = Math.max(flat, across - Math.max(wide, 0.004), y - 2.55, 0.3 - y);
  d = carve(d, cone(x - bend, y, Math.abs(z), [0, 0.6, 0.075], [0, 1.7, 0.075], 0.045, 0.045), 0.02);
  d = blend(d, box(x, y - 0.26, z, 0.42, 0.06, 0.13, 0.05), 0.03);
  d = blend(d, limb(x, y, z, [[0, 0.2, 0, 0.085], [0, -0.3, 0, 0.1], [0, -0.55, 0, 0.08]]), 0.03); // prettier-ignore
  d = blend(d, limb(x, y, z, BOW), 0.03);
  return blend(d, ellipsoid(x, y + 0.62, z, 0.15, 0.12, 0.12), 0.03);
};
const BOW = along(12, (t): Bead => [0.35 * Math.sin(Math.PI * (0.12 + 0.83 * t)) + 0.06, 0.26 - 0.88 * t, 0, 0.05]);

/** A thin-walled jug with a lip, a handle and a foot. */
export const jug: Field = (x, y, z) => {
  const belly = (grown: number): number => {
    const r = Math.hypot(x, z);
    const wide = 0.45 + 0.32 * Math.cos(1.9 * (y + 0.25)) + 0.12 * Math.max(0, y - 0.75) - grown;
    return 0.8 * (r - wide - (x > 0 && y > 0.7 ? 0.35 * (y - 0.7) * Math.max(0, x / (r + 1e-9)) ** 6 : 0));
  };
  let d = Math.max(belly(0), y - 1.15, -y - 1);
  d = carve(d, Math.max(belly(0.075), -y - 0.9), 0.03);
  d = blend(d, ring(Math.hypot(x, z) - 0.44, y + 1, 0, 0, 0.07), 0.05);
  d = blend(d, limb(x, y, z, HANDLE), 0.06);
  // the handle's ends do not stand out inside, above the floor
  return y < -0.9 ? d : Math.max(d, -belly(0.075));
};
const HANDLE = along(14, (t): Bead => [-0.4 - 0.55 * Math.sin(Math.PI * t), 0.95 - 1.15 * t, 0, 0.075]);

/** A shank with a ring, a stock across it, two arms with flukes. */
export const anchor: Field = (x, y, z) => {
  let d = limb(x, y, z, [[0, 1.3, 0, 0.1], [0, -1.2, 0, 0.15]]); // prettier-ignore
  d = blend(d, ring(x, y - 1.62, z, 0.26, 0.06), 0.04);
  d = blend(d, limb(x, y, z, [[0, 1, -1, 0.07], [0, 1, 1, 0.07]]), 0.03); // prettier-ignore
  d = blend(d, ball(x, y - 1, Math.abs(z) - 1, 0.12), 0.04);
  const s = Math.abs(x);
  d = blend(d, limb(s, y, z, ANCHOR_ARM), 0.06);
  return blend(d, box(s - 1.18, y + 0.42, z, 0.05, 0.3, 0.24 - 0.3 * Math.max(0, y + 0.42), 0.03), 0.05);
};
const ANCHOR_ARM = along(8, (t): Bead => [1.25 * Math.sin(1.35 * t), -1.25 + 0.95 * (1 - Math.cos(1.35 * t)), 0, 0.15 - 0.06 * t]); // prettier-ignore

/** A diver's helmet: a thin-walled ball with three round windows, open at the neck, on a collar with bolts. */
export const helmet: Field = (x, y, z) => {
  let d = blend(ball(x, y, z, 1), Math.max(Math.hypot(x, z) - 0.75, Math.abs(y + 0.9) - 0.25), 0.1);
  d = blend(d, Math.max(Math.hypot(x, z) - 1.1, Math.abs(y + 1.1) - 0.09), 0.06);
  const [r, s] = sector(x, z, 6);
  d = blend(d, ball(r - 0.98, y + 1, s, 0.09), 0.02);
  for (const window of [
    cone(x, y, z, [0, 0.1, 0], [0, 0.1, 1.1], 0.38, 0.38),
    cone(Math.abs(x), y, z, [0, 0.1, 0], [1.1, 0.1, 0.1], 0.27, 0.27),
  ])
    d = carve(blend(d, Math.max(window - 0.09, ball(x, y, z, 1.12)), 0.03), window, 0.02);
  return carve(d, Math.min(ball(x, y, z, 0.9), Math.max(Math.hypot(x, z) - 0.66, y + 0.3)), 0.02);
};

/** A ship's wheel: eight spokes with grips through a rim, a hub with a bore. */
export const wheel: Field = (x, y, z) => {
  const [r, s] = sector(x, y, 8);
  let d = ring(x, y, z, 1.2, 0.13, 0.8);
  d = blend(d, Math.max(Math.hypot(x, y) - 0.32, Math.abs(z) - 0.2), 0.04);
  d = blend(d, limb(r, s, z, [[0.2, 0, 0, 0.08], [0.7, 0, 0, 0.1], [1.2, 0, 0, 0.07], [1.5, 0, 0, 0.09], [1.75, 0, 0, 0.06]], 0.03), 0.03); // prettier-ignore
  return carve(d, Math.hypot(x, y) - 0.12, 0.02);
};

/** A branching stem: five forks, none of which touches another. */
export const coral: Field = (x, y, z) => {
  let d = blend(ellipsoid(x, y + 1, z, 0.7, 0.2, 0.6), limb(x, y, z, [[0, -1, 0, 0.28], [0, -0.3, 0, 0.22]]), 0.2); // prettier-ignore
  for (const branch of BRANCHES) d = blend(d, limb(x, y, z, branch), 0.08);
  return d;
};
const BRANCHES = Array.from({ length: 5 }, (_, i): Bead[][] => {
  const a = (i * 2 * Math.PI) / 5 + 0.4, [c, s] = [Math.cos(a), Math.sin(a)]; // prettier-ignore
  const fork: Bead = [0.55 * c, 0.35 + 0.12 * i, 0.55 * s, 0.14];
  const tip = (turn: number, up: number): Bead[] => [fork, [0.95 * Math.cos(a + turn), up - 0.35, 0.95 * Math.sin(a + turn), 0.11], [1.15 * Math.cos(a + turn), up, 1.15 * Math.sin(a + turn), 0.08]]; // prettier-ignore
  return [[[0, -0.35, 0, 0.2], fork], tip(0.3, 1.1 + 0.1 * i), tip(-0.3, 0.95 + 0.12 * i)];
}).flat();

/** A lantern's cage: two rings, six bars, a roof, a hook. */
export const lantern: Field = (x, y, z) => {
  const [r, s] = sector(x, z, 6);
  let d = limb(r, y, s, [
    [0.7, -0.9, 0, 0.06],
    [0.78, 0, 0, 0.06],
    [0.62, 0.75, 0, 0.06],
  ]);
  for (const [at, wide] of [[-0.9, 0.7], [0.75, 0.62]]) d = blend(d, ring(x, z, y - at, wide, 0.09), 0.05); // prettier-ignore
  d = blend(d, Math.max(Math.hypot(x, z) - 0.72, Math.abs(y + 1) - 0.08), 0.05);
  d = blend(d, Math.max(0.8 * (Math.hypot(x, z) - 0.62 + 0.9 * (y - 0.78)), 0.7 - y, y - 1.3), 0.05);
  return blend(d, ring(x, y - 1.55, z, 0.24, 0.06), 0.05);
};

/** A tube tied into a knot, three times over itself. */
export const knot: Field = (x, y, z) => limb(x, y, z, KNOT, 0.03);
const KNOT = along(90, (t): Bead => {
  const a = 2 * Math.PI * t;
  return [0.5 * (Math.sin(a) + 2 * Math.sin(2 * a)), 0.5 * (Math.cos(a) - 2 * Math.cos(2 * a)), -0.55 * Math.sin(3 * a), 0.26]; // prettier-ignore
});
