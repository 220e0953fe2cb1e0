import { add, addScaled, dot, frameOf, length, meanPoint, scale, sub, type Vec3 } from '../../math';
import { areaNormal, type PolyMesh, type Selection } from '../../mesh';
import { pickedFaces } from '../picked';

const ROUNDS = 40;

/**
 * Where the points of picked faces go so that the faces come to one size and a regular shape, as nearly as they hang
 * together: each face proposes its best-fitting regular polygon, shared points take the mean, again and again
 * (Bouaziz et al., Shape-Up, 2012). Cost: the faces, forty times.
 */
export function equalFaces(mesh: PolyMesh, selection: Selection): [number, Vec3][] {
  const faces = pickedFaces(mesh, selection, 'Pick the faces that shall become equal.').map((f) =>
    mesh.faceVertices(f),
  );
  const at = new Map(faces.flat().map((v) => [v, mesh.point(v)]));
  const points = (face: readonly number[]): Vec3[] => face.map((v) => at.get(v) as Vec3);
  const area = faces.reduce((s, face) => s + length(areaNormal(points(face))), 0) / faces.length;
  for (let i = 0; i < ROUNDS; i++) {
    const sums = new Map<number, { sum: Vec3; n: number }>();
    for (const face of faces)
      regular(points(face), area).forEach((p, k) => {
        const known = sums.get(face[k]);
        sums.set(face[k], known ? { sum: add(known.sum, p), n: known.n + 1 } : { sum: p, n: 1 });
      });
    for (const [v, { sum, n }] of sums) at.set(v, scale(sum, 1 / n));
  }
  return [...at];
}

/** The regular polygon of the given area (as `areaNormal` measures it) that lies nearest to the points. */
function regular(points: readonly Vec3[], area: number): Vec3[] {
  const n = points.length;
  const centre = meanPoint(points);
  const normal = areaNormal(points);
  const unit = length(normal) > 0 ? scale(normal, 1 / length(normal)) : ([0, 0, 1] as Vec3);
  const [u, v] = frameOf(unit);
  let c = 0,
    s = 0;
  points.forEach((p, i) => {
    const d = sub(p, centre);
    const [x, y] = [dot(d, u), dot(d, v)];
    const a = (2 * Math.PI * i) / n;
    c += x * Math.cos(a) + y * Math.sin(a);
    s += y * Math.cos(a) - x * Math.sin(a);
  });
  const turn = Math.atan2(s, c);
  const unitArea = length(areaNormal(corners(n, [0, 0, 0], [1, 0, 0], [0, 1, 0], 1, 0)));
  return corners(n, centre, u, v, Math.sqrt(area / unitArea), turn);
}

const corners = (n: number, centre: Vec3, u: Vec3, v: Vec3, r: number, turn: number): Vec3[] =>
  Array.from({ length: n }, (_, i) => {
    const a = turn + (2 * Math.PI * i) / n;
    return addScaled(addScaled(centre, u, r * Math.cos(a)), v, r * Math.sin(a));
  });
