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
  /** those of faces that did not come out whole */
  triangles: SolidTriangle[];
  /** faces that are there as they were */
  whole: Set<number>;
}

/** What a drag keeps of the solids between its runs. */
export interface KeptSolids {
  body: Manifold;
  cutter: Manifold;
  /** ids that the triangles of each carry */
  ids: [number, number];
  delete(): void;
}

/** The body and the first cutter as solids. Throws NO_WAY for faces that enclose no solid, naming which. Cost: the triangles times their logarithm. */
export function keepSolids(mesh: PolyMesh, body: readonly number[], cutter: readonly number[]): KeptSolids {
  const first = ready().Manifold.reserveIDs(2);
  const a = solidOf(mesh, body, first, 'The part that is worked on');
  try {
    const b = solidOf(mesh, cutter, first + 1, 'The cutting shape');
    return { body: a, cutter: b, ids: [first, first + 1], delete: () => [a, b].forEach((solid) => solid.delete()) };
  } catch (error) {
    a.delete();
    throw error;
  }
}

/**
 * Joins, cuts or meets the kept solids, and further sets of faces taken together with the cutter. Throws NO_WAY for faces that
 * enclose no solid. Cost: the triangles times their logarithm, in single precision where they cross.
 */
export function changeSolids(
  mesh: PolyMesh,
  kept: KeptSolids,
  sets: { body: readonly number[]; cutters: readonly (readonly number[])[]; places: Places },
  change: SolidChange,
): SolidResult {
  const { Manifold } = ready();
  const { body, cutters } = sets;
  const facesOf = new Map([[kept.ids[0], body], [kept.ids[1], cutters[0]]]); // prettier-ignore
  const made: Manifold[] = [];
  try {
    for (const set of cutters.slice(1)) {
      const id = Manifold.reserveIDs(1);
      made.push(solidOf(mesh, set, id, 'The cutting shape'));
      facesOf.set(id, set);
    }
    const [a, b] = [kept.body, made.length > 0 ? Manifold.union([kept.cutter, ...made]) : kept.cutter];
    if (b !== kept.cutter) made.push(b);
    const result = change === 'join' ? a.add(b) : change === 'cut' ? a.subtract(b) : a.intersect(b);
    made.push(result);
    return resultOf(mesh, result, facesOf, sets, change === 'cut');
  } finally {
    for (const solid of made) solid.delete();
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

function resultOf(
  mesh: PolyMesh,
  solid: Manifold,
  facesOf: ReadonlyMap<number, readonly number[]>,
  { body, places }: { body: readonly number[]; places: Places },
  isCut: boolean,
): SolidResult {
  const { numProp, vertProperties, mergeFromVert, mergeToVert, triVerts, faceID, runOriginalID, runIndex } =
    solid.getMesh();
  const points: Vec3[] = [];
  const vertexAt: number[] = [];
  for (let i = 0; i < vertProperties.length; i += numProp) {
    const p: Vec3 = [vertProperties[i], vertProperties[i + 1], vertProperties[i + 2]];
    const v = places.get(p);
    vertexAt.push(v);
    points.push(v >= 0 ? mesh.point(v) : p);
  }
  // points that the kernel keeps apart for their faces are one here
  const merged = Int32Array.from(points.keys());
  for (let i = 0; i < mergeFromVert.length; i++) merged[mergeFromVert[i]] = mergeToVert[i];
  const whole = new Set<number>();
  const triangles: SolidTriangle[] = [];
  for (let run = 0; run < runOriginalID.length; run++) {
    const set = facesOf.get(runOriginalID[run]) as readonly number[];
    const own: SolidTriangle[] = [];
    for (let t = runIndex[run]; t < runIndex[run + 1]; t += 3) {
      const corners: SolidTriangle['corners'] = [merged[triVerts[t]], merged[triVerts[t + 1]], merged[triVerts[t + 2]]];
      own.push({ corners, face: set[faceID[t / 3]] });
    }
    // faces of a cutter come out of a cut turned over
    if (set === body || !isCut) for (const f of wholeFaces(mesh, own, vertexAt)) whole.add(f);
    for (const triangle of own) if (!whole.has(triangle.face)) triangles.push(triangle);
  }
  return { points, vertexAt, triangles, whole };
}

/** Faces that gave all their triangles, with no corner but their own. */
function wholeFaces(mesh: PolyMesh, triangles: readonly SolidTriangle[], vertexAt: readonly number[]): number[] {
  const count = new Map<number, number>();
  for (const { corners, face } of triangles) {
    const isOwn = corners.every((c) => vertexAt[c] >= 0 && hasCorner(mesh, face, vertexAt[c]));
    count.set(face, (count.get(face) ?? 0) + (isOwn ? 1 : Infinity));
  }
  return [...count].filter(([f, n]) => n === mesh.faceHalves(f).length - 2).map(([f]) => f);
}

function hasCorner(mesh: PolyMesh, f: number, v: number): boolean {
  const first = mesh.faceHalf.data[f];
  let h = first;
  do {
    if (mesh.origin(h) === v) return true;
    h = mesh.next(h);
  } while (h !== first);
  return false;
}

/** Vertices by where they are in single precision. */
export class Places {
  private readonly byX = new Map<number, Map<number, Map<number, number>>>();

  constructor(mesh: PolyMesh, faces: readonly number[]) {
    for (const v of new Set(faces.flatMap((f) => mesh.faceVertices(f)))) this.set(mesh.point(v), v);
  }
  private set(p: Vec3, v: number): void {
    const [x, y, z] = p.map((c) => Math.fround(c) + 0);
    const ys = this.byX.get(x) ?? new Map<number, Map<number, number>>();
    const zs = ys.get(y) ?? new Map<number, number>();
    this.byX.set(x, ys.set(y, zs.set(z, v)));
  }
  /** The vertex at a place, or −1. */
  get([x, y, z]: Vec3): number {
    const ys = this.byX.get(x + 0);
    return ys?.get(y + 0)?.get(z + 0) ?? -1;
  }
}
