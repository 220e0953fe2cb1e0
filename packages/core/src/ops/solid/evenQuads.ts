import { cross, dot, lerp, meanPoint, nearestOnLine, sub, type Vec3 } from '../../math';
import { addFace, addVertex, FILE_CHANNELS, PolyMesh } from '../../mesh';
import { TopologyError } from '../../errors';
import {
  endsOf,
  isotropic,
  sideKey,
  surfaceOf,
  turnsAt,
  type KeptLine,
  type RemeshForm,
  type TriangleMesh,
} from '../../remesh';
import { pairTriangles } from '../cut/pairTriangles';
import { BARE_GROUND } from '../ground';
import { only } from '../picked';

/** Faces over points of their own, each with the face that it is a piece of, and the sides that are pieces of lines. */
export interface Remeshed {
  points: Vec3[];
  faces: { corners: number[]; from: number }[];
  lines: ReadonlyMap<number, number>;
}

const asFaces = (mesh: TriangleMesh): Remeshed => ({
  points: mesh.points,
  faces: [...mesh.triangles()].map((t) => ({ corners: mesh.triangle(t), from: mesh.from[t] })),
  lines: mesh.lines,
});

/**
 * Remakes triangles of even quads or triangles with sides of about a length. `lines` stay; `tell` hears how far it is. Cost: some 70 µs a
 * face before or after.
 */
export function remade(
  triangles: TriangleMesh,
  lines: readonly KeptLine[],
  into: 'quads' | 'triangles',
  length: number,
  tell: (done: number) => void,
): Remeshed {
  const form = surfaceOf(triangles);
  // quads are evened out again after they were paired
  const share = into === 'quads' ? 0.6 : 1;
  isotropic(triangles, lines, form, into === 'quads' ? 2 * length : length, (done) => tell(share * done));
  return into === 'quads' ? quadsOf(triangles, lines, form, (done) => tell(share + (1 - share) * done)) : asFaces(triangles); // prettier-ignore
}

/** Rounds of evening out after triangles were paired and divided. */
const ROUNDS = 8;

/**
 * Triangles as quads of half their length: paired where they fit, never across a line, then every face divided round its middle, so that no
 * triangle is left; points evened out on the surface and along the lines. `tell` hears how far it is. Cost: linear, with a closest-point query a point and round.
 */
function quadsOf(
  mesh: TriangleMesh,
  lines: readonly KeptLine[],
  form: RemeshForm,
  tell: (done: number) => void,
): Remeshed {
  const result = divided(pairedFaces(mesh), lines, form);
  const ways = waysOf(result, lines);
  for (let i = 0; i < ROUNDS; i++) {
    tell((i + 1) / (ROUNDS + 1));
    evenOut(result.points, ways, form);
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
function divided(
  { points: old, faces, lines: oldLines }: Remeshed,
  lines: readonly KeptLine[],
  form: RemeshForm,
): Remeshed {
  const points = [...old];
  const pieces = new Map<number, number>();
  const middles = new Map<number, number>();
  // a new point's place on the surface is looked for from where a neighbour is
  const onForm = (p: Vec3, beside: number): number => {
    form.startAt(points.length, beside);
    return points.push(form.closest(p, points.length).point) - 1;
  };
  const middleOf = (u: number, v: number): number => {
    const key = sideKey(u, v);
    const known = middles.get(key);
    if (known !== undefined) return known;
    const line = oldLines.get(key);
    const p = lerp(old[u], old[v], 0.5);
    const m = line === undefined ? onForm(p, u) : points.push(nearestOnLine(p, lines[line].points, lines[line].closed).point) - 1; // prettier-ignore
    middles.set(key, m);
    if (line !== undefined) for (const w of [u, v]) pieces.set(sideKey(w, m), line);
    return m;
  };
  const made = faces.flatMap(({ corners, from }) => {
    const sides = corners.map((u, k) => middleOf(u, corners[(k + 1) % corners.length]));
    const centre = onForm(meanPoint(corners.map((v) => old[v])), corners[0]);
    return corners.map((v, k) => ({ corners: [v, sides[k], centre, sides[(k + corners.length - 1) % corners.length]], from })); // prettier-ignore
  });
  return { points, faces: made, lines: pieces };
}

/** How a point moves when quads are evened out: freely on the surface, along a line between two points of it, or not at all. */
type Way = { next: number[] } | { between: [number, number]; line: KeptLine } | null;

/** What stays the same while quads are evened out: the quads round each point, and how it moves. */
function waysOf(
  { points, faces, lines: pieces }: Remeshed,
  lines: readonly KeptLine[],
): { around: number[][][]; ways: Way[] } {
  const next = points.map((): number[] => []);
  const around = points.map((): number[][] => []);
  for (const { corners } of faces)
    corners.forEach((u, k) => {
      const v = corners[(k + 1) % corners.length];
      if (!next[u].includes(v)) next[u].push(v);
      if (!next[v].includes(u)) next[v].push(u);
      around[u].push(corners);
    });
  const ends = points.map((): number[] => []);
  for (const key of pieces.keys()) {
    const [u, v] = endsOf(key);
    ends[u].push(v);
    ends[v].push(u);
  }
  const ways = points.map((p, v): Way => {
    if (around[v].length === 0) return null;
    if (ends[v].length === 0) return { next: next[v] };
    const ids = ends[v].map((w) => pieces.get(sideKey(v, w)) as number);
    const [a, b] = ends[v];
    if (ids.length !== 2 || ids[0] !== ids[1] || turnsAt(p, points[a], points[b])) return null;
    return { between: [a, b], line: lines[ids[0]] };
  });
  return { around, ways };
}

/** The share of the way to the middle of its neighbours that a point goes in a round. */
const STEP = 0.6;

function evenOut(points: Vec3[], { around, ways }: ReturnType<typeof waysOf>, form: RemeshForm): void {
  ways.forEach((way, v) => {
    if (way === null) return;
    const to = placeOf(points, v, way, form);
    if (!around[v].some((corners) => folds(points, corners, v, to))) points[v] = to;
  });
}

function placeOf(points: readonly Vec3[], v: number, way: NonNullable<Way>, form: RemeshForm): Vec3 {
  const p = points[v];
  if ('between' in way) {
    const [a, b] = way.between;
    const { line } = way;
    return nearestOnLine(lerp(p, lerp(points[a], points[b], 0.5), STEP), line.points, line.closed).point;
  }
  const { next } = way;
  let x = 0, y = 0, z = 0; // prettier-ignore
  for (const w of next) {
    const q = points[w];
    x += q[0];
    y += q[1];
    z += q[2];
  }
  return form.closest(lerp(p, [x / next.length, y / next.length, z / next.length], STEP), v).point;
}

/** Whether a quad would turn over if one of its corners went to `to`. */
function folds(points: readonly Vec3[], corners: readonly number[], v: number, to: Vec3): boolean {
  const k = corners.indexOf(v);
  const c = points[corners[(k + 2) % 4]];
  const side = sub(points[corners[(k + 3) % 4]], points[corners[(k + 1) % 4]]);
  // a quad's area vector is half the product of its diagonals
  return dot(cross(sub(c, points[v]), side), cross(sub(c, to), side)) <= 0;
}
