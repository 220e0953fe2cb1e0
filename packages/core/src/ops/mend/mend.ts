import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { dot, normalize, sub } from '../../math';
import { cornerQuality, NONE, TRACE, TRACE_CHANNEL, tracedFaces, type PolyMesh, type Selection } from '../../mesh';
import { splitFace } from '../cut/edgePoints';
import { pairTriangles } from '../cut/pairTriangles';
import { BARE_GROUND } from '../ground';
import { dissolveStraight } from '../loops/dissolve';
import { operator, plural } from '../operator';
import { only } from '../picked';

/** The repair that makes quads of a face, when there is a plain one. */
export type Repair =
  | { kind: 'dissolve'; vertices: number[]; words: 'dissolve the point on its side' }
  | { kind: 'connect'; between: [number, number]; words: 'connect two of its points' }
  | { kind: 'pair'; with: number; words: 'pair it with the triangle beside' };

/**
 * The plain repair for a face that is no quad: a point that holds two edges goes; a hexagon (or larger, with an even number of
 * sides) is split where its parts are squarest; a triangle is paired with one beside. Null where only a person can
 * decide. Cost: the face's sides.
 */
export function repairFor(mesh: PolyMesh, f: number): Repair | null {
  const corners = mesh.faceVertices(f);
  const n = corners.length;
  const straight = corners.filter((v) => mesh.valence(v) === 2 && isOnLine(mesh, v));
  if (n > 4 && straight.length > 0 && n - straight.length >= 4)
    return { kind: 'dissolve', vertices: straight, words: 'dissolve the point on its side' };
  if (n === 3) {
    const other = mesh.faceHalves(f).map((h) => mesh.face(h ^ 1)).find((g) => g !== NONE && mesh.faceHalves(g).length === 3); // prettier-ignore
    return other === undefined ? null : { kind: 'pair', with: other, words: 'pair it with the triangle beside' };
  }
  if (n < 6 || n % 2 === 1) return null;
  return { kind: 'connect', between: squarestSplit(mesh, corners), words: 'connect two of its points' };
}

/** Bends less than this at a point with two edges are no corner; cosine of 30°. */
const STRAIGHT = Math.cos(Math.PI / 6);
function isOnLine(mesh: PolyMesh, v: number): boolean {
  const [a, b] = mesh.vertexHalves(v).map((h) => normalize(sub(mesh.point(mesh.target(h)), mesh.point(v))));
  return -dot(a, b) > STRAIGHT;
}

/** The two corners whose new edge cuts a quad off and leaves both parts as square as can be. */
function squarestSplit(mesh: PolyMesh, corners: readonly number[]): [number, number] {
  const n = corners.length;
  const points = corners.map((v) => mesh.point(v));
  let best = { i: 0, quality: -Infinity };
  for (let i = 0; i < n; i++) {
    const at = (k: number): (typeof points)[number] => points[(i + k) % n];
    const quad = [0, 1, 2, 3].map(at),
      rest = Array.from({ length: n - 2 }, (_, k) => at(k + 3));
    const quality = Math.min(cornerQuality(quad), cornerQuality(rest));
    if (mesh.findHalf(corners[i], corners[(i + 3) % n]) === NONE && quality > best.quality) best = { i, quality };
  }
  return [corners[best.i], corners[(best.i + 3) % n]];
}

const litOf = (mesh: PolyMesh, selection: Selection): number[] =>
  selection.faces.length > 0 ? [...selection.faces] : tracedFaces(mesh).lit;

/** Repairs picked faces, or all that edits left as triangles and n-gons, where a plain repair makes quads of them. */
export const mend = operator({
  name: 'mend',
  title: 'Mend',
  params: z.object({}),
  run(mesh, selection) {
    let mended = 0;
    const left: number[] = [];
    for (const f of litOf(mesh, selection)) {
      // one repair may have taken the next face with it
      if (!mesh.hasFace(f) || mesh.faceHalves(f).length === 4) continue;
      const repair = repairFor(mesh, f);
      if (!repair || !repaired(mesh, f, repair)) left.push(f);
      else mended++;
    }
    if (mended === 0)
      throw new TopologyError('NO_WAY', 'No plain repair makes quads of these faces; cut or dissolve by hand, or say that they are meant to be.', { faces: left }); // prettier-ignore
    const rest = left.filter((f) => mesh.hasFace(f));
    return {
      selection: only({ faces: rest }),
      report: {
        sentence: `${plural(mended, 'face')} mended, ${rest.length} left`,
        counts: { mended, left: rest.length },
      },
    };
  },
});

function repaired(mesh: PolyMesh, f: number, repair: Repair): boolean {
  if (repair.kind === 'dissolve') return dissolveStraight(mesh, repair.vertices) > 0;
  if (repair.kind === 'connect') return splitFace(mesh, f, ...repair.between).length === 2;
  try {
    pairTriangles.run(mesh, only({ faces: [f, repair.with] }), { angle: 180 }, BARE_GROUND);
    return true;
  } catch (error) {
    if (error instanceof TopologyError) return false;
    throw error;
  }
}

/** Says of picked faces, or of all that edits left lit, that they are meant to be as they are. */
export const meantToBe = operator({
  name: 'meant-to-be',
  title: 'Meant to be',
  params: z.object({}),
  run(mesh, selection) {
    const faces = litOf(mesh, selection).filter((f) => mesh.hasFace(f) && mesh.faceHalves(f).length !== 4);
    if (faces.length === 0)
      throw new TopologyError('NOTHING_PICKED', 'There is no triangle or n-gon here to leave as it is.');
    const column = mesh.channel(TRACE_CHANNEL);
    for (const f of faces) column.set(f, TRACE.meant);
    return {
      selection,
      report: { sentence: `${plural(faces.length, 'face')} left as meant to be`, counts: { faces: faces.length } },
    };
  },
});
