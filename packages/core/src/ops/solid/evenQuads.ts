import { addScaled, dot, lerp, meanPoint, nearestOnLine, type Vec3 } from '../../math';
import { addFace, addVertex, areaNormal, FILE_CHANNELS, PolyMesh } from '../../mesh';
import { TopologyError } from '../../errors';
import { endsOf, sideKey, turnsAt, type KeptLine, type TriangleMesh } from '../../remesh';
import { pairTriangles } from '../cut/pairTriangles';
import { BARE_GROUND, type Form } from '../ground';
import { only } from '../picked';

/** Faces over points of their own, each with the face that it is a piece of, and the sides that are pieces of lines. */
export interface Remeshed {
  points: Vec3[];
  faces: { corners: number[]; from: number }[];
  lines: Map<number, number>;
}

export const asFaces = (mesh: TriangleMesh): Remeshed => ({
  points: mesh.points,
  faces: [...mesh.triangles()].map((t) => ({ corners: mesh.triangle(t), from: mesh.from[t] })),
  lines: mesh.lines,
});

/** Rounds of evening out after triangles were paired and divided. */
const ROUNDS = 8;

/**
 * Triangles as quads of half their length: paired where they fit, never across a line, then every face divided round its middle, so that no
 * triangle is left; points evened out on the surface and along the lines. `tell` hears how far it is. Cost: linear, with a closest-point query a point and round.
 */
export function quadsOf(
  mesh: TriangleMesh,
  lines: readonly KeptLine[],
  form: Form,
  tell: (done: number) => void,
): Remeshed {
  const result = divided(pairedFaces(mesh), lines, form);
  for (let i = 0; i < ROUNDS; i++) {
    tell((i + 1) / (ROUNDS + 1));
    evenOut(result, lines, form);
  }
  return result;
}

const FROM = { domain: 'face', name: 'from', type: 'i32', stride: 1, fill: 0 } as const;

function pairedFaces(triangles: TriangleMesh): Remeshed {
  const mesh = new PolyMesh();
  for (const p of triangles.points) addVertex(mesh, p);
  const from = mesh.channel(FROM);
  for (const t of triangles.triangles()) from.set(addFace(mesh, triangles.triangle(t)), triangles.from[t]);
  const hard = mesh.channel(FILE_CHANNELS.hardEdges);
  for (const key of triangles.lines.keys()) hard.set(mesh.findHalf(...endsOf(key)) >> 1, 1);
  try {
    pairTriangles.run(mesh, only({}), pairTriangles.params.parse({ angle: 60 }), BARE_GROUND);
  } catch (error) {
    // no two fit: all of them are divided as they are
    if (!(error instanceof TopologyError)) throw error;
  }
  return {
    points: triangles.points,
    lines: triangles.lines,
    faces: [...mesh.faces()].map((f) => ({ corners: mesh.faceVertices(f), from: from.get(f) })),
  };
}

/** Each face as quads round its middle; points in the middle of sides lie on the line or the surface. */
function divided({ points: old, faces, lines: oldLines }: Remeshed, lines: readonly KeptLine[], form: Form): Remeshed {
  const points = [...old];
  const pieces = new Map<number, number>();
  const middles = new Map<number, number>();
  const middleOf = (u: number, v: number): number => {
    const key = sideKey(u, v);
    const known = middles.get(key);
    if (known !== undefined) return known;
    const line = oldLines.get(key);
    const p = lerp(old[u], old[v], 0.5);
    const m = points.push(line === undefined ? form.closest(p).point : nearestOnLine(p, lines[line].points, lines[line].closed).point) - 1; // prettier-ignore
    middles.set(key, m);
    if (line !== undefined) for (const w of [u, v]) pieces.set(sideKey(w, m), line);
    return m;
  };
  const made = faces.flatMap(({ corners, from }) => {
    const sides = corners.map((u, k) => middleOf(u, corners[(k + 1) % corners.length]));
    const centre = points.push(form.closest(meanPoint(corners.map((v) => old[v]))).point) - 1;
    return corners.map((v, k) => ({ corners: [v, sides[k], centre, sides[(k + corners.length - 1) % corners.length]], from })); // prettier-ignore
  });
  return { points, faces: made, lines: pieces };
}

function evenOut({ points, faces, lines: pieces }: Remeshed, lines: readonly KeptLine[], form: Form): void {
  const next = points.map(() => new Set<number>());
  const around = points.map((): number[][] => []);
  for (const { corners } of faces)
    corners.forEach((u, k) => {
      const v = corners[(k + 1) % corners.length];
      next[u].add(v);
      next[v].add(u);
      around[u].push(corners);
    });
  const placeOf = (v: number): Vec3 => {
    const p = points[v];
    const along = [...next[v]].filter((w) => pieces.has(sideKey(v, w)));
    if (along.length === 0) {
      let sum: Vec3 = [0, 0, 0];
      for (const w of next[v]) sum = addScaled(sum, points[w], 1 / next[v].size);
      return form.closest(lerp(p, sum, 0.6), v).point;
    }
    const ids = along.map((w) => pieces.get(sideKey(v, w)) as number);
    if (along.length !== 2 || ids[0] !== ids[1] || turnsAt(points[v], points[along[0]], points[along[1]])) return p;
    const line = lines[ids[0]];
    return nearestOnLine(lerp(p, lerp(points[along[0]], points[along[1]], 0.5), 0.6), line.points, line.closed).point;
  };
  points.forEach((from, v) => {
    if (around[v].length === 0) return;
    const before = around[v].map((corners) => areaNormal(corners.map((w) => points[w])));
    points[v] = placeOf(v);
    const folds = around[v].some((corners, i) => dot(areaNormal(corners.map((w) => points[w])), before[i]) <= 0);
    if (folds) points[v] = from;
  });
}
