import type { Vec3 } from '../../math';
import type { WalkingForm } from '../../surface';

/** A quad is folded where a corner turns no more than this against its own normal. */
const FOLDED = 0;
/** A quad is turned over where its normal agrees with the form's at its corners by less than this. */
const FACING = -0.2;
/** Where corners lie on sharp edges the form's normal there may be that of the face beyond: so much nearer to the middle it is their own. */
const INSIDE = 0.1;

/** How square quads are, and which are folded; their points may be moved between two questions. Cost: of a question, a closest point and form for each corner that moved. */
export class QuadCheck {
  private readonly normals: readonly NormalsAt[];
  /** of the quad asked for last, its normal, not of unit length */
  private readonly normal = new Float64Array(3);
  private readonly corner = new Float64Array(4);

  /** `forms`: a quad whose normal agrees with every one of them by less than `facing` is folded; none: facing does not count. */
  constructor(
    private readonly p: Float64Array,
    private readonly quads: Int32Array,
    forms: readonly WalkingForm[] = [],
    private readonly facing = FACING,
  ) {
    this.normals = forms.map((form) => new NormalsAt(p, form));
  }

  /** The least corner of quad q / 4: the sine of its angle against the quad's own mean normal. */
  least(q: number): number {
    let least = 1;
    for (const turn of this.turns(q)) if (turn < least) least = turn;
    return least;
  }

  /** The sines of the four corners of quad q / 4 against its own mean normal; good until the next question. */
  turns(q: number): Float64Array {
    const { p, quads, corner } = this;
    const l = this.turnTo(q);
    const [nx, ny, nz] = this.normal;
    for (let k = 0; k < 4; k++) {
      const a = 3 * quads[q + k], b = 3 * quads[q + ((k + 1) & 3)], c = 3 * quads[q + ((k + 3) & 3)]; // prettier-ignore
      const ux = p[b] - p[a], uy = p[b + 1] - p[a + 1], uz = p[b + 2] - p[a + 2]; // prettier-ignore
      const vx = p[c] - p[a], vy = p[c + 1] - p[a + 1], vz = p[c + 2] - p[a + 2]; // prettier-ignore
      const size = Math.sqrt(ux * ux + uy * uy + uz * uz) * Math.sqrt(vx * vx + vy * vy + vz * vz);
      const turn = (uy * vz - uz * vy) * nx + (uz * vx - ux * vz) * ny + (ux * vy - uy * vx) * nz;
      corner[k] = size > 0 ? turn / size / l : 0;
    }
    return corner;
  }

  /** Whether quad q / 4 is folded, has no area, or faces against every form. */
  isFolded(q: number): boolean {
    if (this.least(q) <= FOLDED) return true;
    const l = this.turnTo(q);
    return this.normals.length > 0 && this.normals.every((at) => this.facesAway(q, l, at));
  }

  private facesAway(q: number, l: number, at: NormalsAt): boolean {
    // the middle of a quad over a thin form may lie nearer to its other side; the corners are on it
    const along = (n: Vec3): number =>
      (n[0] * this.normal[0] + n[1] * this.normal[1] + n[2] * this.normal[2]) / (4 * l);
    let facing = 0;
    for (let k = 0; k < 4; k++) facing += along(at.of(this.quads[q + k]));
    if (facing >= this.facing) return false;
    facing = 0;
    for (let k = 0; k < 4; k++) facing += along(at.at(this.inside(q, k)));
    return facing < this.facing;
  }

  /** A place a little inside of a corner. */
  private inside(q: number, k: number): Vec3 {
    const { p, quads } = this;
    const at = (c: number): number => {
      const middle = (p[3 * quads[q] + c] + p[3 * quads[q + 1] + c] + p[3 * quads[q + 2] + c] + p[3 * quads[q + 3] + c]) / 4; // prettier-ignore
      return (1 - INSIDE) * p[3 * quads[q + k] + c] + INSIDE * middle;
    };
    return [at(0), at(1), at(2)];
  }

  /** Its normal, and how long that is. */
  private turnTo(q: number): number {
    const { p, quads, normal } = this;
    const a = 3 * quads[q], b = 3 * quads[q + 1], c = 3 * quads[q + 2], d = 3 * quads[q + 3]; // prettier-ignore
    const ex = p[c] - p[a], ey = p[c + 1] - p[a + 1], ez = p[c + 2] - p[a + 2]; // prettier-ignore
    const fx = p[d] - p[b], fy = p[d + 1] - p[b + 1], fz = p[d + 2] - p[b + 2]; // prettier-ignore
    normal[0] = ey * fz - ez * fy;
    normal[1] = ez * fx - ex * fz;
    normal[2] = ex * fy - ey * fx;
    return Math.sqrt(normal[0] * normal[0] + normal[1] * normal[1] + normal[2] * normal[2]) || 1;
  }
}

/** A form's normals nearest to points, each kept until its point moves. */
class NormalsAt {
  private readonly known: (Vec3 | undefined)[] = [];
  private readonly place: Float64Array;

  constructor(
    private readonly p: Float64Array,
    private readonly form: WalkingForm,
  ) {
    this.place = new Float64Array(p.length);
  }

  of(v: number): Vec3 {
    const { p, place } = this;
    const i = 3 * v;
    const known = this.known[v];
    if (known && place[i] === p[i] && place[i + 1] === p[i + 1] && place[i + 2] === p[i + 2]) return known;
    for (let k = i; k < i + 3; k++) place[k] = p[k];
    return (this.known[v] = this.at([p[i], p[i + 1], p[i + 2]]));
  }

  at(place: Vec3): Vec3 {
    return this.form.closest(place).normal;
  }
}

/** Corner quality of quads, and how many are folded, or face against every one of `forms`. */
export function qualityOf(
  p: Float64Array,
  quads: Int32Array,
  forms: readonly WalkingForm[] = [],
  facing = FACING,
): { quality: { least: number; low: number; mean: number }; folded: number } {
  const check = new QuadCheck(p, quads, forms, facing);
  const all = new Float64Array(quads.length / 4);
  let folded = 0;
  for (let q = 0; q < quads.length; q += 4) {
    all[q / 4] = check.least(q);
    if (check.isFolded(q)) folded++;
  }
  const mean = all.reduce((a, b) => a + b, 0) / Math.max(1, all.length);
  all.sort();
  return { quality: { least: all[0] ?? 0, low: all[Math.floor(0.05 * all.length)] ?? 0, mean }, folded };
}

/** Quads, by their number, that are folded, have no area, or face against every form. Cost: linear, with a closest point per point and form. */
export function foldedIn(
  { points, quads }: { points: Float64Array; quads: Int32Array },
  forms: readonly WalkingForm[],
  facing = FACING,
): number[] {
  const check = new QuadCheck(points, quads, forms, facing);
  const found: number[] = [];
  for (let q = 0; q < quads.length; q += 4) if (check.isFolded(q)) found.push(q / 4);
  return found;
}
