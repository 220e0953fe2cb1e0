import { levelSet, seededRng, type Rng, type Vec3 } from '../math';

/** Signed distance, more or less: negative inside. */
type Field = (p: Vec3) => number;

/** A surface of triangles that nobody has tuned anything to, and what was done to it. */
export interface WildShape {
  positions: Float64Array;
  indices: number[];
  /** mirrored over x = 0 */
  isMirrored: boolean;
  made: string[];
}

/**
 * A shape by seed: bodies with limbs, handles, through-holes, sharp cuts and noise; several parts or one; open or closed; about every
 * third with the faults that files come with (faces turned, doubled, missing or stuck to others, points unwelded). Cost: a grid of 40³ to 80³ places.
 */
export function wildShape(seed: number): WildShape {
  const rng = seededRng(seed);
  const made: string[] = [];
  const isMirrored = rng() < 0.2;
  const solid = solidOf(rng, made);
  const field: Field = isMirrored ? ([x, y, z]) => solid([Math.abs(x), y, z]) : solid;
  const cells = Math.round(between(rng, 40, 80));
  const reach = 2.4;
  const c = (2 * reach) / cells;
  const origin = [-reach, -reach, -reach].map((x) => x + 1e-3 * rng());
  const n = cells + 1;
  const values = new Float64Array(n * n * n);
  for (let i = 0; i < values.length; i++) {
    const at: Vec3 = [i % n, Math.floor(i / n) % n, Math.floor(i / (n * n))];
    const isRim = at.some((x) => x === 0 || x === cells);
    values[i] = isRim ? reach : field([0, 1, 2].map((k) => origin[k] + c * at[k]) as unknown as Vec3) || 1e-9;
  }
  const { positions, indices } = levelSet(values, origin, [n, n, n], c);
  const opened = rng() < 0.25 ? openedBy(rng, positions, indices, made) : indices;
  const shape = { positions, indices: opened, isMirrored, made };
  return rng() < 0.35 ? spoiled(rng, shape) : shape;
}

const between = (rng: Rng, lo: number, hi: number): number => lo + (hi - lo) * rng();
const whole = (rng: Rng, lo: number, hi: number): number => Math.floor(between(rng, lo, hi + 1));
const placeIn = (rng: Rng, size: number): Vec3 => [0, 1, 2].map(() => between(rng, -size, size)) as unknown as Vec3;
const away = (a: Vec3, b: Vec3): number => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
const wayOf = (rng: Rng): Vec3 => {
  for (;;) {
    const d = placeIn(rng, 1);
    const l = Math.hypot(...d);
    if (l > 0.1 && l <= 1) return d.map((x) => x / l) as unknown as Vec3;
  }
};

/** Union with a fillet of about `k`. */
function blended(a: number, b: number, k: number): number {
  const h = Math.max(0, k - Math.abs(a - b)) / k;
  return Math.min(a, b) - (h * h * k) / 4;
}

function solidOf(rng: Rng, made: string[]): Field {
  const count = rng() < 0.25 ? whole(rng, 2, 4) : 1;
  if (count > 1) made.push(`${count} bodies`);
  const bodies = Array.from({ length: count }, () => bodyOf(rng, count > 1 ? 0.55 : 1, made));
  const places = bodies.map(() => placeIn(rng, count > 1 ? 1.2 : 0.1));
  const noise = rng() < 0.4 ? { size: between(rng, 0.01, 0.06), often: between(rng, 4, 20) } : null;
  if (noise) made.push(`noise of ${noise.size.toFixed(3)}`);
  const cut = rng() < 0.25 ? { way: wayOf(rng), at: between(rng, 0.1, 0.6) } : null;
  if (cut) made.push('cut flat');
  return (p) => {
    let d = Infinity;
    bodies.forEach(
      (body, i) => (d = Math.min(d, body([p[0] - places[i][0], p[1] - places[i][1], p[2] - places[i][2]]))),
    );
    if (noise)
      d +=
        noise.size * Math.sin(noise.often * p[0] + 1) * Math.sin(noise.often * p[1] + 2) * Math.sin(noise.often * p[2]);
    return cut ? Math.max(d, p[0] * cut.way[0] + p[1] * cut.way[1] + p[2] * cut.way[2] - cut.at) : d;
  };
}

function bodyOf(rng: Rng, size: number, made: string[]): Field {
  const isBox = rng() < 0.3;
  const half: Vec3 = [between(rng, 0.5, 1) * size, between(rng, 0.4, 1) * size, between(rng, 0.4, 0.9) * size];
  const limbs = Array.from({ length: whole(rng, 0, 5) }, () => limbOf(rng, size));
  const rings = Array.from({ length: rng() < 0.4 ? whole(rng, 1, 3) : 0 }, () => ringOf(rng, size));
  const bores = Array.from({ length: rng() < 0.3 ? whole(rng, 1, 3) : 0 }, () => ({ way: wayOf(rng), at: placeIn(rng, 0.3 * size), radius: between(rng, 0.08, 0.25) * size })); // prettier-ignore
  made.push(`${isBox ? 'box' : 'ball'} with ${limbs.length} limbs, ${rings.length} rings, ${bores.length} bores`);
  const fillet = between(rng, 0.02, 0.3) * size;
  return (p) => {
    let d = isBox
      ? boxed(p, half)
      : (Math.hypot(p[0] / half[0], p[1] / half[1], p[2] / half[2]) - 1) * Math.min(...half);
    for (const part of [...limbs, ...rings]) d = blended(d, part(p), fillet);
    for (const { way, at, radius } of bores) {
      const q: Vec3 = [p[0] - at[0], p[1] - at[1], p[2] - at[2]];
      const on = q[0] * way[0] + q[1] * way[1] + q[2] * way[2];
      d = Math.max(d, radius - Math.hypot(q[0] - on * way[0], q[1] - on * way[1], q[2] - on * way[2]));
    }
    return d;
  };
}

function boxed(p: Vec3, half: Vec3): number {
  const d = p.map((x, k) => Math.abs(x) - half[k]);
  return Math.min(0, Math.max(...d)) + Math.hypot(...d.map((x) => Math.max(0, x)));
}

/** A tapering limb from the middle outwards, bent once. */
function limbOf(rng: Rng, size: number): Field {
  const way = wayOf(rng);
  const bend = wayOf(rng);
  const [long, thick] = [between(rng, 0.9, 1.9) * size, between(rng, 0.1, 0.3) * size];
  const tip = thick * between(rng, 0.35, 1);
  const at = (t: number): Vec3 => [0, 1, 2].map((k) => long * (t * way[k] + 0.3 * t * t * bend[k])) as unknown as Vec3;
  const spots = Array.from({ length: 7 }, (_, i) => at(i / 6));
  return ([x, y, z]) => {
    let d = Infinity;
    for (let i = 0; i + 1 < spots.length; i++) {
      const [a, b] = [spots[i], spots[i + 1]];
      const dx = b[0] - a[0], dy = b[1] - a[1], dz = b[2] - a[2]; // prettier-ignore
      const along = ((x - a[0]) * dx + (y - a[1]) * dy + (z - a[2]) * dz) / (dx * dx + dy * dy + dz * dz);
      const t = Math.min(1, Math.max(0, along));
      const off = (x - a[0] - t * dx) ** 2 + (y - a[1] - t * dy) ** 2 + (z - a[2] - t * dz) ** 2;
      d = Math.min(d, Math.sqrt(off) - (thick + ((tip - thick) * (i + t)) / 6));
    }
    return d;
  };
}

function ringOf(rng: Rng, size: number): Field {
  const way = wayOf(rng);
  const middle = wayOf(rng).map((x) => x * between(rng, 0.6, 1) * size);
  const [radius, thick] = [between(rng, 0.3, 0.55) * size, between(rng, 0.08, 0.15) * size];
  return (p) => {
    const q = p.map((x, k) => x - middle[k]);
    const up = q.reduce((s, x, k) => s + x * way[k], 0);
    const flat = Math.hypot(...q.map((x, k) => x - up * way[k]));
    return Math.hypot(flat - radius, up) - thick;
  };
}

function openedBy(rng: Rng, p: Float64Array, indices: number[], made: string[]): number[] {
  made.push('opened');
  const centre = placeIn(rng, 1.2);
  const radius = between(rng, 0.3, 1);
  const kept: number[] = [];
  for (let i = 0; i < indices.length; i += 3) {
    const v = 3 * indices[i];
    if (away([p[v], p[v + 1], p[v + 2]], centre) > radius) kept.push(indices[i], indices[i + 1], indices[i + 2]);
  }
  return kept.length > indices.length / 3 ? kept : indices;
}

/** With some of the faults that files come with. */
function spoiled(rng: Rng, { positions, indices, isMirrored, made }: WildShape): WildShape {
  let p = [...positions];
  let out: number[] = [];
  const rate = between(rng, 0.0005, 0.01);
  const [turns, doubles, misses, fins] = [rng() < 0.5, rng() < 0.5, rng() < 0.3, rng() < 0.4];
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = indices.slice(i, i + 3);
    const roll = rng();
    if (misses && roll < rate / 10) continue;
    out.push(...(turns && roll < 2 * rate && roll > rate ? [a, c, b] : [a, b, c]));
    if (doubles && roll > 1 - rate) out.push(b, c, a);
    if (!fins || roll < 0.5 || roll > 0.5 + rate / 20) continue;
    p.push(p[3 * a] + 0.05, p[3 * a + 1] + 0.05, p[3 * a + 2] + 0.02);
    out.push(a, b, p.length / 3 - 1);
  }
  const isSoup = rng() < 0.4;
  if (isSoup) {
    p = out.flatMap((v) => p.slice(3 * v, 3 * v + 3));
    out = out.map((_, i) => i);
  }
  const faults = [turns && 'turned faces', doubles && 'doubled faces', misses && 'missing faces', fins && 'fins', isSoup && 'unwelded'].filter((x) => x !== false); // prettier-ignore
  return { positions: Float64Array.from(p), indices: out, isMirrored, made: [...made, ...faults] };
}
