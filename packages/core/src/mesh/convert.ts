import { TopologyError } from '../errors';
import { addFace, addVertex } from './build';
import { PolyMesh } from './PolyMesh';
import type { PolygonSoup } from './PolygonSoup';

/**
 * A PolyMesh over the soup's polygons. A face that would make an edge with three faces, or close a second
 * fan at a vertex, gets corners of its own there instead: `splitCorners` counts them. Faces with a repeated or too
 * few corners are left out and counted. Vertices keep their order, then the split ones follow.
 */
export function meshFromSoup(soup: PolygonSoup): { mesh: PolyMesh; splitCorners: number; droppedFaces: number } {
  const mesh = new PolyMesh();
  const { positions, faceStarts, corners } = soup;
  for (let i = 0; i < positions.length; i += 3) addVertex(mesh, [positions[i], positions[i + 1], positions[i + 2]]);
  let splitCorners = 0,
    droppedFaces = 0;
  for (let f = 0; f + 1 < faceStarts.length; f++) {
    const vertices = [...corners.subarray(faceStarts[f], faceStarts[f + 1])];
    if (vertices.length < 3 || new Set(vertices).size !== vertices.length) {
      droppedFaces++;
      continue;
    }
    if (!tryAddFace(mesh, vertices)) {
      splitCorners += vertices.length;
      addFace(
        mesh,
        vertices.map((v) => addVertex(mesh, mesh.point(v))),
      );
    }
  }
  return { mesh, splitCorners, droppedFaces };
}

function tryAddFace(mesh: PolyMesh, vertices: number[]): boolean {
  mesh.begin();
  try {
    addFace(mesh, vertices);
    mesh.commit();
    return true;
  } catch (error) {
    mesh.rollback();
    if (error instanceof TopologyError) return false;
    throw error;
  }
}

/** The faces of a mesh as a soup, ids packed; isolated vertices and loose edges are left out. */
export function soupFromMesh(mesh: PolyMesh): PolygonSoup {
  const packed = new Map<number, number>();
  const positions: number[] = [];
  const corners: number[] = [];
  const starts = [0];
  for (const f of mesh.faces()) {
    for (const v of mesh.faceVertices(f)) {
      let id = packed.get(v);
      if (id === undefined) {
        id = packed.size;
        packed.set(v, id);
        positions.push(...mesh.point(v));
      }
      corners.push(id);
    }
    starts.push(corners.length);
  }
  return {
    positions: Float64Array.from(positions),
    faceStarts: Uint32Array.from(starts),
    corners: Uint32Array.from(corners),
  };
}
