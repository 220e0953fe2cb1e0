import { TopologyError } from '../../errors';
import { distance, meanPoint, type Vec3 } from '../../math';
import { facePatches, loopsRound, type PolyMesh } from '../../mesh';
import { denseFaces, type Onto } from '../form/denseFaces';
import type { Watch } from '../Stages';
import { Patch, patchTold, startsOf, type Laying, type PatchAsked } from './patch';

/** How picked faces are laid anew. */
export type RelayAsked = PatchAsked & {
  /** quads in the place of one */
  density: number;
};

/** What takes the place of picked faces. */
export interface Relaid {
  /** points that are new */
  points: Vec3[];
  /** corners of the faces: a vertex of the mesh, or −1 − k for the k-th of `points` */
  faces: number[][];
  /** the picked face nearest to each face, and to each point */
  faceLike: number[];
  pointLike: number[];
  /** what could not be as asked, in words */
  told: string[];
}

/** The working mesh has at least so many triangles, and so many for each quad that is wanted. */
const LEAST_TRIANGLES = 3000;
const FOR_A_QUAD = 12;

/**
 * Lays the picked faces anew inside their border, whose edges and points all stay: quads by `layAll` on a fine mesh of the faces on the form, the outermost ring of which gives way
 * to a strip that fits the border's own count; small patches are filled by pattern. A border with an odd count takes one triangle, which is told. Throws NO_WAY for faces that
 * are too narrow for quads of that size. Cost: as `layAll` of a few thousand triangles for each patch.
 */
export function relaid(
  mesh: PolyMesh,
  picked: readonly number[],
  asked: RelayAsked,
  onto: Onto | null,
  watch: Watch = {},
): Relaid {
  const out: Relaid = { points: [], faces: [], faceLike: [], pointLike: [], told: [] };
  const patches = facePatches(mesh, picked);
  patches.forEach((faces, i) => {
    const patch = new RelayPatch(mesh, faces, asked.density, onto);
    const stage = (name: string, done: number): void => watch.stage?.(name, (i + done) / patches.length);
    const made = patch.laid(asked, { ...watch, stage });
    const shift = out.points.length;
    out.points.push(...made.points);
    out.faces.push(...made.faces.map((face) => face.map((v) => (v < 0 ? v - shift : v))));
    out.faceLike.push(...made.faceLike);
    out.pointLike.push(...made.pointLike);
    out.told.push(...made.told);
  });
  return out;
}

/** Faces that hang together, as a patch. */
class RelayPatch {
  /** vertices of the mesh */
  private readonly loops: number[][];
  private readonly wanted: number;
  private readonly patch: Patch;

  constructor(
    private readonly mesh: PolyMesh,
    private readonly faces: readonly number[],
    density: number,
    onto: Onto | null,
  ) {
    const own = new Set(faces);
    this.loops = loopsRound(mesh, own).map((loop) => loop.map((h) => mesh.origin(h)));
    const vertices = this.loops.flat();
    const outside = vertices.map((v) => {
      const round = mesh.vertexFaces(v);
      const inside = round.filter((f) => own.has(f)).length;
      const isOpen = mesh.vertexHalves(v).some((h) => mesh.isBorderEdge(h >> 1));
      return isOpen ? 4 - Math.min(3, inside) : round.length - inside;
    });
    this.wanted = density * faces.reduce((sum, f) => sum + (mesh.faceHalves(f).length - 2) / 2, 0);
    const at = new Map<number, number>();
    const points: Vec3[] = [];
    const corners = faces.map((f) =>
      mesh.faceVertices(f).map((v) => {
        if (!at.has(v)) at.set(v, points.push(mesh.point(v)) - 1);
        return at.get(v) as number;
      }),
    );
    const soup = { positions: Float64Array.from(points.flat()), faceStarts: startsOf(corners), corners: Uint32Array.from(corners.flat()) }; // prettier-ignore
    const dense = denseFaces(points, corners, Math.max(LEAST_TRIANGLES, FOR_A_QUAD * this.wanted), onto);
    this.patch = new Patch({
      border: vertices.map((v) => mesh.point(v)),
      lengths: this.loops.map((loop) => loop.length),
      outside,
      wanted: this.wanted,
      density,
      triangles: { positions: Float64Array.from(dense.positions), indices: Uint32Array.from(dense.indices) },
      soup,
      onto,
    });
  }

  laid(asked: RelayAsked, watch: Watch): Relaid {
    const made = this.patch.laid(asked, watch);
    if (!made)
      throw new TopologyError('NO_WAY', 'These faces are too narrow, or their border too uneven, to be laid anew at this size: pick a wider patch, or ask for smaller quads.', { vertices: this.loops.flat() }); // prettier-ignore
    return this.asRelaid(made);
  }

  private asRelaid(laying: Laying): Relaid {
    const { soup, triangles } = laying;
    const { points: p, quads } = soup;
    const rim = this.loops.flat();
    const points: Vec3[] = [];
    for (let v = rim.length; v < soup.onLine.length; v++) points.push([p[3 * v], p[3 * v + 1], p[3 * v + 2]]);
    const named = (v: number): number => (v < rim.length ? rim[v] : -1 - (v - rim.length));
    const faces = [...triangles.map((t) => t.map(named))];
    for (let q = 0; q < quads.length; q += 4) faces.push([...quads.subarray(q, q + 4)].map(named));
    const told = patchTold(laying, this.wanted);
    const near = nearestFace(this.mesh, this.faces);
    const place = (v: number): Vec3 => (v < 0 ? points[-1 - v] : this.mesh.point(v));
    return { points, faces, told, pointLike: points.map(near), faceLike: faces.map((face) => near(meanPoint(face.map(place)))) }; // prettier-ignore
  }
}

/** The face whose middle lies nearest to a place. */
function nearestFace(mesh: PolyMesh, faces: readonly number[]): (p: Vec3) => number {
  const middles = faces.map((f) => meanPoint(mesh.faceVertices(f).map((v) => mesh.point(v))));
  return (p) => faces[middles.reduce((best, m, i) => (distance(m, p) < distance(middles[best], p) ? i : best), 0)];
}
