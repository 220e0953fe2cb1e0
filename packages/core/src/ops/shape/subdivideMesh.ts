import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import type { Vec3 } from '../../math';
import { between, meanOf, NONE, Rebuild, type PolyMesh } from '../../mesh';
import { cageOf, sharpnessOf, subdivideOnce } from '../../subdivide';
import { onMidline, settledPlace, type Ground } from '../ground';
import { operator, plural } from '../operator';
import { choice, count } from '../params';
import { only } from '../picked';
import { CREASE_CHANNEL } from './crease';

/** A level that would give more faces than this is refused: the document holds them all. */
const MOST_FACES = 400_000;

/**
 * Subdivides for real: every face, or the picked ones, into quads round its middle. Smoothed by Catmull and Clark's rule
 * with creases, or flat with all points where they are. Neighbours of picked faces take the new points on
 * their edges as further corners. Points on the midline are smoothed as inner ones and stay on it.
 */
export const subdivideMesh = operator({
  name: 'subdivide',
  title: 'Subdivide',
  params: z.object({
    levels: count('Levels', { min: 1, max: 4, start: 1 }),
    shape: choice(
      'Shape',
      [
        ['smooth', 'smoothed'],
        ['flat', 'as it is'],
      ],
      'smooth',
    ),
  }),
  run(mesh, selection, { levels, shape }, ground) {
    const before = mesh.faceCount;
    const whole = selection.faces.length === 0;
    let faces = whole ? [...mesh.faces()] : selection.faces.filter((f) => mesh.hasFace(f));
    if (faces.length === 0) throw new TopologyError('NOTHING_PICKED', 'There are no faces to subdivide.');
    for (let i = 0; i < levels; i++) {
      if (mesh.faceCount + 3 * faces.length > MOST_FACES)
        throw new TopologyError('TOO_MANY_FACES', `This would give more than ${MOST_FACES.toLocaleString('en')} faces; take fewer levels or pick fewer faces.`); // prettier-ignore
      faces = level(mesh, faces, shape === 'smooth', ground);
    }
    return {
      selection: only(whole ? {} : { faces }),
      report: { sentence: `${plural(mesh.faceCount - before, 'face')} more by ${plural(levels, 'level')}`, counts: { levels, faces: mesh.faceCount - before } }, // prettier-ignore
    };
  },
});

function level(mesh: PolyMesh, faces: readonly number[], smooth: boolean, ground: Ground): number[] {
  const cage = cageOf(mesh, withNeighbours(mesh, faces), ground.plane);
  const { positions, edges, vertexCount } = subdivideOnce(cage, smooth);
  const at = (i: number): Vec3 => [positions[3 * i], positions[3 * i + 1], positions[3 * i + 2]];
  const faceIndex = new Map(cage.faces.map((f, i) => [f, i]));
  const edgeIndex = new Map<string, number>();
  for (let e = 0; e < edges.length / 2; e++) edgeIndex.set(`${edges[2 * e]},${edges[2 * e + 1]}`, e);
  const pointOfEdge = (u: number, v: number): Vec3 => {
    const [a, b] = [cage.indexOf.get(u) as number, cage.indexOf.get(v) as number].sort((x, y) => x - y);
    return at(vertexCount + (edgeIndex.get(`${a},${b}`) as number));
  };
  const split = new Map<number, { u: number; v: number; sharp: number; vertex: number }>();
  const picked = new Set(faces);
  const beside = new Map<number, number[]>();
  for (const f of faces)
    for (const h of mesh.faceHalves(f)) {
      split.set(h >> 1, { u: mesh.origin(2 * (h >> 1)), v: mesh.target(2 * (h >> 1)), sharp: sharpnessOf(mesh, h >> 1), vertex: NONE }); // prettier-ignore
      const g = mesh.face(h ^ 1);
      if (g !== NONE && !picked.has(g)) beside.set(g, mesh.faceHalves(g));
    }
  const outlines = faces.map((f) => ({ f, halves: mesh.faceHalves(f), corners: mesh.faceVertices(f) }));
  const besideCorners = [...beside].map(([f, halves]) => ({ f, halves, corners: mesh.faceVertices(f) }));
  const inner = smooth ? movedVertices(mesh, faces, picked) : [];
  const rebuild = new Rebuild(mesh, [...faces, ...beside.keys()]);
  for (const [e, s] of split) {
    const parents = [s.u, s.v];
    const middle = pointOfEdge(s.u, s.v);
    const onPlane = parents.every((v) => onMidline(mesh, v, ground));
    s.vertex = rebuild.vertex(landed(mesh, middle, onPlane ? s.u : null, ground), between(s.u, s.v, 0.5));
    rebuild.edge(s.u, s.vertex, e);
    rebuild.edge(s.vertex, s.v, e);
  }
  const made: number[] = [];
  outlines.forEach(({ f, halves, corners }) => {
    const centre = at(vertexCount + edges.length / 2 + (faceIndex.get(f) as number));
    const middle = rebuild.vertex(landed(mesh, centre, null, ground), meanOf(corners));
    const mids = halves.map((h) => (split.get(h >> 1) as { vertex: number }).vertex);
    corners.forEach((v, i) =>
      made.push(rebuild.face([v, mids[i], middle, mids[(i + mids.length - 1) % mids.length]], f)),
    );
  });
  for (const { f, halves, corners } of besideCorners)
    rebuild.face(halves.flatMap((h, i) => [corners[i], ...(split.has(h >> 1) ? [(split.get(h >> 1) as { vertex: number }).vertex] : [])]), f); // prettier-ignore
  const all = rebuild.finish();
  for (const v of inner) {
    const p = mesh.point(v);
    mesh.setPoint(v, settledPlace(p, at(cage.indexOf.get(v) as number), ground, v));
  }
  lowerCreases(mesh, split.values());
  return made.map((k) => all[k]);
}

const landed = (mesh: PolyMesh, p: Vec3, midline: number | null, ground: Ground): Vec3 =>
  midline === null ? (ground.form ? ground.form.closest(p).point : p) : settledPlace(mesh.point(midline), p, ground);

/** The cage looks one ring further than what is split, so that its rim is smoothed as the inside that it is. */
function withNeighbours(mesh: PolyMesh, faces: readonly number[]): Set<number> {
  const all = new Set(faces);
  for (const f of faces) for (const v of mesh.faceVertices(f)) for (const g of mesh.vertexFaces(v)) all.add(g);
  return all;
}

/** Old points move where all faces round them are split; at the rim of a picked patch they stay. */
function movedVertices(mesh: PolyMesh, faces: readonly number[], picked: ReadonlySet<number>): number[] {
  const found = new Set<number>();
  for (const f of faces)
    for (const v of mesh.faceVertices(f)) if (mesh.vertexFaces(v).every((g) => picked.has(g))) found.add(v);
  return [...found];
}

/** A crease loses a level of its sharpness with each level of subdivision. */
function lowerCreases(mesh: PolyMesh, split: Iterable<{ u: number; v: number; vertex: number }>): void {
  const column = mesh.findChannel('edge', CREASE_CHANNEL.name);
  if (!column) return;
  for (const { u, v, vertex } of split)
    for (const w of [u, v]) {
      const h = mesh.findHalf(w, vertex);
      if (h !== NONE && column.get(h >> 1) > 0) column.set(h >> 1, Math.max(0, column.get(h >> 1) - 1));
    }
}
