import type { Manifold, ManifoldToplevel, Mesh } from 'manifold-3d';
import { TopologyError } from '../../errors';
import type { Box, Vec3 } from '../../math';
import { boxOfFaces, triangulate, type PolyMesh } from '../../mesh';
import { solidReach, type SolidReach } from './solidReach';

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
  /** faces of the solids that do not stay as they were */
  gone: Set<number>;
  /** those of them that come out whole, but turned over */
  turned: Set<number>;
}

/** A closed part, or what the other solid's box reaches of it, in the kernel. */
interface Solid {
  kernel: Manifold;
  /** the id that its triangles carry */
  id: number;
  /** faces by the number that their triangles carry; closing triangles have higher ones */
  faces: readonly number[];
  /** faces that the other solid cannot touch */
  beyond: readonly number[];
}

/** What a drag keeps of the solids between its runs. */
export interface KeptSolids {
  body: Solid;
  cutters: Solid[];
  delete(): void;
}

/**
 * The body and the cutting shapes as solids: of each no more than what the other's box reaches. Throws NO_WAY for faces that enclose no
 * solid, naming which. Cost: the faces, and the triangles reached times their logarithm.
 */
export function keepSolids(
  mesh: PolyMesh,
  body: readonly number[],
  cutters: readonly (readonly number[])[],
): KeptSolids {
  const made: Solid[] = [];
  const drop = (): void => made.forEach(({ kernel: solid }) => solid.delete());
  try {
    const box = boxOfFaces(mesh, cutters.flat());
    made.push(solidOf(mesh, body, box, 'The part that is worked on'));
    // what several cutting shapes have in common lies anywhere
    const reach = cutters.length === 1 ? boxOfFaces(mesh, body) : null;
    for (const cutter of cutters) made.push(solidOf(mesh, cutter, reach, 'The cutting shape'));
    return { body: made[0], cutters: made.slice(1), delete: drop };
  } catch (error) {
    drop();
    throw error;
  }
}

/** Joins, cuts or meets the kept solids. Cost: the triangles in them times their logarithm, in single precision where they cross. */
export function changeSolids(
  mesh: PolyMesh,
  { body, cutters }: KeptSolids,
  places: Places,
  change: SolidChange,
): SolidResult {
  const made: Manifold[] = [];
  try {
    const a = body.kernel;
    const b = cutters.length > 1 ? ready().Manifold.union(cutters.map((cutter) => cutter.kernel)) : cutters[0].kernel;
    if (cutters.length > 1) made.push(b);
    const result = change === 'join' ? a.add(b) : change === 'cut' ? a.subtract(b) : a.intersect(b);
    made.push(result);
    const reading = new Reading(mesh, result, places);
    reading.take(body, true, change !== 'common');
    for (const cutter of cutters) reading.take(cutter, change !== 'cut', change === 'join');
    return reading;
  } finally {
    for (const solid of made) solid.delete();
  }
}

/** Throws NO_WAY. */
function solidOf(mesh: PolyMesh, part: readonly number[], box: Box | null, what: string): Solid {
  const id = ready().Manifold.reserveIDs(1);
  const reach = box && solidReach(mesh, part, box);
  const near = reach && kernelOf(mesh, reach.faces, reach, id);
  if (near) return { kernel: near, id, faces: reach.faces, beyond: reach.beyond };
  const whole = kernelOf(mesh, part, { points: [], closing: [] }, id);
  if (whole) return { kernel: whole, id, faces: part, beyond: [] };
  throw new TopologyError('NO_WAY', `${what} is no closed solid: close its holes, or pick another part.`, { faces: [...part] }); // prettier-ignore
}

/** Null for what encloses no solid. */
function kernelOf(
  mesh: PolyMesh,
  faces: readonly number[],
  { points, closing }: Pick<SolidReach, 'points' | 'closing'>,
  id: number,
): Manifold | null {
  const { Manifold, Mesh } = ready();
  const index = new Map<number, number>();
  const positions: number[] = [];
  const triangles: number[] = [];
  const faceIds: number[] = [];
  const indexOf = (v: number): number => {
    const known = index.get(v);
    if (known !== undefined) return known;
    const i = index.size;
    index.set(v, i);
    positions.push(...(v < 0 ? points[-1 - v] : mesh.point(v)));
    return i;
  };
  faces.forEach((f, k) => {
    const ids = mesh.faceVertices(f).map(indexOf);
    const cut = triangulate(mesh.faceVertices(f).map((v) => mesh.point(v)));
    for (const i of cut) triangles.push(ids[i]);
    for (let i = 0; i < cut.length; i += 3) faceIds.push(k);
  });
  // the kernel takes triangles of one number for flat: each closing one has its own
  closing.forEach((corners, k) => {
    for (const v of corners) triangles.push(indexOf(v));
    faceIds.push(faces.length + k);
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
    if (!solid.isEmpty()) return solid;
    solid.delete();
  } catch {
    // what it says is about its own arrays; the caller's sentence is about faces
  }
  return null;
}

/** A result of the kernel as it is read back. */
class Reading implements SolidResult {
  readonly points: Vec3[] = [];
  readonly vertexAt: number[] = [];
  readonly triangles: SolidTriangle[] = [];
  readonly gone = new Set<number>();
  readonly turned = new Set<number>();
  private readonly raw: Mesh;
  private readonly merged: Int32Array;

  constructor(
    private readonly mesh: PolyMesh,
    result: Manifold,
    places: Places,
  ) {
    this.raw = result.getMesh();
    const { numProp, vertProperties, mergeFromVert, mergeToVert } = this.raw;
    for (let i = 0; i < vertProperties.length; i += numProp) {
      const p: Vec3 = [vertProperties[i], vertProperties[i + 1], vertProperties[i + 2]];
      const v = places.get(p);
      this.vertexAt.push(v);
      this.points.push(v >= 0 ? mesh.point(v) : p);
    }
    // points that the kernel keeps apart for their faces are one here
    this.merged = Int32Array.from(this.points.keys());
    for (let i = 0; i < mergeFromVert.length; i++) this.merged[mergeFromVert[i]] = mergeToVert[i];
  }

  /** Reads what became of one solid: whether its faces come out the way they face, and whether those beyond reach stay. */
  take({ id, faces, beyond }: Solid, isUpright: boolean, staysBeyond: boolean): void {
    const { triVerts, faceID, runOriginalID, runIndex } = this.raw;
    const { merged } = this;
    const own: SolidTriangle[] = [];
    for (let run = 0; run < runOriginalID.length; run++) {
      if (runOriginalID[run] !== id) continue;
      for (let t = runIndex[run]; t < runIndex[run + 1]; t += 3)
        if (faceID[t / 3] < faces.length)
          own.push({
            corners: [merged[triVerts[t]], merged[triVerts[t + 1]], merged[triVerts[t + 2]]],
            face: faces[faceID[t / 3]],
          });
    }
    const whole = wholeFaces(this.mesh, own, this.vertexAt);
    for (const f of faces) if (!isUpright || !whole.has(f)) this.gone.add(f);
    if (!isUpright) for (const f of whole) this.turned.add(f);
    if (!staysBeyond) for (const f of beyond) this.gone.add(f);
    for (const triangle of own) if (!whole.has(triangle.face)) this.triangles.push(triangle);
  }
}

/** Faces that gave all their triangles, with no corner but their own. */
function wholeFaces(mesh: PolyMesh, triangles: readonly SolidTriangle[], vertexAt: readonly number[]): Set<number> {
  const count = new Map<number, number>();
  for (const { corners, face } of triangles) {
    const isOwn = corners.every((c) => vertexAt[c] >= 0 && hasCorner(mesh, face, vertexAt[c]));
    count.set(face, (count.get(face) ?? 0) + (isOwn ? 1 : Infinity));
  }
  return new Set([...count].filter(([f, n]) => n === mesh.faceHalves(f).length - 2).map(([f]) => f));
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
