import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { distance, dot } from '../../math';
import { chainsOf, copyOf, faceNormal, FILE_CHANNELS, NONE, Rebuild, triangulate, type PolyMesh } from '../../mesh';
import { endsOf, TriangleMesh, type KeptLine } from '../../remesh';
import { onMidline, type Ground } from '../ground';
import { operator, plural } from '../operator';
import { choice, degrees, proposedLength } from '../params';
import { meanLength, only } from '../picked';
import { CREASE_CHANNEL } from '../shape/crease';
import { wholeParts } from './copyPatch';
import { remade, type Remeshed } from './evenQuads';

export const EvenOutParams = z.object({
  into: choice('Into', [['quads', 'quads'], ['triangles', 'triangles']], 'quads'), // prettier-ignore
  length: proposedLength('Edge length', 'Empty: as the edges are now'),
  angle: degrees('Sharp from', { min: 5, max: 180, start: 40 }),
});
/** More faces than this are refused. */
const MOST_FACES = 100_000;
/** With more faces than this, before or after, it takes longer than the blink of an eye. */
const MOST_LIVE = 200;

/**
 * Makes parts anew of even triangles or quads, those that are picked or all: sharp edges, hard edges, creases, open borders and the borders
 * of regions and groups stay lines of the result, and keep what they were. Quads come of triangles of twice the length,
 * paired and divided, so that none is left over. Refuses (BAD_SIZE) a length that would give too many. Cost: some 80 µs a face, before or after.
 */
export const evenOut = operator({
  name: 'even-out',
  title: 'Even out',
  params: EvenOutParams,
  isSlow(mesh, { length }) {
    if (mesh.faceCount > MOST_LIVE) return true;
    const by = length ?? meanLength(mesh, mesh.edges());
    return areaOfAll(mesh, mesh.faces()) / by ** 2 > MOST_LIVE;
  },
  run(mesh, selection, { into, length, angle }, ground) {
    const picked = selection.faces.filter((f) => mesh.hasFace(f));
    const faces = wholeParts(mesh, picked.length > 0 ? picked : mesh.faces());
    if (faces.length === 0) throw new TopologyError('NOTHING_PICKED', 'There are no faces here to even out.');
    const edges = new Set(faces.flatMap((f) => mesh.faceHalves(f).map((h) => h >> 1)));
    const by = length ?? meanLength(mesh, edges);
    const refusal = tooFine(areaOfAll(mesh, faces), by);
    if (refusal) throw new TopologyError('BAD_SIZE', refusal);
    const { triangles, vertices, lines, kept } = trianglesOf(mesh, faces, edges, angle, ground);
    const result = remade(triangles, lines, into, by, (done) => ground.tell?.(0.9 * done));
    const n = rebuilt(mesh, faces, result, vertices, kept).length;
    return {
      selection: only({}),
      report: { sentence: `${plural(n, into === 'quads' ? 'quad' : 'triangle')} in place of ${plural(faces.length, 'face')}`, counts: { faces: n, length: by } }, // prettier-ignore
    };
  },
});

/** Why edges of a length cannot be made over an area, in a sentence; null where they can. */
export const tooFine = (area: number, by: number): string | null =>
  by > 0 && area / by ** 2 <= MOST_FACES ? null : `An edge length of ${Number(by.toPrecision(3))} would give more than ${MOST_FACES.toLocaleString('en')} faces; take a longer one.`; // prettier-ignore

/** Square file units. */
export function areaOfAll(mesh: PolyMesh, faces: Iterable<number>): number {
  let sum = 0;
  for (const f of faces) sum += areaOf(mesh, f);
  return sum;
}

const areaOf = (mesh: PolyMesh, f: number): number => {
  const points = mesh.faceVertices(f).map((v) => mesh.point(v));
  const cut = triangulate(points);
  let sum = 0;
  for (let i = 0; i < cut.length; i += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => points[cut[i + k]]);
    const [p, q, r] = [distance(a, b), distance(b, c), distance(c, a)];
    const s = (p + q + r) / 2;
    sum += Math.sqrt(Math.max(0, s * (s - p) * (s - q) * (s - r)));
  }
  return sum;
};

/** What an edge on a line had, so that its pieces get it back. */
interface Kept {
  hard: number;
  crease: number;
}

/** Faces as triangles over points of their own, and the edges that stay, as lines. */
export function trianglesOf(
  mesh: PolyMesh,
  faces: readonly number[],
  edges: Iterable<number>,
  angle: number,
  ground: Ground,
): { triangles: TriangleMesh; vertices: number[]; lines: KeptLine[]; kept: Kept[] } {
  const index = new Map<number, number>();
  for (const f of faces) for (const v of mesh.faceVertices(f)) if (!index.has(v)) index.set(v, index.size);
  const vertices = [...index.keys()];
  const triangles = new TriangleMesh(vertices.map((v) => mesh.point(v)));
  for (const f of faces) {
    const ids = mesh.faceVertices(f);
    const cut = triangulate(ids.map((v) => mesh.point(v)));
    for (let i = 0; i < cut.length; i += 3)
      triangles.add(...([0, 1, 2].map((k) => index.get(ids[cut[i + k]])) as [number, number, number]), f);
  }
  const isLine = lineTest(mesh, angle);
  const valueOf = (e: number): Kept => ({
    hard: mesh.findChannel('edge', FILE_CHANNELS.hardEdges.name)?.get(e) ?? 0,
    crease: mesh.findChannel('edge', CREASE_CHANNEL.name)?.get(e) ?? 0,
  });
  // one line for each run of edges that are alike, so that its pieces know what they were
  const groups = new Map<string, number[]>();
  for (const e of edges) {
    if (!isLine(e)) continue;
    const middle = onMidline(mesh, mesh.origin(2 * e), ground) && onMidline(mesh, mesh.target(2 * e), ground);
    const key = JSON.stringify([valueOf(e), middle]);
    groups.set(key, [...(groups.get(key) ?? []), e]);
  }
  const lines: KeptLine[] = [];
  const kept: Kept[] = [];
  for (const group of groups.values())
    for (const { vertices: run, halves, closed } of chainsOf(mesh, group)) {
      halves.forEach((h) => triangles.setLine(index.get(mesh.origin(h)) as number, index.get(mesh.target(h)) as number, lines.length)); // prettier-ignore
      lines.push({ points: run.map((v) => mesh.point(v)), closed });
      kept.push(valueOf(halves[0] >> 1));
    }
  return { triangles, vertices, lines, kept };
}

function lineTest(mesh: PolyMesh, angle: number): (e: number) => boolean {
  const least = Math.cos((angle * Math.PI) / 180);
  const marks = [FILE_CHANNELS.hardEdges.name, CREASE_CHANNEL.name].map((name) => mesh.findChannel('edge', name));
  const areas = ['region', FILE_CHANNELS.groups.name].map((name) => mesh.findChannel('face', name));
  return (e) => {
    const [f, g] = [mesh.face(2 * e), mesh.face(2 * e + 1)];
    if (f === NONE || g === NONE) return true;
    if (marks.some((c) => c !== undefined && c.get(e) !== 0)) return true;
    if (areas.some((c) => c !== undefined && c.get(f) !== c.get(g))) return true;
    return dot(faceNormal(mesh, f), faceNormal(mesh, g)) < least;
  };
}

/** Puts what came out in place of the faces; pieces of lines get their marks back. */
function rebuilt(
  mesh: PolyMesh,
  faces: readonly number[],
  result: Remeshed,
  vertices: readonly number[],
  kept: readonly Kept[],
): number[] {
  const like = vertices[0];
  const rebuild = new Rebuild(mesh, faces);
  const own = new Map<number, number>();
  const at = (i: number): number => {
    const known = own.get(i);
    if (known !== undefined) return known;
    const v = rebuild.vertex(result.points[i], copyOf(vertices[i] ?? like));
    own.set(i, v);
    return v;
  };
  for (const { corners, from } of result.faces) rebuild.face(corners.map(at), from);
  const made = rebuild.finish();
  for (const [key, line] of result.lines) {
    const [u, v] = endsOf(key).map((i) => own.get(i));
    const h = u === undefined || v === undefined ? NONE : mesh.findHalf(u, v);
    if (h === NONE) continue;
    if (kept[line].hard !== 0) mesh.channel(FILE_CHANNELS.hardEdges).set(h >> 1, kept[line].hard);
    if (kept[line].crease !== 0) mesh.channel(CREASE_CHANNEL).set(h >> 1, kept[line].crease);
  }
  return made;
}
