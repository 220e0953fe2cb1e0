import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { addScaled, distance, dot, length, normalize, scale, sub, type Vec3 } from '../../math';
import { addFace, addVertex, faceNormal, NONE, type PolyMesh, type Selection } from '../../mesh';
import { PickGrid } from '../../pick';
import { isSeam, once, settledPlace, type Ground } from '../ground';
import { operator, plural } from '../operator';
import { choice, count, proposedLength } from '../params';
import { meanLength, only } from '../picked';
import { evenOffset, normalsAt } from '../shape/offsets';

const Params = z.object({
  thickness: proposedLength('Thickness'),
  grows: choice('Grows', [['inward', 'inward'], ['outward', 'outward'], ['both', 'both ways']], 'inward'), // prettier-ignore
  rows: count('Rows along the rim', { min: 1, max: 16, start: 1 }),
});

/**
 * Gives sheets a wall: a second layer at an even distance, whatever the corners' angles, and quads along the open borders; none on the
 * midline. Works on whole parts: those of what is picked, or all that are open. Says the greatest thickness at which
 * the wall does not cross itself, and picks the faces that do cross beyond it. Cost: the faces, and a ray from each point.
 */
export const thicken = operator({
  name: 'thicken',
  title: 'Thicken',
  params: Params,
  run(mesh, selection, { thickness, grows, rows }, ground) {
    const sheets = once(ground, 'sheets', () => readSheets(mesh, sheetsOf(mesh, selection), ground));
    const { faces, vertices, mean, moves, rim } = sheets;
    const by = thickness ?? mean / 4;
    if (!(by > 0)) throw new TopologyError('BAD_SIZE', 'The thickness must be more than 0.');
    const limits = once(ground, `limits ${grows}`, () => limitsOf(mesh, sheets, grows));
    const limit = vertices.reduce((least, v) => Math.min(least, limits[v]), Infinity);
    const crossing = limit < by ? faces.filter((f) => mesh.faceVertices(f).some((v) => limits[v] < by)) : [];
    const bare = { ...ground, form: null };
    const at = (i: number, d: number): Vec3 => settledPlace(mesh.point(vertices[i]), addScaled(mesh.point(vertices[i]), moves[i], d), bare); // prettier-ignore
    const [front, back] = grows === 'inward' ? [0, -by] : grows === 'outward' ? [by, 0] : [by / 2, -by / 2];
    const fronts = vertices.map((_, i) => at(i, front));
    const backs = vertices.map((_, i) => at(i, back));
    const walls = wallLines(mesh, sheets, fronts, backs, rows);
    const inner = new Int32Array(mesh.vertexRows);
    vertices.forEach((v, i) => (inner[v] = walls.get(v)?.[rows] ?? addVertex(mesh, backs[i])));
    const made = faces.map((f) => {
      const back = mesh.faceVertices(f).reverse();
      return likeFace(mesh, f, back.map((v) => inner[v]), back); // prettier-ignore
    });
    const wallFaces = rim.flatMap((h) => wall(mesh, h, walls, rows));
    vertices.forEach((v, i) => mesh.setPoint(v, fronts[i]));
    const told = Number.isFinite(limit) ? `; it crosses itself beyond ${Number(limit.toPrecision(3))}` : '';
    return {
      selection: only({ faces: crossing.length > 0 ? crossing : made }),
      report: {
        sentence: `${plural(faces.length, 'face')} thickened, ${plural(wallFaces.length, 'face')} along the rim${told}${crossing.length > 0 ? `, as ${plural(crossing.length, 'picked face')} ${crossing.length === 1 ? 'does' : 'do'}` : ''}`,
        counts: { faces: made.length, rim: wallFaces.length, thickness: by, limit: Number.isFinite(limit) ? limit : 0, crossing: crossing.length }, // prettier-ignore
      },
    };
  },
});

/** What a thickening needs to know of its sheets, whatever the settings. */
interface Sheets {
  faces: number[];
  vertices: number[];
  /** vertex → its place in `vertices` */
  places: Int32Array;
  edges: Set<number>;
  /** mean edge length */
  mean: number;
  /** per vertex, the way that its layer goes per unit of thickness */
  moves: Vec3[];
  /** open half-edges that get a wall */
  rim: number[];
}

function readSheets(mesh: PolyMesh, faces: number[], ground: Ground): Sheets {
  const places = new Int32Array(mesh.vertexRows).fill(-1);
  const vertices: number[] = [];
  const edges = new Set<number>();
  const rim: number[] = [];
  for (const f of faces)
    for (const h of mesh.faceHalves(f)) {
      edges.add(h >> 1);
      if (mesh.face(h ^ 1) === NONE && !isSeam(mesh, h, ground)) rim.push(h);
      const v = mesh.origin(h);
      if (places[v] < 0) places[v] = vertices.push(v) - 1;
    }
  const set = new Set(faces);
  const moves = vertices.map((v) => evenOffset(normalsAt(mesh, v, set, ground), 1));
  return { faces, vertices, places, edges, mean: meanLength(mesh, edges), moves, rim };
}

/** All faces of the parts that are picked, or of those with an open border. Throws NOTHING_PICKED. */
function sheetsOf(mesh: PolyMesh, { vertices, edges, faces }: Selection): number[] {
  const seeds = new Set(faces.filter((f) => mesh.hasFace(f)));
  for (const v of vertices) if (mesh.hasVertex(v)) for (const f of mesh.vertexFaces(v)) seeds.add(f);
  for (const e of edges) if (mesh.hasEdge(e)) for (const f of [mesh.face(2 * e), mesh.face(2 * e + 1)]) if (f !== NONE) seeds.add(f); // prettier-ignore
  if (seeds.size === 0)
    for (const e of mesh.edges()) if (mesh.isBorderEdge(e)) seeds.add(Math.max(mesh.face(2 * e), mesh.face(2 * e + 1)));
  seeds.delete(NONE);
  const queue = [...seeds];
  for (const f of queue)
    for (const h of mesh.faceHalves(f)) {
      const g = mesh.face(h ^ 1);
      if (g === NONE || seeds.has(g)) continue;
      seeds.add(g);
      queue.push(g);
    }
  if (queue.length === 0)
    throw new TopologyError('NOTHING_PICKED', 'Pick a part to thicken; no part here has an open border.');
  return queue;
}

/** Rim vertex → the vertices from the front layer to the back one. */
function wallLines(
  mesh: PolyMesh,
  { rim, places }: Sheets,
  fronts: readonly Vec3[],
  backs: readonly Vec3[],
  rows: number,
): Map<number, number[]> {
  const lines = new Map<number, number[]>();
  for (const h of rim)
    for (const v of [mesh.origin(h), mesh.target(h)]) {
      if (lines.has(v)) continue;
      const [front, back] = [fronts[places[v]], backs[places[v]]];
      const made = Array.from({ length: rows }, (_, i) => {
        const t = (i + 1) / rows;
        return addVertex(mesh, [0, 1, 2].map((k) => front[k] * (1 - t) + back[k] * t) as unknown as Vec3);
      });
      lines.set(v, [v, ...made]);
    }
  return lines;
}

function wall(mesh: PolyMesh, h: number, lines: ReadonlyMap<number, number[]>, rows: number): number[] {
  const [u, v] = [mesh.origin(h), mesh.target(h)];
  const [a, b] = [lines.get(u) as number[], lines.get(v) as number[]];
  return Array.from({ length: rows }, (_, i) =>
    likeFace(mesh, mesh.face(h), [b[i], a[i], a[i + 1], b[i + 1]], [v, u, u, v]),
  );
}

/** A face with another's attributes; each corner has those of the other's corner at the vertex that `sources` names for it. */
function likeFace(mesh: PolyMesh, like: number, corners: readonly number[], sources: readonly number[]): number {
  const f = addFace(mesh, corners);
  for (const c of mesh.channelColumns('face')) c.copyRow(like, f);
  const columns = mesh.channelColumns('corner');
  if (columns.length === 0) return f;
  const from = new Map(mesh.faceHalves(like).map((h) => [mesh.origin(h), h]));
  for (const h of mesh.faceHalves(f))
    for (const c of columns) c.copyRow(from.get(sources[corners.indexOf(mesh.origin(h))]) as number, h);
  return f;
}

/** For each vertex, by its number, the thickness at which its layer meets another part of the wall, or a face beside it turns over. */
function limitsOf(
  mesh: PolyMesh,
  { vertices, places, edges, moves, mean }: Sheets,
  grows: 'inward' | 'outward' | 'both',
): Float64Array {
  const limits = new Float64Array(mesh.vertexRows).fill(Infinity);
  const keep = (v: number, t: number): void => {
    if (t < limits[v]) limits[v] = t;
  };
  // each way with the share of the thickness that grows there
  const ways: [number, number][] = grows === 'both' ? [[1, 0.5], [-1, 0.5]] : [[grows === 'inward' ? -1 : 1, 1]]; // prettier-ignore
  const grid = new PickGrid(mesh, 5 * mean || 1);
  for (const [way, share] of ways) {
    for (const e of edges) {
      const [u, v] = [mesh.origin(2 * e), mesh.target(2 * e)];
      const along = sub(mesh.point(v), mesh.point(u));
      const closes = -dot(sub(scale(moves[places[v]], way), scale(moves[places[u]], way)), along);
      if (closes <= 1e-12) continue;
      for (const w of [u, v]) keep(w, dot(along, along) / closes / share);
    }
    for (const [i, v] of vertices.entries()) {
      const m = moves[i];
      const d = normalize(scale(m, way));
      if (length(d) === 0) continue;
      const p = mesh.point(v);
      const hit = grid.raycast(addScaled(p, d, mean * 1e-3), d);
      if (!hit || mesh.faceVertices(hit.face).includes(v)) continue;
      const gap = distance(p, addScaled(p, d, hit.distance + mean * 1e-3));
      // the wall that is met grows too, towards this one where its own layer is on this side
      const facing = dot(d, faceNormal(mesh, hit.face)) * -way;
      const own = length(m);
      keep(v, (facing > 0.05 ? gap / (own + 1 / facing) : gap / own) / share);
    }
  }
  return limits;
}
