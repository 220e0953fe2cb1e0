import { cross, distance, dot, lerp, meanPoint, normalize, sub, type Vec3 } from '../../math';
import type { TriMesh } from '../form/TriMesh';

/** A place on the form. */
export interface Spot {
  t: number;
  at: Vec3;
}

/** By what share of the way to the middle of their triangle ways begin inside it. */
const INSIDE = 1e-4;
/** No way is followed through more triangles. */
const MOST = 4000;

/** Ways over the triangles of a form in planes: what a cut through it looks like. */
export class Sections {
  constructor(private readonly mesh: TriMesh) {}

  /** From a place so far to either side in the plane square to `along`, or as far as the form goes: two ways that both begin there. Cost: the triangles passed. */
  across(spot: Spot, along: Vec3, far: number): { left: Spot[]; right: Spot[] } {
    const side = cross(along, this.normal(spot.t));
    const other: Vec3 = [-side[0], -side[1], -side[2]];
    return { left: this.walk(spot, along, side, far), right: this.walk(spot, along, other, far) };
  }

  /** From a place `toward` one side in the plane through it with that `normal`, so far or to a border: where it enters each triangle, which is given with the place, and where it ends. Cost: the triangles passed. */
  walk(start: Spot, normal: Vec3, toward: Vec3, far: number): Spot[] {
    const way: Spot[] = [start];
    // a plane that only touches the triangle, along an edge, would cut nothing
    const level = dot(normal, lerp(start.at, meanPoint(this.corners(start.t)), INSIDE));
    let [{ t, at }, by, gone] = [start, -1, 0];
    for (let i = 0; i < MOST; i++) {
      const out = this.leaving(t, by, normal, level, by < 0 ? { at, toward } : null);
      if (!out) return way;
      const step = distance(at, out.at);
      if (gone + step >= far) {
        way.push({ t, at: lerp(at, out.at, step > 0 ? (far - gone) / step : 0) });
        return way;
      }
      gone += step;
      by = this.mesh.twin[out.half];
      if (by >= 0) t = Math.floor(by / 3);
      at = out.at;
      way.push({ t, at });
      if (by < 0) return way;
    }
    return way;
  }

  /** Where a plane leaves a triangle, other than by the half-edge that it came in by; at a start on the side that is looked to. */
  private leaving(
    t: number,
    by: number,
    normal: Vec3,
    level: number,
    start: { at: Vec3; toward: Vec3 } | null,
  ): { half: number; at: Vec3 } | null {
    let best: { half: number; at: Vec3 } | null = null;
    let ahead = -Infinity;
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      if (h === by) continue;
      const [a, b] = [this.point(this.mesh.from[h]), this.point(this.mesh.to(h))];
      const [over, under] = [dot(normal, a) - level, dot(normal, b) - level];
      if (over >= 0 === under >= 0) continue;
      const at = lerp(a, b, over / (over - under));
      const own = start ? dot(start.toward, sub(at, start.at)) : 0;
      if (own > ahead) [best, ahead] = [{ half: h, at }, own];
    }
    return best;
  }

  /** The unit normal of a triangle. */
  normal(t: number): Vec3 {
    const [a, b, c] = this.corners(t);
    return normalize(cross(sub(b, a), sub(c, a)));
  }
  corners(t: number): [Vec3, Vec3, Vec3] {
    const { from } = this.mesh;
    return [this.point(from[3 * t]), this.point(from[3 * t + 1]), this.point(from[3 * t + 2])];
  }
  point(v: number): Vec3 {
    const { points: p } = this.mesh;
    return [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
  }
}

/** The point so far along a way; null where that ends before. Cost: its places. */
export function alongWay(way: readonly Spot[], far: number): Vec3 | null {
  // the last step of a way as long as that may be short of it by a hair
  let left = far * (1 - 1e-6);
  for (let i = 1; i < way.length; i++) {
    const step = distance(way[i - 1].at, way[i].at);
    if (step >= left) return lerp(way[i - 1].at, way[i].at, step > 0 ? left / step : 0);
    left -= step;
  }
  return null;
}
