import type { Manifold, ManifoldToplevel } from 'manifold-3d';
import { TopologyError } from '../../errors';
import type { Vec3 } from '../../math';
import { triangulate, type PolyMesh } from '../../mesh';

let kernel: ManifoldToplevel | null = null;

/** Makes the kernel of solids ready, once; `wasm` gives its program. Operators on solids refuse until then. */
export async function loadSolids(wasm: () => Promise<ArrayBuffer>): Promise<void> {
  if (kernel) return;
  const [{ default: create }, wasmBinary] = await Promise.all([import('manifold-3d'), wasm()]);
  const made = await create({ wasmBinary } as never);
  made.setup();
  kernel = made;
}

function ready(): ManifoldToplevel {
  if (!kernel) throw new TopologyError('NO_WAY', 'The kernel of solids is not loaded yet; try again in a moment.');
  return kernel;
}

export type SolidChange = 'join' | 'cut' | 'common';

/** A triangle of the result, and the face of the mesh that it is a piece of; a face of the cutter is turned over in a cut. */
export interface SolidTriangle {
  corners: [number, number, number];
  face: number;
}
export interface SolidResult {
  /** where each point is; those that were vertices of the mesh to the last bit */
  points: Vec3[];
  /** the mesh's vertex at a point, or −1 */
  vertexAt: number[];
  triangles: SolidTriangle[];
}

/**
 * Joins, cuts or meets closed sets of faces, the cutters taken together. Throws NO_WAY for faces that enclose no solid, naming which. Cost: the triangles
 * times their logarithm, in single precision where they cross.
 */
export function changeSolids(
  mesh: PolyMesh,
  body: readonly number[],
  cutters: readonly (readonly number[])[],
  change: SolidChange,
): SolidResult {
  const { Manifold } = ready();
  const sets = [body, ...cutters];
  const first = Manifold.reserveIDs(sets.length);
  const solids: Manifold[] = [];
  try {
    for (const [i, set] of sets.entries())
      solids.push(solidOf(mesh, set, first + i, i === 0 ? 'The part that is worked on' : 'The cutting shape'));
    const [a, one] = solids;
    const b = cutters.length === 1 ? one : Manifold.union(solids.slice(1));
    if (b !== one) solids.push(b);
    const made = change === 'join' ? a.add(b) : change === 'cut' ? a.subtract(b) : a.intersect(b);
    solids.push(made);
    return resultOf(mesh, made, sets, first);
  } finally {
    for (const solid of solids) solid.delete();
  }
}

function solidOf(mesh: PolyMesh, faces: readonly number[], id: number, what: string): Manifold {
  const { Manifold, Mesh } = ready();
  const index = new Map<number, number>();
  const positions: number[] = [];
  const triangles: number[] = [];
  const faceIds: number[] = [];
  faces.forEach((f, k) => {
    const ids = mesh.faceVertices(f).map((v) => {
      const known = index.get(v);
      if (known !== undefined) return known;
      const i = index.size;
      index.set(v, i);
      positions.push(...mesh.point(v));
      return i;
    });
    const cut = triangulate(mesh.faceVertices(f).map((v) => mesh.point(v)));
    triangles.push(...cut.map((i) => ids[i]));
    for (let i = 0; i < cut.length; i += 3) faceIds.push(k);
  });
  const gl = new Mesh({
    numProp: 3,
    vertProperties: Float32Array.from(positions),
    triVerts: Uint32Array.from(triangles),
    faceID: Uint32Array.from(faceIds),
    runOriginalID: Uint32Array.of(id),
    runIndex: Uint32Array.of(0, triangles.length),
  });
  try {
    const solid = new Manifold(gl);
    if (solid.isEmpty()) throw new Error('empty');
    return solid;
  } catch {
    throw new TopologyError('NO_WAY', `${what} is no closed solid: close its holes, or pick another part.`, { faces: [...faces] }); // prettier-ignore
  }
}

function resultOf(mesh: PolyMesh, solid: Manifold, sets: readonly (readonly number[])[], firstId: number): SolidResult {
  const gl = solid.getMesh();
  const known = new Places();
  for (const v of new Set(sets.flat().flatMap((f) => mesh.faceVertices(f)))) known.set(mesh.point(v), v);
  const points: Vec3[] = [];
  const vertexAt: number[] = [];
  // points that the kernel keeps apart for their faces are one here
  const merged = new Map<number, number>();
  for (let i = 0; i < gl.mergeFromVert.length; i++) merged.set(gl.mergeFromVert[i], gl.mergeToVert[i]);
  for (let i = 0; i < gl.vertProperties.length / gl.numProp; i++) {
    const p = [0, 1, 2].map((k) => gl.vertProperties[i * gl.numProp + k]) as unknown as Vec3;
    const v = known.get(p);
    vertexAt.push(v);
    points.push(v >= 0 ? mesh.point(v) : p);
  }
  const triangles: SolidTriangle[] = [];
  for (let run = 0; run < gl.runOriginalID.length; run++) {
    const set = sets[gl.runOriginalID[run] - firstId];
    for (let t = gl.runIndex[run]; t < gl.runIndex[run + 1]; t += 3) {
      const corners = [0, 1, 2].map((k) => merged.get(gl.triVerts[t + k]) ?? gl.triVerts[t + k]);
      triangles.push({ corners: corners as [number, number, number], face: set[gl.faceID[t / 3]] });
    }
  }
  return { points, vertexAt, triangles };
}

/** Vertices by where they are in single precision. */
class Places {
  private readonly byX = new Map<number, Map<number, Map<number, number>>>();

  set(p: Vec3, v: number): void {
    const [x, y, z] = p.map((c) => Math.fround(c) + 0);
    const ys = this.byX.get(x) ?? new Map<number, Map<number, number>>();
    const zs = ys.get(y) ?? new Map<number, number>();
    this.byX.set(x, ys.set(y, zs.set(z, v)));
  }
  /** The vertex at a place, or −1. */
  get([x, y, z]: Vec3): number {
    return (
      this.byX
        .get(x + 0)
        ?.get(y + 0)
        ?.get(z + 0) ?? -1
    );
  }
}
