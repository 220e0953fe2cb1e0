import type { Vec3 } from '../math';
import type { SculptSurface } from './SculptSurface';
import type { FormLines } from './FormLines';
import type { Section } from './isoLines';
import { sectionNear } from './section';

/** Triangles walked over before the tree is asked instead. */
const MOST_STEPS = 48;
/** A foot this much further away than the last one, over the sculpt's diagonal, may be on another sheet: the tree decides. */
const FAR = 0.004;

/**
 * Nearest points of a sculpt for points that move little by little: each key's foot is walked from the triangle where
 * it was last, downhill over edges and corners, and the tree is asked only when a key is new, the walk goes on too long, or
 * ends far off. A walked foot stays on its own sheet, so that a point cannot jump across a fold.
 *
 * A walked query costs 1–2 µs.
 */
export class WalkingForm {
  /** key → triangle + 1 */
  private readonly last = new Map<number, number>();
  private readonly foot = new Float64Array(4);

  /** lines on the sculpt that edges keep to */
  lines: FormLines | null = null;

  constructor(readonly surface: SculptSurface) {}

  /** Where a ray meets the form first. */
  ray(from: Vec3, direction: Vec3): Vec3 | null {
    return this.surface.raycast(from, direction)?.point ?? null;
  }

  /** The line in which a plane cuts the form, nearest to a point. */
  section(near: Vec3, normal: Vec3): Section | null {
    return sectionNear(this.surface, near, normal);
  }

  /** Lets a new key start where another one was found last: for points that come up beside known ones. */
  startAt(key: number, beside: number): void {
    const known = this.last.get(beside);
    if (known !== undefined) this.last.set(key, known);
  }

  closest(p: Vec3, key?: number): { point: Vec3; normal: Vec3 } {
    const before = key === undefined ? undefined : this.last.get(key);
    let triangle = before === undefined ? null : this.walk(p, before);
    let point: Vec3;
    if (triangle === null) {
      const hit = this.surface.closest(p);
      triangle = hit.triangle;
      point = hit.point;
    } else point = [this.foot[0], this.foot[1], this.foot[2]];
    if (key !== undefined) this.last.set(key, triangle);
    return { point, normal: this.surface.triangleNormal(triangle) };
  }

  /** The triangle of the nearest foot downhill from `from`, left in `foot`; null when the walk must not be trusted. */
  private walk(p: Vec3, from: number): number | null {
    const { indices, diagonal } = this.surface;
    const { starts, around } = this.surface.around;
    let at = from;
    let region = this.footOn(p, at);
    let best = this.foot[3];
    const first = best;
    for (let step = 0; region !== INSIDE; step++) {
      if (step === MOST_STEPS) return null;
      let next = -1;
      // the foot lies on a corner or side: only triangles round those corners can be nearer
      for (let k = 0; k < 3; k++) {
        if (!(region & (1 << k))) continue;
        const v = indices[3 * at + k];
        for (let i = starts[v]; i < starts[v + 1]; i++) {
          const t = around[i];
          if (t === at) continue;
          this.footOn(p, t);
          if (this.foot[3] >= best * (1 - 1e-12)) continue;
          best = this.foot[3];
          next = t;
        }
      }
      region = this.footOn(p, next < 0 ? at : next);
      if (next < 0) break;
      at = next;
    }
    const d = Math.sqrt(best);
    return d > FAR * diagonal && d > 0.5 * Math.sqrt(first) ? null : at;
  }

  /** Nearest point of a triangle into `foot` (xyz and squared distance); which corners it lies on, INSIDE for none. */
  private footOn(p: Vec3, t: number): number {
    const { positions: q, indices } = this.surface;
    const a = 3 * indices[3 * t], b = 3 * indices[3 * t + 1], c = 3 * indices[3 * t + 2]; // prettier-ignore
    const ux = q[b] - q[a], uy = q[b + 1] - q[a + 1], uz = q[b + 2] - q[a + 2]; // prettier-ignore
    const vx = q[c] - q[a], vy = q[c + 1] - q[a + 1], vz = q[c + 2] - q[a + 2]; // prettier-ignore
    const wx = p[0] - q[a], wy = p[1] - q[a + 1], wz = p[2] - q[a + 2]; // prettier-ignore
    const d1 = ux * wx + uy * wy + uz * wz, d2 = vx * wx + vy * wy + vz * wz; // prettier-ignore
    const uu = ux * ux + uy * uy + uz * uz, uv = ux * vx + uy * vy + uz * vz, vv = vx * vx + vy * vy + vz * vz; // prettier-ignore
    let s = 0, r = 0, region = 1; // prettier-ignore
    if (d1 > 0 || d2 > 0) {
      const det = uu * vv - uv * uv;
      const x = vv * d1 - uv * d2,
        y = uu * d2 - uv * d1;
      if (det > 0 && x > 0 && y > 0 && x + y < det) {
        s = x / det;
        r = y / det;
        region = INSIDE;
      } else [s, r, region] = this.onSide(d1, d2, uu, uv, vv, x, y, det);
    }
    const fx = q[a] + s * ux + r * vx, fy = q[a + 1] + s * uy + r * vy, fz = q[a + 2] + s * uz + r * vz; // prettier-ignore
    this.foot[0] = fx;
    this.foot[1] = fy;
    this.foot[2] = fz;
    this.foot[3] = (p[0] - fx) ** 2 + (p[1] - fy) ** 2 + (p[2] - fz) ** 2;
    return region;
  }

  /** The best of the three sides, as shares of u and v. */
  private onSide(
    d1: number,
    d2: number,
    uu: number,
    uv: number,
    vv: number,
    x: number,
    y: number,
    det: number,
  ): [number, number, number] {
    const clamp = (t: number): number => (t <= 0 ? 0 : t >= 1 ? 1 : t);
    const toU = uu > 0 ? clamp(d1 / uu) : 0,
      toV = vv > 0 ? clamp(d2 / vv) : 0;
    const ee = uu - 2 * uv + vv;
    const toE = ee > 0 ? clamp((uu - uv - d1 + d2) / ee) : 0;
    // squared distance up to a constant, of the best point on each side
    const onU = y <= 0 || det <= 0 ? uu * toU * toU - 2 * d1 * toU : Infinity,
      onV = x <= 0 || det <= 0 ? vv * toV * toV - 2 * d2 * toV : Infinity;
    const [es, er] = [1 - toE, toE];
    const onE = x + y >= det ? uu * es * es + 2 * uv * es * er + vv * er * er - 2 * (d1 * es + d2 * er) : Infinity;
    if (onU <= onV && onU <= onE) return [toU, 0, toU === 0 ? 1 : toU === 1 ? 2 : 3];
    if (onV <= onE) return [0, toV, toV === 0 ? 1 : toV === 1 ? 4 : 5];
    return [es, er, toE === 0 ? 2 : toE === 1 ? 4 : 6];
  }
}
/** The foot lies inside the triangle: nothing near by is nearer. */
const INSIDE = 0;
