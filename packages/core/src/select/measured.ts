import * as z from 'zod/mini';
import { distance, dot, isOnPlane, normalize, type MirrorPlane, type Vec3 } from '../math';
import { areaNormal, faceNormal, NONE, type PolyMesh, type Selection } from '../mesh';
import { only, query } from './query';

/** Open edges: a face on one side only, and not closed by the mirrored half. */
export const open = query({
  name: 'open',
  title: 'Open edges',
  params: z.object({}),
  run: (mesh, _s, _p, plane) => only({ edges: [...mesh.edges()].filter((e) => mesh.isBorderEdge(e) && !isSeam(mesh, e, plane)) }), // prettier-ignore
});

const isSeam = (mesh: PolyMesh, e: number, plane: MirrorPlane | null): boolean =>
  plane !== null && [2 * e, 2 * e + 1].every((h) => isOnPlane(mesh.point(mesh.origin(h)), plane));

export const hard = query({
  name: 'hard',
  title: 'Hard edges',
  params: z.object({}),
  run(mesh) {
    const column = mesh.findChannel('edge', 'hard');
    return only({ edges: column ? [...mesh.edges()].filter((e) => column.get(e) !== 0) : [] });
  },
});

/** Edges where the surface bends by at least so many degrees. */
export const byAngle = query({
  name: 'by-angle',
  title: 'Edges that bend',
  params: z.object({ degrees: z._default(z.number().check(z.minimum(0), z.maximum(180)), 30) }),
  run(mesh, _s, { degrees }) {
    const most = Math.cos((degrees * Math.PI) / 180);
    return only({
      edges: [...mesh.edges()].filter((e) => {
        const [f, g] = [mesh.face(2 * e), mesh.face(2 * e + 1)];
        return f !== NONE && g !== NONE && dot(faceNormal(mesh, f), faceNormal(mesh, g)) <= most;
      }),
    });
  },
});

/** Edges at a point as the whole model has them: the mirrored half's are counted on the midline. */
export function wholeValence(mesh: PolyMesh, v: number, plane: MirrorPlane | null): number {
  const halves = mesh.vertexHalves(v);
  if (!plane || !isOnPlane(mesh.point(v), plane)) return halves.length;
  const along = halves.filter((h) => isOnPlane(mesh.point(mesh.target(h)), plane)).length;
  return 2 * halves.length - along;
}

/** Points by their number of edges; 'poles' are all inside that have not four. */
export const byValence = query({
  name: 'by-valence',
  title: 'Points by their edges',
  params: z.object({ valence: z._default(z.union([z.int().check(z.minimum(0)), z.literal('poles')]), 'poles') }),
  run(mesh, _s, { valence }, plane) {
    const isInner = (v: number): boolean =>
      mesh.vertexHalves(v).every((h) => !mesh.isBorderEdge(h >> 1) || isSeam(mesh, h >> 1, plane));
    const fits = (v: number): boolean => {
      const n = wholeValence(mesh, v, plane);
      return valence === 'poles' ? n !== 4 && n > 0 && isInner(v) : n === valence;
    };
    return only({ vertices: [...mesh.vertices()].filter(fits) });
  },
});

/** Faces by their number of sides: 3, 4, or 'more' for n-gons. */
export const bySides = query({
  name: 'by-sides',
  title: 'Faces by their sides',
  params: z.object({ sides: z._default(z.union([z.int().check(z.minimum(3)), z.literal('more')]), 3) }),
  run(mesh, _s, { sides }) {
    const fits = (n: number): boolean => (sides === 'more' ? n > 4 : n === sides);
    return only({ faces: [...mesh.faces()].filter((f) => fits(mesh.faceHalves(f).length)) });
  },
});

/** Faces that look in a direction, within so many degrees. */
export const byFacing = query({
  name: 'by-facing',
  title: 'Faces that look that way',
  params: z.object({
    direction: z._default(z.tuple([z.number(), z.number(), z.number()]), [0, 0, 1]),
    degrees: z._default(z.number().check(z.minimum(0), z.maximum(180)), 45),
  }),
  run(mesh, _s, { direction, degrees }) {
    const d = normalize(direction);
    const least = Math.cos((degrees * Math.PI) / 180);
    return only({ faces: [...mesh.faces()].filter((f) => dot(faceNormal(mesh, f), d) >= least) });
  },
});

/** All faces of the regions that the picked faces are in; of a mesh without regions, of their groups from the file. */
export const region = query({
  name: 'region',
  title: 'The whole region',
  params: z.object({}),
  run(mesh, { faces }) {
    const column = mesh.findChannel('face', 'region') ?? mesh.findChannel('face', 'group');
    if (!column) return only({ faces: [...mesh.faces()] });
    const wanted = new Set(faces.map((f) => column.get(f)));
    return only({ faces: [...mesh.faces()].filter((f) => wanted.has(column.get(f))) });
  },
});

/** The islands of their regions that the picked faces are in: what hangs together with them by edges, in the same region. Cost: those. */
export const regionIsland = query({
  name: 'region-island',
  title: 'This island of the region',
  params: z.object({}),
  run(mesh, { faces }) {
    const column = mesh.findChannel('face', 'region') ?? mesh.findChannel('face', 'group');
    const found = new Set(faces);
    for (const f of found)
      for (const h of mesh.faceHalves(f)) {
        const g = mesh.face(h ^ 1);
        if (g !== NONE && column?.get(g) === column?.get(f)) found.add(g);
      }
    return only({ faces: [...found] });
  },
});

/** Elements that measure the same as what is picked: edges by length, faces by area, points by their edges. */
export const same = query({
  name: 'same',
  title: 'Same as this',
  params: z.object({ within: z._default(z.number().check(z.minimum(0)), 0.1) }),
  run(mesh, selection, { within }, plane) {
    const like = <T>(
      ids: readonly number[],
      all: () => Iterable<number>,
      of: (id: number) => T,
      fits: (a: T, b: T) => boolean,
    ): number[] => {
      if (ids.length === 0) return [];
      const wanted = ids.map(of);
      return [...all()].filter((id) => wanted.some((w) => fits(of(id), w)));
    };
    const near = (a: number, b: number): boolean => Math.abs(a - b) <= within * b;
    return {
      vertices: like(selection.vertices, () => mesh.vertices(), (v) => wholeValence(mesh, v, plane), (a, b) => a === b), // prettier-ignore
      edges: like(selection.edges, () => mesh.edges(), (e) => distance(mesh.point(mesh.origin(2 * e)), mesh.point(mesh.target(2 * e))), near), // prettier-ignore
      faces: like(selection.faces, () => mesh.faces(), (f) => areaOf(mesh, f), near), // prettier-ignore
    } satisfies Selection;
  },
});

function areaOf(mesh: PolyMesh, f: number): number {
  const n: Vec3 = areaNormal(mesh.faceVertices(f).map((v) => mesh.point(v)));
  return Math.hypot(...n) / 2;
}
