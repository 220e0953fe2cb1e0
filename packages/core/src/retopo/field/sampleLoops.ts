import { distance, dot, lerp, normalize, sub, type Vec3 } from '../../math';
import type { TriMesh } from '../form/TriMesh';
import type { CrossField } from './field';
import { Tracer, type Place } from './tracer';

/** A line that runs along crosses; a closed one has its first point again at the end. */
export type SampleLoop = Vec3[];

/** Over the distance between lines: nearer than this to another that runs alike, one ends. */
const ENDS = 0.5;
/** Shorter than so many distances between lines, one shows nothing. */
const SHOWS = 1.5;
const MOST_STEPS = 6000;

/**
 * Lines along a cross field, both ways of it, about `apart` from each other where they run alike (after Jobard and Lefer 1997): what loops of quads would
 * do. Cost: the triangles that they run through.
 */
export function sampleLoops(mesh: TriMesh, field: CrossField, apart: number): SampleLoop[] {
  const tracer = new Tracer(mesh, field);
  const lines = new Lines(tracer);
  const taken = new Taken(apart);
  const found: SampleLoop[] = [];
  const n = mesh.triangles;
  // far from each other one after another, the same each time
  const stride = coprimeNear(Math.floor(0.618 * n), n);
  for (let i = 0, t = 0; i < n; i++, t = (t + stride) % n)
    for (const quarter of [0, 1]) {
      const start = tracer.startIn(t, quarter);
      if (taken.has(start.point, start.ahead, apart)) continue;
      const line = lines.both(start, taken, apart);
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

/** Draws lines along crosses. */
class Lines {
  constructor(private readonly tracer: Tracer) {}

  /** The line through a place, both ways. */
  both(start: Place, taken: Taken, apart: number): SampleLoop {
    const on = this.trace(start, taken, apart);
    if (on.isClosed) return on.points;
    const back = this.trace(this.tracer.turned(start, 2), taken, apart);
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
      const next = this.tracer.step(place);
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
