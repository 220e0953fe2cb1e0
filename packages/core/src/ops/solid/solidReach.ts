import { addScaled, AXES, axisVector, boxCentre, boxDiagonal, boxSize, cross, dot, length, meanPoint, scale, sub, type Box, type Vec3 } from '../../math'; // prettier-ignore
import { loopsRound, type PolyMesh } from '../../mesh';

/**
 * The faces of a closed part that a box reaches, and triangles that close them again. Inside the box this is the same solid as the whole
 * part: the closing triangles keep out of the box, and every point in it is enclosed as often as by the whole.
 */
export interface SolidReach {
  faces: number[];
  /** faces that the box does not reach */
  beyond: number[];
  /** points of the closing triangles that are no vertices of the mesh */
  points: Vec3[];
  /** corners of the closing triangles: a vertex of the mesh, or −1 − k for the k-th of `points` */
  closing: Corners[];
}
type Corners = [number, number, number];

/** Of the box's diagonal: what comes as near as this is reached. */
const MARGIN = 1e-4;
/** How far from the centre closing ends, in half sides of the box. */
const FAR = 2;

/**
 * What a box reaches of a closed part. Every border loop of the reached faces is closed by triangles to points far off beyond the sides of
 * the box that its edges lie beyond; where the whole part encloses the box more often than that, or less, larger boxes round it
 * make up for it. Null where nothing or all is reached, or a loop cannot be closed clear of the box. Cost: the faces, with a
 * solid angle for each that is not reached.
 */
export function solidReach(mesh: PolyMesh, part: readonly number[], box: Box): SolidReach | null {
  const faces: number[] = [];
  const beyond: number[] = [];
  for (const f of part) (reaches(mesh, f, box) ? faces : beyond).push(f);
  if (faces.length === 0 || beyond.length === 0) return null;
  const made = new Closing(mesh, box);
  for (const loop of loopsRound(mesh, new Set(faces))) if (!made.close(loop)) return null;
  const lacks = (solidAngles(mesh, beyond, made.centre) - made.angle) / (4 * Math.PI);
  if (Math.abs(lacks - Math.round(lacks)) > 0.01) return null;
  for (let k = 0; k < Math.abs(Math.round(lacks)); k++) made.enclose(FAR + 2 + k, lacks < 0);
  return { faces, beyond, points: made.points, closing: made.triangles };
}

/** Whether the box of a face comes within a hair of another box. */
export function reaches(mesh: PolyMesh, f: number, box: Box): boolean {
  const { min, max } = box;
  const margin = MARGIN * boxDiagonal(box);
  const at = mesh.position.data;
  const first = mesh.faceHalf.data[f];
  for (let k = 0; k < 3; k++) {
    let [low, high] = [Infinity, -Infinity];
    let h = first;
    do {
      const c = at[3 * mesh.origin(h) + k];
      if (c < low) low = c;
      if (c > high) high = c;
      h = mesh.next(h);
    } while (h !== first);
    if (low > max[k] + margin || high < min[k] - margin) return false;
  }
  return true;
}

/** A closed row of points, vertices or closing ones: the run that each edge from a point on belongs to, and the side that each run lies beyond. */
interface Ring {
  points: number[];
  runs: number[];
  sides: number[];
}

/** The closing triangles while they are made. */
class Closing {
  readonly points: Vec3[] = [];
  readonly triangles: Corners[] = [];
  readonly centre: Vec3;
  /** half sides of the box */
  private readonly half: Vec3;
  /** solid angle of what was made, seen from the centre */
  angle = 0;

  constructor(
    private readonly mesh: PolyMesh,
    private readonly box: Box,
  ) {
    this.centre = boxCentre(box);
    this.half = scale(boxSize(box), 0.5);
  }

  /**
   * Closes a loop: every edge by a triangle to a point far off beyond the side of the box that the edge lies beyond; where the side changes, the
   * loop's point lies beyond both, and so does a point far off between theirs. All of those lie beyond one more side, and are closed by a fan there. So
   * each triangle lies beyond one side: none meets the box, nor does its own box, which the kernel sorts by. False where there is no such side.
   */
  close(loop: readonly number[]): boolean {
    const ring = this.ringOf(loop);
    const over = ring && this.sideOver(ring);
    if (ring === null || over === null) return false;
    const { points, runs, sides } = ring;
    const tips = sides.map((side) => this.beyond([side, over]));
    const rim: number[] = [];
    points.forEach((u, i) => {
      const j = (i + 1) % points.length;
      const v = points[j];
      this.add(v, u, tips[runs[i]]);
      if (runs[i] === runs[j]) return;
      const between = this.beyond([sides[runs[i]], sides[runs[j]], over]);
      this.add(v, tips[runs[i]], between);
      this.add(v, between, tips[runs[j]]);
      rim.push(tips[runs[i]], between);
    });
    const top = this.beyond([over], FAR + 1);
    rim.forEach((v, i) => this.add(rim[(i + 1) % rim.length], v, top));
    return true;
  }

  /** The side that most of a loop lies towards, of those whose opposite none of its runs lies beyond; null where there is none. */
  private sideOver({ points, sides }: Ring): number | null {
    const middle = sub(meanPoint(points.map((v) => this.mesh.point(v))), this.centre);
    const towards = (k: number): number => dot(middle, SIDES[k]) / this.half[k >> 1];
    const free = SIDES.map((_, k) => k).filter((k) => !sides.includes(k ^ 1));
    return free.length > 0 ? free.reduce((best, k) => (towards(k) > towards(best) ? k : best)) : null;
  }

  /** A new point beyond all of the given sides. */
  private beyond(sides: readonly number[], far = FAR): number {
    return this.point(
      [...new Set(sides)].reduce((p, k) => addScaled(p, SIDES[k], far * this.half[k >> 1]), this.centre),
    );
  }

  /** A loop in runs that lie beyond one side of the box each, begun where a run begins. Null where an edge lies beyond none. */
  private ringOf(loop: readonly number[]): Ring | null {
    const { mesh } = this;
    const found: number[] = [];
    for (const h of loop) {
      const ends = [mesh.point(mesh.origin(h)), mesh.point(mesh.target(h))];
      const isBeyond = (side: number): boolean => ends.every((p) => this.isBeyond(p, side));
      const last = found.at(-1);
      const side = last !== undefined && isBeyond(last) ? last : SIDES.findIndex((_, k) => isBeyond(k));
      if (side < 0) return null;
      found.push(side);
    }
    const first = Math.max(0, found.findIndex((side, i) => side !== found.at(i - 1))); // prettier-ignore
    const turned = <T>(row: readonly T[]): T[] => [...row.slice(first), ...row.slice(0, first)];
    const sides: number[] = [];
    const runs = turned(found).map((side) => (side === sides.at(-1) ? sides.length : sides.push(side)) - 1);
    return { points: turned(loop).map((h) => mesh.origin(h)), runs, sides };
  }

  private isBeyond(p: Vec3, side: number): boolean {
    const k = side >> 1;
    return side % 2 === 0 ? p[k] > this.box.max[k] : p[k] < this.box.min[k];
  }

  private add(...corners: Corners): void {
    const at = (v: number): Vec3 => sub(v < 0 ? this.points[-1 - v] : this.mesh.point(v), this.centre);
    this.triangles.push(corners);
    this.angle += solidAngle(at(corners[0]), at(corners[1]), at(corners[2]));
  }

  /** A larger box round the box, in half sides of it; turned inside out when it is to take away. */
  enclose(far: number, inward: boolean): void {
    const corners = [0, 1, 2, 3, 4, 5, 6, 7].map(
      (i) =>
      this.beyond([0, 1, 2].map((k) => 2 * k + ((i >> k) & 1)), far), // prettier-ignore
    );
    for (const [a, b, c, d] of BOX_FACES)
      for (const triangle of [
        [a, b, c],
        [a, c, d],
      ]) {
        const ids = triangle.map((i) => corners[i]);
        this.triangles.push((inward ? ids.reverse() : ids) as Corners);
      }
  }

  private point(p: Vec3): number {
    return -this.points.push(p);
  }
}

/** Faces of a box by corners, whose bits tell for each axis whether they lie at its least. */
const BOX_FACES = [[0, 2, 6, 4], [1, 5, 7, 3], [0, 4, 5, 1], [2, 3, 7, 6], [0, 1, 3, 2], [4, 6, 7, 5]]; // prettier-ignore

/** Ways to the sides of a box, those to its greatest first of each axis. */
const SIDES: readonly Vec3[] = AXES.flatMap((axis) => [axisVector(`+${axis}`), axisVector(`-${axis}`)]);

/** The solid angle of faces seen from a point off them, each as a fan. */
export function solidAngles(mesh: PolyMesh, faces: readonly number[], from: Vec3): number {
  let sum = 0;
  for (const f of faces) {
    const corners = mesh.faceVertices(f).map((v) => sub(mesh.point(v), from));
    for (let k = 2; k < corners.length; k++) sum += solidAngle(corners[0], corners[k - 1], corners[k]);
  }
  return sum;
}

/** The solid angle of a triangle seen from the origin, positive where it turns its back to it (van Oosterom and Strackee 1983). */
function solidAngle(a: Vec3, b: Vec3, c: Vec3): number {
  const [la, lb, lc] = [length(a), length(b), length(c)];
  const below = la * lb * lc + dot(a, b) * lc + dot(a, c) * lb + dot(b, c) * la;
  return 2 * Math.atan2(dot(a, cross(b, c)), below);
}
