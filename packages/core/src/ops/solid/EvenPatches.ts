import type * as z from 'zod/mini';
import { distance, nearestOnLine, type Vec3 } from '../../math';
import { addFace, addVertex, NONE, PolyMesh, type Selection } from '../../mesh';
import { keepWithinBall } from '../../remesh';
import type { Ground } from '../ground';
import { meanLength } from '../picked';
import { wholeParts } from './copyPatch';
import { areaOfAll, tooFine, trianglesOf, type EvenOutParams } from './evenOut';
import { remade } from './evenQuads';

/** Faces that a patch is remade to: what the blink of an eye allows. */
const MADE = 240;
/** Faces that a patch is remade from, about. */
const FROM = 600;

/** A place on a face of the mesh. */
export interface PlaceOnFace {
  face: number;
  point: Vec3;
}

/**
 * What Even out would make, a round patch of it at a time: so that its settings can be tried live on a part of any size. Lines stay in a patch
 * as they would in the whole; its own rim is cut round. Holds the faces that are asked for; made anew when the mesh or what is picked changes.
 */
export class EvenPatches {
  private readonly faces: ReadonlySet<number>;
  private readonly area: number;
  private readonly length: number;

  /** Cost: every face that is asked for. */
  constructor(
    private readonly mesh: PolyMesh,
    selection: Selection,
    private readonly ground: Ground,
  ) {
    const picked = selection.faces.filter((f) => mesh.hasFace(f));
    this.faces = new Set(wholeParts(mesh, picked.length > 0 ? picked : mesh.faces()));
    this.area = areaOfAll(mesh, this.faces);
    this.length = meanLength(mesh, edgesOf(mesh, this.faces));
  }

  /** About how many faces the whole would have. */
  count({ into, length }: z.infer<typeof EvenOutParams>): number {
    const one = (length ?? this.length) ** 2 * (into === 'quads' ? 1 : Math.sqrt(3) / 4);
    return one > 0 ? Math.round(this.area / one) : 0;
  }

  /** Why the whole would be refused, in a sentence; null where it would not. */
  refusal({ length }: z.infer<typeof EvenOutParams>): string | null {
    return tooFine(this.area, length ?? this.length);
  }

  /**
   * The patch round a place; null where that is not asked for, or there is no length. Cost: the faces in it, before and after: some 30 ms.
   */
  at(near: PlaceOnFace, { into, length, angle }: z.infer<typeof EvenOutParams>): PolyMesh | null {
    const by = length ?? this.length;
    if (!(by > 0) || !this.faces.has(near.face)) return null;
    const { faces, radius } = facesWithin(this.mesh, near, by * Math.sqrt(MADE / Math.PI));
    const { triangles, lines } = trianglesOf(this.mesh, faces, edgesOf(this.mesh, faces), angle, this.ground);
    if (Number.isFinite(radius)) keepWithinBall(triangles, lines, near.point, radius);
    const { points, faces: made } = remade(triangles, lines, into, by, () => undefined);
    const patch = new PolyMesh();
    const own = new Map<number, number>();
    for (const { corners } of made) {
      for (const i of corners) if (!own.has(i)) own.set(i, addVertex(patch, points[i]));
      addFace(patch, corners.map((i) => own.get(i) as number)); // prettier-ignore
    }
    return patch;
  }
}

const edgesOf = (mesh: PolyMesh, faces: Iterable<number>): Set<number> => {
  const edges = new Set<number>();
  for (const f of faces) for (const h of mesh.faceHalves(f)) edges.add(h >> 1);
  return edges;
};

/**
 * The faces round a place, ring by ring, that a ball of a radius round it meets, and the ball: smaller where that would be more than are remade
 * live, and Infinity where it holds all of a part.
 */
function facesWithin(
  mesh: PolyMesh,
  { face, point }: PlaceOnFace,
  wanted: number,
): { faces: number[]; radius: number } {
  const faces = [face];
  const known = new Set(faces);
  for (;;) {
    const rim = rimOf(mesh, faces, known);
    const clear = Math.min(...rim.map(({ ends }) => distance(point, nearestOnLine(point, ends).point)));
    if (rim.length === 0) return { faces, radius: Infinity };
    if (clear >= wanted || faces.length >= FROM) return { faces, radius: Math.min(clear, wanted) };
    for (const { beyond } of rim) {
      if (known.has(beyond)) continue;
      known.add(beyond);
      faces.push(beyond);
    }
  }
}

/** The edges at which more faces lie beyond some. */
function rimOf(
  mesh: PolyMesh,
  faces: readonly number[],
  known: ReadonlySet<number>,
): { ends: [Vec3, Vec3]; beyond: number }[] {
  const halves = faces.flatMap((f) => mesh.faceHalves(f));
  return halves.flatMap((h) => {
    const beyond = mesh.face(h ^ 1);
    if (beyond === NONE || known.has(beyond)) return [];
    return [{ ends: [mesh.point(mesh.origin(h)), mesh.point(mesh.target(h))], beyond }];
  });
}
