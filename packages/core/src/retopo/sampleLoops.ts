import { addScaled, cross, distance, dot, lerp, normalize, sub, type Vec3 } from '../math';
import type { CrossField } from './field';
import { prevHalf, type TriMesh } from './TriMesh';

/** A line that runs along crosses; a closed one has its first point again at the end. */
export type SampleLoop = Vec3[];

/** Over the distance between lines: nearer than this to another that runs alike, one ends. */
const ENDS = 0.5;
/** Shorter than so many distances between lines, one shows nothing. */
const SHOWS = 1.5;
const MOST_STEPS = 6000;
/** Where crosses turn by more than this from triangle to triangle, a pole is passed; radians. */
const POLE = 0.7;

/**
 * Lines along a cross field, both ways of it, about `apart` from each other where they run alike (after Jobard and Lefer 1997): what loops of quads would
 * do. Cost: the triangles that they run through.
 */
export function sampleLoops(mesh: TriMesh, field: CrossField, apart: number): SampleLoop[] {
  const tracer = new Tracer(mesh, field);
  const taken = new Taken(apart);
  const found: SampleLoop[] = [];
  const n = mesh.triangles;
  // far from each other one after another, the same each time
  const stride = coprimeNear(Math.floor(0.618 * n), n);
  for (let i = 0, t = 0; i < n; i++, t = (t + stride) % n)
    for (const quarter of [0, 1]) {
      const start = tracer.startIn(t, quarter);
      if (taken.has(start.point, start.ahead, apart)) continue;
      const line = tracer.both(start, taken, apart);
      if (lengthOf(line) < SHOWS * apart) continue;
      taken.add(line);
      found.push(line);
    }
  return found;
}

const lengthOf = (line: SampleLoop): number => line.slice(1).reduce((sum, p, i) => sum + distance(line[i], p), 0);

function coprimeNear(start: number, n: number): number {
  const gcd = (a: number, b: number): number => (b === 0 ? a : gcd(b, a % b));
  let k = Math.max(1, start);
  while (gcd(k, n) !== 1) k++;
  return k;
}

/** Where a line is, and which way it goes there. */
interface Place {
  triangle: number;
  /** the half-edge that it came in by, −1 at a start */
  by: number;
  point: Vec3;
  /** from the triangle's first edge, radians */
  angle: number;
  ahead: Vec3;
}

class Tracer {
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

  /** The line through a place, both ways. */
  both(start: Place, taken: Taken, apart: number): SampleLoop {
    const on = this.trace(start, taken, apart);
    if (on.isClosed) return on.points;
    const angle = start.angle + Math.PI;
    const back = this.trace({ ...start, angle, ahead: this.aheadIn(start.triangle, angle) }, taken, apart);
    return [...back.points.reverse(), ...on.points.slice(1)];
  }

  private trace(start: Place, taken: Taken, apart: number): { points: SampleLoop; isClosed: boolean } {
    const points: SampleLoop = [start.point];
    let place: Place = start;
    let far = 0;
    // what lies well behind; nearer to that it would run beside itself
    const own = new Taken(apart);
    const behind: { p: Vec3; far: number }[] = [{ p: start.point, far: 0 }];
    for (let i = 0; i < MOST_STEPS; i++) {
      const next = this.step(place);
      if (!next) break;
      far += distance(place.point, next.point);
      points.push(next.point);
      if (far > 2 * apart && distance(next.point, start.point) < 0.35 * apart && dot(next.ahead, start.ahead) > 0.7) {
        points.push(start.point);
        return { points, isClosed: true };
      }
      if (next.triangle < 0 || taken.has(next.point, next.ahead, ENDS * apart)) break;
      if (own.has(next.point, next.ahead, 0.9 * apart)) break;
      behind.push({ p: next.point, far });
      while (behind.length > 2 && behind[1].far < far - 2 * apart) own.add([(behind.shift() as { p: Vec3 }).p, behind[0].p]); // prettier-ignore
      place = next;
    }
    return { points, isClosed: false };
  }

  /** Through one triangle; its triangle is −1 at a border, null where a pole is. */
  private step({ triangle: t, by, point, angle, ahead }: Place): Place | null {
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

/** Where lines run already, and which way. */
class Taken {
  private readonly cells = new Map<string, { p: Vec3; ahead: Vec3 }[]>();
  constructor(private readonly size: number) {}

  private cell(x: number): number {
    return Math.floor(x / this.size);
  }
  add(line: SampleLoop): void {
    for (let i = 0; i + 1 < line.length; i++) {
      const ahead = normalize(sub(line[i + 1], line[i]));
      const steps = Math.max(1, Math.ceil((4 * distance(line[i], line[i + 1])) / this.size));
      for (let k = 0; k < steps; k++) {
        const p = lerp(line[i], line[i + 1], k / steps);
        const key = p.map((x) => this.cell(x)).join(' ');
        const own = this.cells.get(key);
        if (own) own.push({ p, ahead });
        else this.cells.set(key, [{ p, ahead }]);
      }
    }
  }
  /** Whether one that runs about this way is within reach, which is no more than a cell. */
  has(p: Vec3, ahead: Vec3, reach: number): boolean {
    const [i, j, k] = p.map((x) => this.cell(x));
    for (let x = i - 1; x <= i + 1; x++)
      for (let y = j - 1; y <= j + 1; y++)
        for (let z = k - 1; z <= k + 1; z++)
          for (const other of this.cells.get(`${x} ${y} ${z}`) ?? [])
            if (Math.abs(dot(other.ahead, ahead)) > 0.7 && distance(other.p, p) < reach) return true;
    return false;
  }
}
