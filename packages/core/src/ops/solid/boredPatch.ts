import { TopologyError } from '../../errors';
import { add, addScaled, cross, dot, length, normalize, scale, sub, type Vec3 } from '../../math';
import { areaNormal, triangulate, type PolyMesh } from '../../mesh';

/** A patch of faces that a hole goes through: its border in turn, the faces inside on the left, and a frame to lay a circle in. */
export interface BoredPatch {
  faces: number[];
  border: number[];
  /** the face inside each border edge, from border[i] to border[i + 1] */
  beside: number[];
  centre: Vec3;
  normal: Vec3;
}

/** Throws NO_WAY for faces that are no disc in one piece, and for a part that is picked whole. Cost: the faces. */
export function patchOf(mesh: PolyMesh, faces: readonly number[]): BoredPatch {
  const inside = new Set(faces);
  const rim = faces.flatMap((f) => mesh.faceHalves(f)).filter((h) => !inside.has(mesh.face(h ^ 1)));
  if (rim.length === 0)
    throw new TopologyError('NO_WAY', 'These faces are a whole closed part, with no border that a hole could be joined to: pick fewer of them.', { faces: [...faces] }); // prettier-ignore
  const next = new Map(rim.map((h) => [mesh.origin(h), h]));
  const border: number[] = [];
  const beside: number[] = [];
  for (let h = rim[0]; h !== undefined && border.length < rim.length; h = next.get(mesh.target(h)) as number) {
    if (border.includes(mesh.origin(h))) break;
    border.push(mesh.origin(h));
    beside.push(mesh.face(h));
  }
  if (border.length !== rim.length || next.size !== rim.length)
    throw new TopologyError('NO_WAY', 'The picked faces must be one patch without a hole in it.', {
      faces: [...faces],
    });
  let normal: Vec3 = [0, 0, 0];
  let centre: Vec3 = [0, 0, 0];
  let area = 0;
  for (const f of faces) {
    const points = mesh.faceVertices(f).map((v) => mesh.point(v));
    const n = areaNormal(points);
    const a = length(n);
    normal = add(normal, n);
    centre = add(centre, scale(points.reduce(add), a / points.length));
    area += a;
  }
  return { faces: [...faces], border, beside, centre: scale(centre, 1 / area), normal: normalize(normal) };
}

/** Points of a circle round the patch's axis, one for each border point and turned to lie nearest to them; in the plane through its centre. */
export function circleIn(mesh: PolyMesh, { border, centre, normal }: BoredPatch, radius: number, turn = 0): Vec3[] {
  const x = normalize(cross(Math.abs(normal[1]) < 0.9 ? [0, 1, 0] : [1, 0, 0], normal));
  const y = cross(normal, x);
  const n = border.length;
  // the mean of how far each border point is turned on from its place on an even circle
  let c = 0, s = 0; // prettier-ignore
  border.forEach((v, i) => {
    const d = sub(mesh.point(v), centre);
    const a = Math.atan2(dot(d, y), dot(d, x)) - (2 * Math.PI * i) / n;
    c += Math.cos(a);
    s += Math.sin(a);
  });
  const first = Math.atan2(s, c) + turn;
  return border.map((_, i) => {
    const a = first + (2 * Math.PI * i) / n;
    return addScaled(addScaled(centre, x, radius * Math.cos(a)), y, radius * Math.sin(a));
  });
}

/** The largest circle round the patch's axis that stays clear of its border, with a margin for the faces between. */
export function roomIn(mesh: PolyMesh, { border, centre, normal }: BoredPatch): number {
  const flat = border.map((v) => {
    const d = sub(mesh.point(v), centre);
    return addScaled(d, normal, -dot(d, normal));
  });
  const nearest = flat.map((a, i) => {
    const b = flat[(i + 1) % flat.length];
    const ab = sub(b, a);
    const t = Math.max(0, Math.min(1, -dot(a, ab) / Math.max(dot(ab, ab), 1e-30)));
    return length(addScaled(a, ab, t));
  });
  return 0.92 * Math.min(...nearest);
}

/** Faces as triangles, so that many lines can be tried against them. */
export interface Cut {
  face: number;
  corners: [Vec3, Vec3, Vec3];
}
export function trianglesOf(mesh: PolyMesh, faces: Iterable<number>): Cut[] {
  return [...faces].flatMap((face) => {
    const points = mesh.faceVertices(face).map((v) => mesh.point(v));
    const cut = triangulate(points);
    return Array.from({ length: cut.length / 3 }, (_, t): Cut => ({ face, corners: [points[cut[3 * t]], points[cut[3 * t + 1]], points[cut[3 * t + 2]]] })); // prettier-ignore
  });
}

/** Where a line along `axis` through p meets triangles, nearest to p; null when it misses them. Cost: the triangles. */
export function onTriangles(triangles: readonly Cut[], p: Vec3, axis: Vec3): Vec3 | null {
  let best: number | null = null;
  for (const { corners } of triangles) {
    const t = lineMeets(p, axis, ...corners);
    if (t !== null && (best === null || Math.abs(t) < Math.abs(best))) best = t;
  }
  return best === null ? null : addScaled(p, axis, best);
}

/** The face that a ray from p along `down` meets first, or null. Cost: the triangles. */
export function firstBelow(triangles: readonly Cut[], p: Vec3, down: Vec3): number | null {
  let found: number | null = null;
  let least = Infinity;
  for (const { face, corners } of triangles) {
    const t = lineMeets(p, down, ...corners);
    if (t === null || t <= 0 || t >= least) continue;
    least = t;
    found = face;
  }
  return found;
}

/** Möller and Trumbore 1997, both ways along the line and a hair beyond the triangle's sides. */
function lineMeets(o: Vec3, d: Vec3, a: Vec3, b: Vec3, c: Vec3): number | null {
  const e1 = sub(b, a), e2 = sub(c, a); // prettier-ignore
  const q = cross(d, e2);
  const det = dot(e1, q);
  if (Math.abs(det) < 1e-14) return null;
  const s = sub(o, a);
  const u = dot(s, q) / det;
  const r = cross(s, e1);
  const v = dot(d, r) / det;
  if (u < -1e-9 || v < -1e-9 || u + v > 1 + 1e-9) return null;
  return dot(e2, r) / det;
}
