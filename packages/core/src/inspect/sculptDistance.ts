import { lerp, type Vec3 } from '../math';
import type { PolyMesh } from '../mesh';
import { areaNormal, isReleased } from '../mesh';
import type { SculptSurface } from '../surface';

/** Signed distances of one face's samples from the sculpt, in file units. */
interface FaceDistance {
  /** signature of the corners' positions the samples were taken at */
  stamp: number;
  area: number;
  sumSquared: number;
  worst: number;
  /** the worst sample with its sign: outside positive */
  signedWorst: number;
  /** where that is */
  worstAt: Vec3;
}

export interface DistanceSummary {
  /** root mean square over the faces' samples, by area */
  typical: number;
  worst: number;
  /** where that is, on the low-poly; null where nothing is measured, or nothing off */
  worstAt: Vec3 | null;
  measuredFaces: number;
  faces: number;
}

/**
 * How far a low-poly lies from its sculpt: corners, edge middles and the centre of each face, measured one way.
 * Faces are measured when asked for and kept until a corner moves, so an edit costs the faces it touched.
 * One face takes 2n + 1 closest-point queries, about 20 µs each.
 */
export class SculptDistance {
  private readonly faces = new Map<number, FaceDistance>();

  constructor(
    readonly mesh: PolyMesh,
    readonly surface: SculptSurface,
  ) {}

  /** Measures until `deadline` says stop; returns whether every face is up to date. */
  update(deadline: () => boolean): boolean {
    for (const f of this.faces.keys()) if (!this.mesh.hasFace(f)) this.faces.delete(f);
    for (const f of this.mesh.faces()) {
      // where the artist wants a point off the form, there is nothing to measure
      if (this.mesh.faceVertices(f).some((v) => isReleased(this.mesh, v))) {
        this.faces.delete(f);
        continue;
      }
      if (this.isFresh(f)) continue;
      if (deadline()) return false;
      this.faces.set(f, this.measure(f));
    }
    return true;
  }

  /** A face's worst sample, outside positive, or null until it is measured. */
  signedWorst(f: number): number | null {
    return this.isFresh(f) ? (this.faces.get(f)?.signedWorst ?? null) : null;
  }

  summary(): DistanceSummary {
    let area = 0,
      sum = 0,
      worst = 0,
      measured = 0;
    let worstAt: Vec3 | null = null;
    for (const [f, d] of this.faces) {
      if (!this.isFresh(f)) continue;
      measured++;
      area += d.area;
      sum += d.sumSquared * d.area;
      if (d.worst > worst) ({ worst, worstAt } = d);
    }
    return {
      typical: area > 0 ? Math.sqrt(sum / area) : 0,
      worst,
      worstAt,
      measuredFaces: measured,
      faces: this.mesh.faceCount,
    };
  }

  private isFresh(f: number): boolean {
    const known = this.faces.get(f);
    return known !== undefined && this.mesh.hasFace(f) && known.stamp === this.stampOf(f);
  }

  private stampOf(f: number): number {
    let stamp = 17;
    const { data } = this.mesh.position;
    for (const v of this.mesh.faceVertices(f)) {
      stamp = Math.imul(stamp, 31) + v;
      for (let k = 0; k < 3; k++) {
        scratch.setFloat64(0, data[3 * v + k]);
        stamp = Math.imul(stamp ^ scratch.getInt32(0), 0x9e3779b1) ^ scratch.getInt32(4);
      }
    }
    return stamp;
  }

  private measure(f: number): FaceDistance {
    const points = this.mesh.faceVertices(f).map((v) => this.mesh.point(v));
    const n = points.length;
    const centre: Vec3 = [0, 1, 2].map((k) => points.reduce((s, p) => s + p[k], 0) / n) as unknown as Vec3;
    const samples = [...points, ...points.map((p, i) => lerp(p, points[(i + 1) % n], 0.5)), centre];
    const distances = samples.map((p) => this.surface.signedDistance(p));
    const worst = Math.max(...distances.map(Math.abs));
    const at = distances.findIndex((d) => Math.abs(d) === worst);
    return {
      stamp: this.stampOf(f),
      area: Math.hypot(...areaNormal(points)) / 2,
      sumSquared: distances.reduce((s, d) => s + d * d, 0) / distances.length,
      worst,
      signedWorst: distances[at],
      worstAt: samples[at],
    };
  }
}

const scratch = new DataView(new ArrayBuffer(8));
