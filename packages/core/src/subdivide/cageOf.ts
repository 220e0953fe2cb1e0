import { mirrored, isOnPlane, type MirrorPlane } from '../math';
import type { PolyMesh } from '../mesh';
import type { Cage } from './catmullClark';

/** How sharp an edge is in subdivision: hard edges wholly, creases by their weight. */
export function sharpnessOf(mesh: PolyMesh, e: number): number {
  if (mesh.findChannel('edge', 'hard')?.get(e)) return Infinity;
  return mesh.findChannel('edge', 'crease')?.get(e) ?? 0;
}

/** Faces of a mesh as a cage; `idOf` gives the mesh's vertex for each of its points. */
export interface MeshCage extends Cage {
  idOf: number[];
  /** mesh vertex → point of the cage */
  indexOf: Map<number, number>;
  /** faces of the mesh, in order; their mirror images follow */
  faces: number[];
}

/** The cage of the given faces, with their mirror images across the plane, so that the midline is no border. Linear. */
export function cageOf(mesh: PolyMesh, faces: Iterable<number>, plane: MirrorPlane | null): MeshCage {
  const list = [...faces];
  const indexOf = new Map<number, number>();
  const idOf: number[] = [];
  const positions: number[] = [];
  const corners: number[] = [];
  const faceStarts = [0];
  const creases: number[] = [];
  for (const f of list) {
    for (const v of mesh.faceVertices(f)) {
      let i = indexOf.get(v);
      if (i === undefined) {
        i = idOf.length;
        indexOf.set(v, i);
        idOf.push(v);
        positions.push(...mesh.point(v));
      }
      corners.push(i);
    }
    faceStarts.push(corners.length);
  }
  const edges = new Set(list.flatMap((f) => mesh.faceHalves(f).map((h) => h >> 1)));
  for (const e of edges) {
    const s = sharpnessOf(mesh, e);
    if (s > 0) creases.push(indexOf.get(mesh.origin(2 * e)) as number, indexOf.get(mesh.target(2 * e)) as number, s);
  }
  if (plane) addImage(mesh, plane, { positions, corners, faceStarts, creases, idOf });
  return {
    positions: Float64Array.from(positions),
    corners: Uint32Array.from(corners),
    faceStarts: Uint32Array.from(faceStarts),
    creases,
    idOf,
    indexOf,
    faces: list,
  };
}

function addImage(
  mesh: PolyMesh,
  plane: MirrorPlane,
  cage: { positions: number[]; corners: number[]; faceStarts: number[]; creases: number[]; idOf: number[] },
): void {
  const partner = cage.idOf.map((v, i) => {
    const p = mesh.point(v);
    if (isOnPlane(p, plane)) return i;
    cage.positions.push(...mirrored(p, plane));
    return cage.positions.length / 3 - 1;
  });
  for (let f = 0, n = cage.faceStarts.length - 1; f < n; f++) {
    for (let c = cage.faceStarts[f + 1] - 1; c >= cage.faceStarts[f]; c--) cage.corners.push(partner[cage.corners[c]]);
    cage.faceStarts.push(cage.corners.length);
  }
  for (let i = 0, n = cage.creases.length; i < n; i += 3)
    cage.creases.push(partner[cage.creases[i]], partner[cage.creases[i + 1]], cage.creases[i + 2]);
}
