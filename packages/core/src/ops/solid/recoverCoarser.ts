import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { NONE, Rebuild, type PolyMesh } from '../../mesh';
import { operator, plural } from '../operator';
import { only } from '../picked';
import { wholeParts } from './copyPatch';

/** What a vertex of a subdivided mesh was made of; 0 where that is not known. */
const [POINT, EDGE, FACE] = [1, 2, 3];
interface Roles {
  /** of every vertex row */
  of: Uint8Array;
  /** those that have one */
  vertices: number[];
}

/**
 * Takes one level of subdivision back: each quad of a subdivided mesh holds one old point, one point of a face and two of edges, and
 * the labels that fit all quads at once give the coarser faces. Works on the picked parts, or on all; points stay where they
 * are. Refuses (NO_WAY) a part that was not made by subdividing. Cost: the parts, at most four times.
 */
export const recoverCoarser = operator({
  name: 'recover-coarser',
  title: 'Recover the coarser mesh',
  params: z.object({}),
  run(mesh, selection) {
    const picked = selection.faces.filter((f) => mesh.hasFace(f));
    const left = new Set(picked.length > 0 ? wholeParts(mesh, picked) : mesh.faces());
    const made: number[] = [];
    const before = mesh.faceCount;
    while (left.size > 0) {
      const part = wholeParts(mesh, [left.values().next().value as number]);
      for (const f of part) left.delete(f);
      for (const f of coarser(mesh, part)) made.push(f);
    }
    return {
      selection: only({ faces: made }),
      report: {
        sentence: `${plural(made.length, 'face')} in place of ${plural(before - mesh.faceCount + made.length, 'face')}`,
        counts: { faces: made.length, fewer: before - mesh.faceCount },
      },
    };
  },
});

function coarser(mesh: PolyMesh, part: readonly number[]): number[] {
  const odd = part.find((f) => mesh.faceHalves(f).length !== 4);
  const roles = odd === undefined ? rolesOf(mesh, part) : null;
  if (!roles)
    throw new TopologyError('NO_WAY', 'This part was not made by subdividing: no coarser mesh fits all its faces.', { faces: odd === undefined ? [...part] : [odd] }); // prettier-ignore
  const outlines = roles.vertices.filter((v) => roles.of[v] === FACE).map((v) => outlineRound(mesh, v));
  const kept = mesh.channelColumns('edge').length > 0 ? outlines.flatMap(({ corners, sides }) => corners.map((u, i) => ({ u, v: corners[(i + 1) % corners.length], e: sides[i] }))) : []; // prettier-ignore
  const rebuild = new Rebuild(mesh, part);
  for (const { u, v, e } of kept) rebuild.edge(u, v, e);
  for (const { corners, like } of outlines) rebuild.face(corners, like);
  return rebuild.finish();
}

/** The coarse face round a face point: its old points in turn, for each side an edge of it, and one of its quads. */
function outlineRound(mesh: PolyMesh, v: number): { corners: number[]; sides: number[]; like: number } {
  const quads = [...mesh.vertexHalves(v)].reverse().map((h) => mesh.face(h)).filter((f) => f !== NONE); // prettier-ignore
  const corners = quads.map((f) => {
    const own = mesh.faceVertices(f);
    return own[(own.indexOf(v) + 2) % 4];
  });
  const sides = quads.map((f) => {
    const halves = mesh.faceHalves(f);
    const i = halves.findIndex((h) => mesh.origin(h) === v);
    return halves[(i + 2) % 4] >> 1;
  });
  return { corners, sides, like: quads[0] };
}

/** The role of each vertex, from whichever corner of the first quad fits as an old point; null when none does. */
function rolesOf(mesh: PolyMesh, part: readonly number[]): Roles | null {
  for (const seed of mesh.faceVertices(part[0])) {
    const roles = spread(mesh, part[0], seed);
    if (roles) return roles;
  }
  return null;
}

/** Roles round a quad, from its old point on. */
const ROUND = [POINT, EDGE, FACE, EDGE];

function spread(mesh: PolyMesh, first: number, seed: number): Roles | null {
  const roles = { of: new Uint8Array(mesh.vertexRows), vertices: [seed] };
  const role = roles.of;
  role[seed] = POINT;
  const queue = [first];
  const isIn = new Uint8Array(mesh.faceRows);
  isIn[first] = 1;
  for (const f of queue) {
    const halves = mesh.faceHalves(f);
    const own = halves.map((h) => mesh.origin(h));
    const known = own.findIndex((v) => role[v] === POINT);
    // a quad beside a labelled one shares an edge with it, and so an old point or a face point
    const at = known >= 0 ? known : own.findIndex((v) => role[v] === FACE) + 2;
    for (let k = 0; k < 4; k++) {
      const v = own[(at + k) & 3];
      if (role[v] === 0) roles.vertices.push(v);
      else if (role[v] !== ROUND[k]) return null;
      role[v] = ROUND[k];
    }
    for (const h of halves) {
      const g = mesh.face(h ^ 1);
      if (g === NONE || isIn[g]) continue;
      isIn[g] = 1;
      queue.push(g);
    }
  }
  // a face point has faces all round, an edge point two or four
  const fits = (v: number): boolean => {
    if (role[v] === POINT) return true;
    const isBorder = mesh.isBorderVertex(v);
    return role[v] === FACE ? !isBorder : mesh.valence(v) === (isBorder ? 3 : 4);
  };
  return roles.vertices.every(fits) ? roles : null;
}
