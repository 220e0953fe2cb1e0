import { ball, blend, carve, ellipsoid, type Field } from '@half-loop/studies';
import { along, limb, sector, type Bead } from './chains';

/** A head with eight arms, each curled its own way. */
export const octopus: Field = (x, y, z) => {
  let d = blend(ellipsoid(x, y - 0.75, z + 0.1, 0.5, 0.65, 0.55), ball(x, y - 0.15, z, 0.38), 0.3);
  d = blend(d, ball(Math.abs(x) - 0.34, y - 0.45, z - 0.3, 0.13), 0.06);
  for (const arm of ARMS) d = blend(d, limb(x, y, z, arm), 0.12);
  return d;
};
const ARMS = Array.from({ length: 8 }, (_, i) => {
  const a = ((i + 0.5) * Math.PI) / 4;
  const curl = [0.9, -0.6, 1.4, -1.1, 0.7, -1.3, 1, -0.8][i];
  return along(14, (t) => {
    const r = 0.25 + 1.75 * t, turn = a + curl * t * t; // prettier-ignore
    return [
      r * Math.cos(turn),
      -0.15 + 0.5 * (t - 0.5) ** 2 * (i % 2 ? 1 : -0.6),
      r * Math.sin(turn),
      0.17 - 0.135 * t,
    ];
  });
});

/** Five arms, a hand's breadth thick, with knobs in rows. */
export const starfish: Field = (x, y, z) => {
  const [r, s] = sector(x, z, 5);
  let d = ellipsoid(x, y, z, 0.6, 0.3, 0.6);
  d = blend(d, limb(r, 1.3 * y, s, STAR_ARM), 0.3);
  for (let i = 0; i < 6; i++) d = blend(d, ball(r - 0.35 - 0.24 * i, y - 0.27 + 0.035 * i, s, 0.055), 0.04);
  return d;
};
const STAR_ARM: Bead[] = [[0, 0, 0, 0.42], [0.9, 0, 0, 0.3], [1.8, 0.1, 0, 0.12]]; // prettier-ignore

/** A snout, a ridged belly, a fin on the back, a tail that coils twice without touching itself. */
export const seahorse: Field = (x, y, z) => {
  let d = limb(x, y, z, SEAHORSE_BODY, 0.1);
  d = blend(d, limb(x, y, z, SEAHORSE_SNOUT, 0.05), 0.1);
  d = blend(d, limb(x, y, z, SEAHORSE_TAIL), 0.08);
  d = blend(d, ellipsoid(x + 0.42, y - 0.05, z, 0.22, 0.35, 0.05), 0.05);
  d = blend(d, ball(x - 0.12, y - 1.22, Math.abs(z) - 0.17, 0.08), 0.03);
  return d + 0.012 * Math.sin(26 * y) * Math.max(0, 1 - Math.abs(y) / 0.9);
};
const SEAHORSE_BODY: Bead[] = [[0, 1.2, 0, 0.24], [-0.2, 0.8, 0, 0.2], [0, 0.25, 0, 0.36], [0, -0.3, 0, 0.27], [-0.1, -0.8, 0, 0.18], [-0.1, -1.25, 0, 0.16]]; // prettier-ignore
const SEAHORSE_SNOUT: Bead[] = [[0.1, 1.2, 0, 0.16], [0.5, 1.02, 0, 0.085], [0.72, 0.92, 0, 0.1]]; // prettier-ignore
const SEAHORSE_TAIL = along(26, (t) => {
  const a = -2.8 + 9.5 * t, r = 0.75 - 0.55 * t; // prettier-ignore
  return [0.62 + r * Math.cos(a), -1.02 + r * Math.sin(a), 0, 0.16 - 0.12 * t];
});

/** Wings that thin out to their rims, and a whip of a tail. */
export const ray: Field = (x, y, z) => {
  const out = Math.abs(x);
  const chord = 0.9 * (1 - (out / 2.05) ** 1.6);
  const lift = 0.12 * out * out;
  const wing = ellipsoid(x / 2, y - lift, (z + 0.2 * out) / Math.max(chord, 0.15), 1, 0.3 - 0.13 * Math.min(out, 2), 1);
  let d = blend(0.6 * wing, ellipsoid(x, y, z, 0.5, 0.27, 1), 0.15);
  d = blend(d, limb(x, y, z, RAY_TAIL), 0.08);
  return blend(d, limb(out, y, z, RAY_HORN), 0.08);
};
const RAY_TAIL: Bead[] = [[0, 0, -0.8, 0.1], [0.1, 0.1, -1.7, 0.06], [-0.1, 0.25, -2.6, 0.03]]; // prettier-ignore
const RAY_HORN: Bead[] = [[0.3, 0.02, 0.8, 0.1], [0.24, 0, 1.25, 0.06]]; // prettier-ignore

/** A shell with a rim over four flippers, a beaked head, a stub of a tail. */
export const turtle: Field = (x, y, z) => {
  const shell = carve(ellipsoid(x, y, z, 1, 0.55, 1.25), -y - 0.12, 0.08);
  let d = blend(shell, ellipsoid(x, y + 0.02, z, 1.12, 0.1, 1.38), 0.08);
  d = blend(d, ellipsoid(x, y + 0.12, z, 0.85, 0.25, 1.1), 0.05);
  const s = Math.abs(x);
  d = blend(d, limb(s, y, z, FLIPPER, 0.1), 0.06);
  d = blend(d, limb(s, y, z, HIND, 0.1), 0.06);
  d = blend(d, limb(x, y, z, [[0, -0.05, 1.1, 0.2], [0, 0.1, 1.6, 0.17], [0, 0.12, 1.75, 0.24], [0, 0.02, 2, 0.1]], 0.1), 0.06); // prettier-ignore
  return blend(
    d,
    limb(x, y, z, [
      [0, -0.08, -1.2, 0.12],
      [0, -0.1, -1.7, 0.04],
    ]),
    0.06,
  );
};
const FLIPPER: Bead[] = [
  [0.7, -0.12, 0.8, 0.2],
  [1.3, -0.16, 0.95, 0.15],
  [1.9, -0.2, 0.4, 0.07],
];
const HIND: Bead[] = [
  [0.6, -0.12, -0.9, 0.16],
  [1.05, -0.18, -1.4, 0.09],
];

/** A long body on four legs: a horn on the snout, a crest along the back, a tail that thins out, all in its middle. */
export const newt: Field = (x, y, z) => {
  const s = Math.abs(x);
  let d = limb(s, y, z, NEWT_BODY, 0.15);
  d = blend(d, limb(s, y, z, NEWT_TAIL, 0.05), 0.1);
  d = blend(d, limb(s, y, z, [[0, 0.3, 1.75, 0.09], [0, 0.62, 1.95, 0.035]]), 0.04); // prettier-ignore
  d = blend(d, ellipsoid(s, y - 0.35, z + 0.1, 0.05, 0.35, 0.75), 0.06);
  d = blend(d, ball(s - 0.2, y - 0.3, z - 1.45, 0.1), 0.03);
  for (const leg of [NEWT_ARM, NEWT_LEG]) d = blend(d, limb(s, y, z, leg, 0.06), 0.08);
  return d;
};
const NEWT_BODY: Bead[] = [[0, 0.12, 1.85, 0.13], [0, 0.15, 1.45, 0.28], [0, 0.1, 1, 0.22], [0, 0.08, 0.2, 0.4], [0, 0.05, -0.7, 0.27]]; // prettier-ignore
const NEWT_TAIL: Bead[] = [[0, 0.05, -0.7, 0.26], [0, -0.05, -1.5, 0.16], [0, 0.05, -2.2, 0.09], [0, 0.3, -2.7, 0.04]]; // prettier-ignore
const NEWT_ARM: Bead[] = [
  [0.2, 0, 0.75, 0.15],
  [0.65, -0.15, 0.85, 0.11],
  [0.8, -0.5, 0.95, 0.09],
];
const NEWT_LEG: Bead[] = [
  [0.15, 0, -0.4, 0.16],
  [0.6, -0.1, -0.55, 0.12],
  [0.75, -0.5, -0.5, 0.09],
];

/** A ball with thirty-two spines of two lengths. */
export const urchin: Field = (x, y, z) => {
  let d = ellipsoid(x, y, z, 0.8, 0.65, 0.8);
  for (const spine of SPINES) d = blend(d, limb(x, y, z, spine), 0.08);
  return d;
};
const SPINES = Array.from({ length: 32 }, (_, i): Bead[] => {
  const y = 1 - (2 * (i + 0.5)) / 32, a = i * Math.PI * (3 - Math.sqrt(5)), r = Math.sqrt(1 - y * y); // prettier-ignore
  const long = i % 3 ? 1.15 : 1.6;
  return [[0.5 * r * Math.cos(a), 0.5 * y, 0.5 * r * Math.sin(a), 0.1], [long * r * Math.cos(a), long * y, long * r * Math.sin(a), 0.035]]; // prettier-ignore
});

/** A hand, the fingers spread and bent a little, cut off at the wrist. */
export const hand: Field = (x, y, z) => {
  let d = blend(ellipsoid(x, y, z, 0.48, 0.5, 0.2), limb(x, y, z, [[0, -0.3, 0, 0.24], [0, -1.3, 0, 0.22]]), 0.25); // prettier-ignore
  for (const finger of FINGERS) d = blend(d, limb(x, y, z, finger, 0.05), 0.09);
  return Math.max(d, -y - 1.1);
};
const FINGERS: Bead[][] = [
  ...[-0.36, -0.12, 0.12, 0.35].map((x, i): Bead[] => {
    const long = [0.75, 1, 1.08, 0.95][i], lean = 0.28 * x; // prettier-ignore
    return [[x, 0.25, 0, 0.13], [x + lean * 0.6, 0.25 + 0.5 * long, 0.02, 0.12], [x + lean, 0.25 + 0.8 * long, 0.09, 0.105], [x + 1.2 * lean, 0.25 + long, 0.18, 0.09]]; // prettier-ignore
  }),
  [
    [0.25, -0.3, 0.05, 0.18],
    [0.62, 0, 0.16, 0.13],
    [0.8, 0.3, 0.2, 0.1],
  ],
];

/** A bell with eight strands that hang from its rim, and four broad frills in the middle. */
export const jellyfish: Field = (x, y, z) => {
  const dome = carve(ellipsoid(x, y, z, 1, 0.85, 1), ellipsoid(x, y + 0.25, z, 0.86, 0.8, 0.86), 0.04);
  let d = Math.max(dome, -y - 0.1);
  const [r, s] = sector(x, z, 8);
  d = blend(
    d,
    limb(r, y, s, [
      [0.93, -0.02, 0, 0.08],
      [0.85, -0.8, 0.04, 0.055],
      [0.95, -1.6, 0, 0.04],
    ]),
    0.05,
  );
  const [q, p] = sector(x, z, 4);
  return blend(d, ellipsoid(q - 0.2, y + 0.35, p, 0.14, 0.95, 0.06), 0.1);
};
