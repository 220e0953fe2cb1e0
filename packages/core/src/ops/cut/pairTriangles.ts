import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { dot } from '../../math';
import { cornerQuality, faceNormal, NONE, Rebuild, type PolyMesh, type Selection } from '../../mesh';
import { operator, plural } from '../operator';
import { degrees } from '../params';
import { only } from '../picked';

interface Pair {
  edge: number;
  /** 1 square … 0 not worth having */
  quality: number;
}

/**
 * Pairs triangles, picked ones or all, into quads: the best pairs by corner quality first, then triangles left over are led
 * to each other by chains of re-pairing. Never across hard edges, region borders, or bends over the angle.
 */
export const pairTriangles = operator({
  name: 'pair-triangles',
  title: 'Pair triangles',
  params: z.object({ angle: degrees('Bend at most', { min: 0, max: 180, start: 45 }) }),
  run(mesh, selection, { angle }) {
    const triangles = trianglesOf(mesh, selection);
    const pairs = matching(mesh, triangles, pairsOf(mesh, triangles, Math.cos((angle * Math.PI) / 180)));
    if (pairs.length === 0) throw new TopologyError('NO_WAY', 'No two of these triangles can become a quad.', { faces: [...triangles] }); // prettier-ignore
    const quads = pairs.map((e) => joined(mesh, e));
    const left = triangles.size - 2 * pairs.length;
    return {
      selection: only({ faces: quads }),
      report: { sentence: `${plural(quads.length, 'quad')} paired, ${plural(left, 'triangle')} left`, counts: { quads: quads.length, left } }, // prettier-ignore
    };
  },
});

function trianglesOf(mesh: PolyMesh, { faces }: Selection): Set<number> {
  const isTriangle = (f: number): boolean => mesh.hasFace(f) && mesh.faceHalves(f).length === 3;
  const found = new Set((faces.length > 0 ? [...faces] : [...mesh.faces()]).filter(isTriangle));
  if (found.size === 0) throw new TopologyError('NOTHING_PICKED', 'There are no triangles here to pair.');
  return found;
}

/** The outline of the quad that two triangles make without their shared edge. */
function outline(mesh: PolyMesh, e: number): number[] {
  const [h, g] = [2 * e, 2 * e + 1];
  return [mesh.target(h), mesh.target(mesh.next(h)), mesh.target(g), mesh.target(mesh.next(g))];
}

function pairsOf(mesh: PolyMesh, triangles: ReadonlySet<number>, leastCosine: number): Pair[] {
  const hard = mesh.findChannel('edge', 'hard'),
    region = mesh.findChannel('face', 'region');
  const edges = new Set([...triangles].flatMap((f) => mesh.faceHalves(f).map((h) => h >> 1)));
  const pairs: Pair[] = [];
  for (const edge of edges) {
    const [f, g] = [mesh.face(2 * edge), mesh.face(2 * edge + 1)];
    if (!triangles.has(f) || !triangles.has(g) || hard?.get(edge)) continue;
    if (region && region.get(f) !== region.get(g)) continue;
    if (dot(faceNormal(mesh, f), faceNormal(mesh, g)) < leastCosine) continue;
    const quality = cornerQuality(outline(mesh, edge).map((v) => mesh.point(v)));
    if (quality > 0.01) pairs.push({ edge, quality });
  }
  return pairs.sort((a, b) => b.quality - a.quality || a.edge - b.edge);
}

/** Longest chain of re-pairing tried for a triangle left over. */
const LONGEST_CHAIN = 9;

function matching(mesh: PolyMesh, triangles: ReadonlySet<number>, pairs: readonly Pair[]): number[] {
  const edgeOf = new Map<number, number>();
  const sides = (e: number): [number, number] => [mesh.face(2 * e), mesh.face(2 * e + 1)];
  const neighbours = new Map<number, Pair[]>();
  for (const p of pairs) {
    for (const f of sides(p.edge)) neighbours.set(f, [...(neighbours.get(f) ?? []), p]);
    const [f, g] = sides(p.edge);
    if (edgeOf.has(f) || edgeOf.has(g)) continue;
    edgeOf.set(f, p.edge);
    edgeOf.set(g, p.edge);
  }
  const other = (e: number, f: number): number => sides(e).find((g) => g !== f) ?? NONE;
  for (const f of triangles) {
    if (edgeOf.has(f)) continue;
    const chain = augmenting(f, new Set([f]), LONGEST_CHAIN, { neighbours, edgeOf, other });
    if (!chain) continue;
    for (const e of chain) for (const g of sides(e)) edgeOf.set(g, e);
  }
  return [...new Set(edgeOf.values())];
}

interface Graph {
  neighbours: ReadonlyMap<number, Pair[]>;
  edgeOf: ReadonlyMap<number, number>;
  other(e: number, f: number): number;
}
/** Edges to pair by instead, so that one more triangle is paired; null when there is no such chain. */
function augmenting(f: number, seen: Set<number>, depth: number, graph: Graph): number[] | null {
  for (const { edge } of graph.neighbours.get(f) ?? []) {
    const g = graph.other(edge, f);
    if (seen.has(g)) continue;
    seen.add(g);
    const taken = graph.edgeOf.get(g);
    if (taken === undefined) return [edge];
    const left = graph.other(taken, g);
    if (depth < 3 || seen.has(left)) continue;
    seen.add(left);
    const rest = augmenting(left, seen, depth - 2, graph);
    if (rest) return [edge, ...rest];
  }
  return null;
}

function joined(mesh: PolyMesh, e: number): number {
  const [f, g] = [mesh.face(2 * e), mesh.face(2 * e + 1)];
  const corners = outline(mesh, e);
  const rebuild = new Rebuild(mesh, [f, g]);
  rebuild.face(corners, f);
  return rebuild.finish()[0];
}
