import { addScaled, cross, dot, lerp, normalize, sub, type Vec3 } from '../../math';
import { prevHalf, type TriMesh } from '../form/TriMesh';
import type { CrossField } from './field';

/** Where crosses turn by more than this from triangle to triangle, a pole is passed; radians. */
const POLE = 0.7;

/** Where a line is, and which way it goes there. */
export interface Place {
  triangle: number;
  /** the half-edge that it came in by, −1 at a start */
  by: number;
  point: Vec3;
  /** from the triangle's first edge, radians */
  angle: number;
  ahead: Vec3;
}

/** Follows crosses from triangle to triangle. */
export class Tracer {
  constructor(
    private readonly mesh: TriMesh,
    private readonly field: CrossField,
  ) {}

  private at(v: number): Vec3 {
    const { points: p } = this.mesh;
    return [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
  }
  private aheadIn(t: number, angle: number): Vec3 {
    const [a, b, c] = [0, 1, 2].map((k) => this.at(this.mesh.from[3 * t + k]));
    const e = normalize(sub(b, a));
    const f = normalize(cross(cross(e, sub(c, a)), e));
    return addScaled([e[0] * Math.cos(angle), e[1] * Math.cos(angle), e[2] * Math.cos(angle)], f, Math.sin(angle));
  }

  startIn(t: number, quarter: number): Place {
    const [a, b, c] = [0, 1, 2].map((k) => this.at(this.mesh.from[3 * t + k]));
    const angle = this.field.angle[t] + (quarter * Math.PI) / 2;
    return { triangle: t, by: -1, point: lerp(lerp(a, b, 0.5), c, 1 / 3), angle, ahead: this.aheadIn(t, angle) };
  }

  /** The same place, looking so many quarters to its left. */
  turned(place: Place, quarters: number): Place {
    const angle = place.angle + (quarters * Math.PI) / 2;
    return { ...place, angle, ahead: this.aheadIn(place.triangle, angle) };
  }

  /** Through one triangle; its triangle is −1 at a border, null where a pole is. */
  step({ triangle: t, by, point, angle, ahead }: Place): Place | null {
    const { mesh, field } = this;
    let [half, near, to] = [-1, Infinity, point];
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      if (h === by) continue;
      const [a, b] = [this.at(mesh.from[h]), this.at(mesh.to(h))];
      const ab = sub(b, a);
      // square to the edge, into the triangle
      const inward = cross(cross(ab, sub(this.at(mesh.from[prevHalf(h)]), a)), ab);
      const toward = dot(ahead, inward);
      if (toward >= 0) continue;
      const s = dot(sub(a, point), inward) / toward;
      if (s >= near || s < 0) continue;
      const out = addScaled(point, ahead, s);
      const along = dot(sub(out, a), ab) / dot(ab, ab);
      // beyond the edge's ends: it looked out of the triangle by the edge that it came in by
      if (along > -1e-6 && along < 1 + 1e-6) [half, near, to] = [h, s, out];
    }
    if (half < 0) return null;
    const g = mesh.twin[half];
    if (g < 0) return { triangle: -1, by: -1, point: to, angle, ahead };
    const next = Math.floor(g / 3);
    const carried = angle + field.carry[half];
    const turns = Math.round((carried - field.angle[next]) / (Math.PI / 2));
    const along = field.angle[next] + (turns * Math.PI) / 2;
    if (Math.abs(carried - along) > POLE) return null;
    return { triangle: next, by: g, point: to, angle: along, ahead: this.aheadIn(next, along) };
  }
}
