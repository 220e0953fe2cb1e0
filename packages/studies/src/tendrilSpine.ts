/** The middle line of the Kelp tendril, with a frame and a radius at each sample. */
export interface Spine {
  count: number;
  /** length along the line between samples, cm */
  step: number;
  length: number;
  /** f64[3·count] each */
  point: Float64Array;
  tangent: Float64Array;
  normal: Float64Array;
  binormal: Float64Array;
}

const LENGTH = 46;
const COUNT = 231;

/** Bend per centimetre: two lazy sways, then a curl that tightens to the tip. */
function bend(s: number): number {
  const sway = 0.1 * Math.sin((2 * Math.PI * s) / 21 + 0.4);
  const curl = Math.max(0, (s - 27) / (LENGTH - 27));
  return sway * (1 - Math.min(1, curl * 3)) + 0.78 * curl ** 1.4;
}

/** Integrates the line from the holdfast up; frames by parallel transport with a slow turn. */
export function tendrilSpine(): Spine {
  const step = LENGTH / (COUNT - 1);
  const make = (): Float64Array => new Float64Array(3 * COUNT);
  const spine: Spine = {
    count: COUNT,
    step,
    length: LENGTH,
    point: make(),
    tangent: make(),
    normal: make(),
    binormal: make(),
  };
  let p = [0, 1.6, 0],
    t = [0.12, 0.99, 0.05],
    n = [1, 0, 0];
  for (let i = 0; i < COUNT; i++) {
    const s = i * step;
    t = unit(t);
    n = unit(minus(n, t));
    const b = [t[1] * n[2] - t[2] * n[1], t[2] * n[0] - t[0] * n[2], t[0] * n[1] - t[1] * n[0]];
    spine.point.set(p, 3 * i);
    spine.tangent.set(t, 3 * i);
    spine.normal.set(n, 3 * i);
    spine.binormal.set(b, 3 * i);
    p = p.map((x, k) => x + t[k] * step);
    const k = bend(s) * step,
      drift = 0.035 * Math.cos(s / 6) * step * (s < 30 ? 1 : 0.6);
    t = t.map((x, j) => x + n[j] * k + b[j] * drift);
  }
  return spine;
}

/** n made square to t */
function minus(n: number[], t: number[]): number[] {
  const d = n[0] * t[0] + n[1] * t[1] + n[2] * t[2];
  return n.map((x, k) => x - d * t[k]);
}
function unit(a: number[]): number[] {
  const l = Math.hypot(a[0], a[1], a[2]);
  return a.map((x) => x / l);
}

/** Radius of the stem: a taper with knots every seven centimetres. */
export function stemRadius(s: number): number {
  const taper = 1.75 * Math.max(0, 1 - s / LENGTH) ** 0.8 + 0.34;
  const knot = Math.exp(-(((((s + 3) % 7) - 3.5) / 0.7) ** 2));
  return taper * (1 + 0.1 * knot);
}
