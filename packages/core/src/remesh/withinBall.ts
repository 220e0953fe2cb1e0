import { distance, dot, lerp, sub, type Vec3 } from '../math';
import type { KeptLine } from './isotropic';
import type { TriangleMesh } from './TriangleMesh';

/** A point this near to the ball's face lies on it, as a share of its radius: no slivers are cut off. */
const ON = 1e-3;

/**
 * Leaves of triangles what lies inside a ball: sides are divided where they pass through its face, what is outside is taken away, and the cut is
 * a line, or several, added to `lines`, so that it stays smooth and is divided like others. Cost: linear.
 */
export function keepWithinBall(mesh: TriangleMesh, lines: KeptLine[], centre: Vec3, radius: number): void {
  /** −1 inside, 0 on the ball's face, 1 outside */
  const sideOf = (p: Vec3): number => {
    const far = distance(p, centre) / radius - 1;
    return Math.abs(far) < ON ? 0 : Math.sign(far);
  };
  divideNear(mesh, centre, radius);
  const sides = mesh.points.map(sideOf);
  const edges = mesh.edges();
  for (let i = 0; i < edges.length; i += 2) {
    const [u, v] = [edges[i], edges[i + 1]];
    if (sides[u] * sides[v] >= 0) continue;
    const m = mesh.split(u, v);
    mesh.points[m] = throughBall(mesh.points[u], mesh.points[v], centre, radius);
    sides[m] = 0;
  }
  const rims = new Set(rimSides(mesh).map(([u, v]) => `${u} ${v}`));
  for (const t of mesh.triangles()) if (mesh.triangle(t).some((v) => sides[v] > 0)) mesh.drop(t);
  const cut = rimSides(mesh).filter(([u, v]) => !rims.has(`${u} ${v}`) && mesh.line(u, v) === undefined);
  for (const chain of chained(cut)) {
    for (let i = 1; i < chain.length; i++) mesh.setLine(chain[i - 1], chain[i], lines.length);
    const closed = chain[0] === chain[chain.length - 1];
    lines.push({ points: chain.slice(0, closed ? -1 : undefined).map((v) => mesh.points[v]), closed });
  }
}

/** Divides sides near a ball that are longer than its radius: one that passes through it then has an end inside. */
function divideNear(mesh: TriangleMesh, centre: Vec3, radius: number): void {
  for (let again = true; again;) {
    again = false;
    for (const t of mesh.triangles()) {
      const own = mesh.triangle(t);
      const [u, v] = own.map((w, k) => [w, own[(k + 1) % 3]]).sort((a, b) => mesh.far(b[0], b[1]) - mesh.far(a[0], a[1]))[0]; // prettier-ignore
      const long = mesh.far(u, v);
      if (long <= radius || distance(centre, lerp(mesh.points[u], mesh.points[v], 0.5)) > radius + long) continue;
      mesh.split(u, v);
      again = true;
    }
  }
}

/** Where a side with one end inside and one outside passes through a ball's face. */
function throughBall(p: Vec3, q: Vec3, centre: Vec3, radius: number): Vec3 {
  const [d, from] = [sub(q, p), sub(p, centre)];
  const a = dot(d, d),
    b = dot(from, d),
    c = dot(from, from) - radius * radius;
  const root = Math.sqrt(Math.max(0, b * b - a * c));
  // of the two places the one between the ends: the farther one where the side leaves the ball
  return lerp(p, q, (c < 0 ? root - b : -root - b) / a);
}

/** The sides that belong to one triangle, as that runs along them. */
function rimSides(mesh: TriangleMesh): [number, number][] {
  const found: [number, number][] = [];
  for (const t of mesh.triangles()) {
    const own = mesh.triangle(t);
    own.forEach((u, k) => {
      const v = own[(k + 1) % 3];
      if (mesh.sharedBy(u, v).length === 1) found.push([u, v]);
    });
  }
  return found;
}

/** Directed sides as chains, each as long as it gets; one that closes ends where it began. */
function chained(sides: readonly [number, number][]): number[][] {
  const next = new Map<number, number[]>();
  for (const [u, v] of sides) next.set(u, [...(next.get(u) ?? []), v]);
  const targets = new Set(sides.map(([, v]) => v));
  const chainFrom = (start: number): number[] => {
    const chain = [start];
    for (let v = next.get(start)?.pop(); v !== undefined; v = next.get(v)?.pop()) {
      chain.push(v);
      if (v === start) break;
    }
    return chain;
  };
  // first those that begin where no other ends
  const starts = [...next.keys()].sort((a, b) => Number(targets.has(a)) - Number(targets.has(b)));
  return starts.flatMap((u) => {
    const found: number[][] = [];
    while ((next.get(u)?.length ?? 0) > 0) found.push(chainFrom(u));
    return found;
  });
}
