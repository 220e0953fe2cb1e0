import { bestBall, distance, meanPoint, normalize, scale, add, sub, type Vec3 } from '../../math';
import { copyOf, type PolyMesh, type Rebuild } from '../../mesh';

const ROUNDS = 60;
/** Boundary points this near to one ball, over its radius, make the patch a piece of it. */
const ON_BALL = 0.03;

/**
 * Closes a corner of k sides with `s` edges each by quads: rings of quads inward, and in the middle one k-gon (s odd) or
 * quads round a point (s even); four sides become a grid. Points inside lie on the ball through the sides where there is
 * one, else on the membrane between them. `sides` run in winding order, each from a corner to the next, ends included.
 * Returns how many faces it took. Cost: k·s².
 */
export function fillCorner(
  mesh: PolyMesh,
  rebuild: Rebuild,
  sides: readonly (readonly number[])[],
  like: number,
  old: number,
): number {
  const plan = new Patch(sides.map((side) => side.slice(0, -1)).flat());
  if (sides.length === 4 && sides[0].length > 2) plan.grid(sides);
  else plan.rings(sides.map((side) => [...side]));
  const at = plan.places(mesh);
  const made = new Map([...at].map(([i, p]) => [i, rebuild.vertex(p, copyOf(old))]));
  for (const face of plan.faces) rebuild.face(face.map((i) => (i < 0 ? (made.get(i) as number) : i)), like); // prettier-ignore
  return plan.faces.length;
}

/** Faces over known vertices (0 and up) and points still to be made (below 0). */
class Patch {
  readonly faces: number[][] = [];
  private next = -1;

  constructor(private readonly boundary: readonly number[]) {}

  grid([low, right, high, left]: readonly (readonly number[])[]): void {
    const n = low.length - 1;
    const rows: number[][] = [[...low]];
    for (let j = 1; j < n; j++) rows.push([left[n - j], ...Array.from({ length: n - 1 }, () => this.next--), right[j]]);
    rows.push([...high].reverse());
    for (let j = 0; j < n; j++)
      for (let i = 0; i < n; i++) this.faces.push([rows[j][i], rows[j][i + 1], rows[j + 1][i + 1], rows[j + 1][i]]);
  }

  rings(sides: number[][]): void {
    const k = sides.length;
    const s = sides[0].length - 1;
    if (s === 1) return void this.faces.push(sides.map((side) => side[0]));
    if (s === 2) {
      const middle = this.next--;
      sides.forEach((side, i) => this.faces.push([side[0], side[1], middle, sides[(i + k - 1) % k][1]]));
      return;
    }
    const corners = sides.map(() => this.next--);
    const inner = sides.map((_, i) => [
      corners[i],
      ...Array.from({ length: s - 3 }, () => this.next--),
      corners[(i + 1) % k],
    ]);
    sides.forEach((side, i) => {
      this.faces.push([side[0], side[1], corners[i], sides[(i + k - 1) % k][s - 1]]);
      for (let j = 1; j < s - 1; j++) this.faces.push([side[j], side[j + 1], inner[i][j], inner[i][j - 1]]);
    });
    this.rings(inner);
  }

  /** Where the points inside go. */
  places(mesh: PolyMesh): Map<number, Vec3> {
    const fixed = this.boundary.map((v) => mesh.point(v));
    const neighbours = new Map<number, Set<number>>();
    for (const face of this.faces)
      face.forEach((v, i) => {
        if (v >= 0) return;
        const known = neighbours.get(v) ?? new Set<number>();
        known.add(face[(i + 1) % face.length]).add(face[(i + face.length - 1) % face.length]);
        neighbours.set(v, known);
      });
    const at = new Map<number, Vec3>([...neighbours.keys()].map((v) => [v, meanPoint(fixed)]));
    const point = (v: number): Vec3 => (v < 0 ? (at.get(v) as Vec3) : mesh.point(v));
    for (let round = 0; round < ROUNDS; round++)
      for (const [v, around] of neighbours) at.set(v, meanPoint([...around].map(point)));
    const ball = at.size > 0 ? bestBall(fixed) : null;
    if (ball && fixed.every((p) => Math.abs(distance(p, ball.centre) - ball.radius) < ON_BALL * ball.radius))
      for (const [v, p] of at) at.set(v, add(ball.centre, scale(normalize(sub(p, ball.centre)), ball.radius)));
    return at;
  }
}
