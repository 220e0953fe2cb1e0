import type { Manifold, ManifoldToplevel, Mesh } from 'manifold-3d';
import { TopologyError } from '../../errors';
import type { Box, Vec3 } from '../../math';
import { boxOfFaces, triangulate, type PolyMesh } from '../../mesh';
import { nearEachOther, type FarFaces, type NearSolid } from './nearEachOther';
import { solidReach } from './solidReach';

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
  /** faces of the solids that do not come out whole */
  gone: Set<number>;
  /** those that do, but turned over */
  turned: Set<number>;
}

/** A closed part, or what lies near the other of it, in the kernel. */
interface Solid {
  kernel: Manifold;
  /** the id that its triangles carry */
  id: number;
  /** faces by the number that their triangles carry; closing triangles have higher ones */
  faces: readonly number[];
}

/** What a drag keeps of the solids between its runs. */
export interface KeptSolids {
  /** the body and the cutting shapes at each place where they may cross */
  places: { body: Solid; cutters: Solid[] }[];
  /** what lies at none of them */
  body: FarFaces;
  cutter: FarFaces;
  delete(): void;
}

/**
 * The body and the cutting shapes as solids: of each no more than what lies near the other. Throws NO_WAY for faces that enclose no
 * solid, naming which. Cost: the faces, and the triangles near the other times their logarithm.
 */
export function keepSolids(
  mesh: PolyMesh,
  body: readonly number[],
  cutters: readonly (readonly number[])[],
): KeptSolids {
  const made: Solid[] = [];
  const drop = (): void => made.forEach(({ kernel: solid }) => solid.delete());
  try {
    const kept = (cutters.length === 1 ? nearSolids(mesh, body, cutters[0], made) : null) ?? wholeSolids(mesh, body, cutters, made); // prettier-ignore
    return { ...kept, delete: drop };
  } catch (error) {
    drop();
    throw error;
  }
}

/** What they have near each other; null where that cannot be closed, or encloses nothing. All that is made goes into `made`. */
function nearSolids(
  mesh: PolyMesh,
  body: readonly number[],
  cutter: readonly number[],
  made: Solid[],
): Omit<KeptSolids, 'delete'> | null {
  const near = nearEachOther(mesh, body, cutter);
  if (!near) return null;
  const places: KeptSolids['places'] = [];
  for (const [one, other] of near.places) {
    const [a, b] = [one, other].map((part) => solidOf(mesh, part, made));
    if (!a || !b) return null;
    places.push({ body: a, cutters: [b] });
  }
  return { places, body: near.far[0], cutter: near.far[1] };
}

/** What the boxes of the others reach, or all. Throws NO_WAY. */
function wholeSolids(
  mesh: PolyMesh,
  body: readonly number[],
  cutters: readonly (readonly number[])[],
  made: Solid[],
): Omit<KeptSolids, 'delete'> {
  const far = { body: nothingFar(), cutter: nothingFar() };
  const reached = (part: readonly number[], box: Box | null, outside: number[], what: string): Solid => {
    const reach = box && solidReach(mesh, part, box);
    const near = reach && solidOf(mesh, reach, made);
    if (near) for (const f of reach.beyond) outside.push(f);
    const solid = near ?? solidOf(mesh, { faces: [...part], points: [], closing: [] }, made);
    if (solid) return solid;
    throw new TopologyError('NO_WAY', `${what} is no closed solid: close its holes, or pick another part.`, { faces: [...part] }); // prettier-ignore
  };
  const a = reached(body, boxOfFaces(mesh, cutters.flat()), far.body.outside, 'The part that is worked on');
  // what several cutting shapes have in common lies anywhere
  const box = cutters.length === 1 ? boxOfFaces(mesh, body) : null;
  const b = cutters.map((cutter) => reached(cutter, box, far.cutter.outside, 'The cutting shape'));
  return { places: [{ body: a, cutters: b }], ...far };
}
const nothingFar = (): FarFaces => ({ inside: [], outside: [] });

/** Joins, cuts or meets the kept solids. Cost: the triangles in them times their logarithm, in single precision where they cross. */
export function changeSolids(mesh: PolyMesh, solids: KeptSolids, places: Places, change: SolidChange): SolidResult {
  const reading = new Reading(mesh, places);
  for (const { body, cutters } of solids.places) {
    const made: Manifold[] = [];
    try {
      const a = body.kernel;
      const b = cutters.length > 1 ? ready().Manifold.union(cutters.map((cutter) => cutter.kernel)) : cutters[0].kernel;
      if (cutters.length > 1) made.push(b);
      const result = change === 'join' ? a.add(b) : change === 'cut' ? a.subtract(b) : a.intersect(b);
      made.push(result);
      reading.open(result);
      reading.take(body, true);
      for (const cutter of cutters) reading.take(cutter, change !== 'cut');
    } finally {
      for (const solid of made) solid.delete();
    }
  }
  reading.takeFar(solids.body, true, change === 'common');
  reading.takeFar(solids.cutter, change !== 'cut', change !== 'join');
  return reading;
}

function solidOf(mesh: PolyMesh, near: NearSolid, made: Solid[]): Solid | null {
  const id = ready().Manifold.reserveIDs(1);
  const solid = kernelOf(mesh, near, id);
  if (solid) made.push({ kernel: solid, id, faces: near.faces });
  return solid && made[made.length - 1];
}

/** Null for what encloses no solid. */
function kernelOf(mesh: PolyMesh, { faces, points, closing }: NearSolid, id: number): Manifold | null {
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

/** Results of the kernel as they are read back, one after the other. */
class Reading implements SolidResult {
  readonly points: Vec3[] = [];
  readonly vertexAt: number[] = [];
  readonly triangles: SolidTriangle[] = [];
  readonly gone = new Set<number>();
  readonly turned = new Set<number>();
  /** points of vertices of the mesh: places may share one */
  private readonly pointOf = new Map<number, number>();
  private raw: Mesh | null = null;
  private merged = new Int32Array(0);

  constructor(
    private readonly mesh: PolyMesh,
    private readonly places: Places,
  ) {}

  /** Begins with one result. */
  open(result: Manifold): void {
    this.raw = result.getMesh();
    const { numProp, vertProperties, mergeFromVert, mergeToVert } = this.raw;
    const count = vertProperties.length / numProp;
    // points that the kernel keeps apart for their faces are one here
    const into = Int32Array.from({ length: count }, (_, i) => i);
    for (let i = 0; i < mergeFromVert.length; i++) into[mergeFromVert[i]] = mergeToVert[i];
    this.merged = new Int32Array(count);
    for (let i = 0; i < count; i++)
      if (into[i] === i) this.merged[i] = this.pointAt([vertProperties[i * numProp], vertProperties[i * numProp + 1], vertProperties[i * numProp + 2]]); // prettier-ignore
    for (let i = 0; i < count; i++) if (into[i] !== i) this.merged[i] = this.merged[into[i]];
  }

  private pointAt(p: Vec3): number {
    const v = this.places.get(p);
    const known = v >= 0 ? this.pointOf.get(v) : undefined;
    if (known !== undefined) return known;
    if (v >= 0) this.pointOf.set(v, this.points.length);
    this.vertexAt.push(v);
    return this.points.push(v >= 0 ? this.mesh.point(v) : p) - 1;
  }

  /** Reads what became of one solid in the result that is open: whether its faces come out the way they face. */
  take({ id, faces }: Solid, isUpright: boolean): void {
    const { triVerts, faceID, runOriginalID, runIndex } = this.raw as Mesh;
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
    for (const f of faces) if (!whole.has(f)) this.gone.add(f);
    if (!isUpright) for (const f of whole) this.turned.add(f);
    for (const triangle of own) if (!whole.has(triangle.face)) this.triangles.push(triangle);
  }

  /** Reads faces that nothing crosses. */
  takeFar({ inside, outside }: FarFaces, isUpright: boolean, insideStays: boolean): void {
    const [stay, go] = insideStays ? [inside, outside] : [outside, inside];
    for (const f of go) this.gone.add(f);
    if (!isUpright) for (const f of stay) this.turned.add(f);
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
