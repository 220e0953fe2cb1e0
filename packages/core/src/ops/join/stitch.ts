import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { distance, lerp } from '../../math';
import { chainsOf, NONE, reversed, reweave, type Chain, type PolyMesh, type Selection } from '../../mesh';
import { settle, type Ground } from '../ground';
import { insertLoops } from '../loops/insertLoops';
import { operator, plural } from '../operator';
import { choice } from '../params';
import { edgesBetween, only, pickedEdges } from '../picked';

const Params = z.object({
  moves: choice('Which side moves', [['both', 'both, to the middle'], ['first', 'the first'], ['second', 'the second']], 'both'), // prettier-ignore
  differ: choice('Where counts differ', [['refuse', 'say so'], ['insert', 'insert the missing loops'], ['open', 'leave the rest open']], 'refuse'), // prettier-ignore
});

/** Two borders as they will be joined, point by point. */
export interface Seam {
  pairs: [number, number][];
  /** edges of each border */
  counts: [number, number];
  unmatched: number[];
}

/**
 * The pairs in which two picked borders join: the turn and sense with the least way to go. Throws NOTHING_PICKED unless
 * there are two chains. Cost: for closed borders the product of their counts.
 */
export function seamOf(mesh: PolyMesh, selection: Selection): Seam {
  const edges = pickedEdges(mesh, selection, 'Pick two borders to stitch.');
  const closed = edges.find((e) => !mesh.isBorderEdge(e) && !mesh.isLooseEdge(e));
  if (closed !== undefined)
    throw new TopologyError('NOT_A_BORDER', 'An edge with faces on both sides cannot be stitched; pick borders only.', { edges: [closed] }); // prettier-ignore
  const chains = chainsOf(mesh, edges);
  if (chains.length !== 2)
    throw new TopologyError('NOTHING_PICKED', `Pick two borders to stitch; ${plural(chains.length, 'run')} of edges ${chains.length === 1 ? 'is' : 'are'} picked.`); // prettier-ignore
  const [a, b] = inOrder(chains, edges);
  const matched = a.vertices.length <= b.vertices.length ? align(mesh, a, b) : align(mesh, b, a).map(([v, w]): [number, number] => [w, v]); // prettier-ignore
  const used = new Set(matched.flat());
  return {
    pairs: matched.filter(([v, w]) => v !== w),
    counts: [a.halves.length, b.halves.length],
    unmatched: [...a.vertices, ...b.vertices].filter((v) => !used.has(v)),
  };
}

/** The chain that holds the edge picked first comes first. */
function inOrder(chains: Chain[], edges: readonly number[]): [Chain, Chain] {
  const isFirst = chains[0].halves.some((h) => h >> 1 === edges[0]);
  return isFirst ? [chains[0], chains[1]] : [chains[1], chains[0]];
}

/** The shorter chain's points with their partners on the longer one. */
function align(mesh: PolyMesh, short: Chain, long: Chain): [number, number][] {
  const n = short.vertices.length;
  const most = long.vertices.length;
  let best: { way: number; pairs: [number, number][] } | null = null;
  for (const other of [long, reversed(long)]) {
    const turns = other.closed ? most : most - n + 1;
    for (let turn = 0; turn < turns; turn++) {
      const pairs = short.vertices.map((v, i): [number, number] => [v, other.vertices[(i + turn) % most]]);
      const way = pairs.reduce((sum, [v, w]) => sum + distance(mesh.point(v), mesh.point(w)), 0);
      if (!best || way < best.way) best = { way, pairs };
    }
  }
  return best?.pairs ?? [];
}

/**
 * Joins two borders point by point in one go. Where their counts differ it refuses (COUNTS_DIFFER), saying how many loops are
 * missing and on which side; or inserts them there first, in the longest edges; or leaves what has no partner open and picked.
 */
export const stitch = operator({
  name: 'stitch',
  title: 'Stitch',
  params: Params,
  run(mesh, selection, { moves, differ }, ground) {
    const first = seamOf(mesh, selection);
    const [a, b] = first.counts;
    if (a !== b && differ === 'refuse')
      throw new TopologyError('COUNTS_DIFFER', `One border has ${a} edges, the other ${b}: insert ${plural(Math.abs(a - b), 'loop')} on the ${a < b ? 'first' : 'second'} side, or leave the rest open.`, { vertices: first.unmatched }); // prettier-ignore
    const inserts = a !== b && differ === 'insert';
    const { pairs, unmatched } = inserts ? seamOf(mesh, withLoops(mesh, selection, ground)) : first;
    const share = moves === 'both' ? 0.5 : moves === 'first' ? 1 : 0;
    for (const [v, w] of pairs) settle(mesh, w, lerp(mesh.point(w), mesh.point(v), 1 - share), ground);
    reweave(mesh, new Map(pairs));
    const stays = pairs.map(([, w]) => w);
    const done = [
      inserts && `${plural(Math.abs(a - b), 'loop')} inserted`,
      `${plural(pairs.length, 'pair')} stitched`,
      unmatched.length > 0 && `${plural(unmatched.length, 'point')} left open`,
    ];
    return {
      selection: unmatched.length > 0 ? only({ vertices: unmatched.filter((v) => mesh.hasVertex(v)) }) : only({ edges: edgesBetween(mesh, stays.map((v, i) => [v, stays[(i + 1) % stays.length]])) }), // prettier-ignore
      report: { sentence: done.filter(Boolean).join(', '), counts: { pairs: pairs.length, unmatched: unmatched.length, loops: inserts ? Math.abs(a - b) : 0 } }, // prettier-ignore
    };
  },
});

/** Both borders as edges, after the one with fewer has got as many loops as it lacks. */
function withLoops(mesh: PolyMesh, selection: Selection, ground: Ground): Selection {
  let sides = sidesOf(mesh, selection);
  const fewer = sides[0].length < sides[1].length ? 0 : 1;
  const wanted = sides[1 - fewer].length;
  while (sides[fewer].length < wanted) {
    const long = sides[fewer].reduce((a, b) => (spanOf(mesh, b) > spanOf(mesh, a) ? b : a));
    insertLoops.run(mesh, only({ edges: [mesh.findHalf(...long) >> 1] }), INSERT, ground);
    sides = sides.map((side) => side.flatMap((ends) => borderBetween(mesh, ends)));
  }
  if (sides[0].length !== sides[1].length)
    throw new TopologyError('COUNTS_DIFFER', 'A loop across this side meets its border twice, so that the counts cannot be made equal; insert loops by hand, or leave the rest open.'); // prettier-ignore
  return only({ edges: sides.flat().map((ends) => mesh.findHalf(...ends) >> 1) });
}

const INSERT = insertLoops.params.parse({});
type Ends = [number, number];
const spanOf = (mesh: PolyMesh, [u, v]: Ends): number => distance(mesh.point(u), mesh.point(v));

/** The two borders as pairs of vertices, which outlive the edges between them. */
function sidesOf(mesh: PolyMesh, selection: Selection): Ends[][] {
  const edges = pickedEdges(mesh, selection);
  return inOrder(chainsOf(mesh, edges), edges).map(({ halves }) => halves.map((h): Ends => [mesh.origin(h), mesh.target(h)])); // prettier-ignore
}

/** The border edges between two vertices that one edge joined before it was split. */
function borderBetween(mesh: PolyMesh, [u, v]: Ends): Ends[] {
  if (mesh.findHalf(u, v) !== NONE) return [[u, v]];
  for (const start of mesh.vertexHalves(u)) {
    if (!mesh.isBorderEdge(start >> 1)) continue;
    const walk: Ends[] = [];
    let [from, at] = [u, mesh.target(start)];
    for (; walk.length < 64;) {
      walk.push([from, at]);
      if (at === v) return walk;
      const on = mesh.vertexHalves(at).find((h) => mesh.isBorderEdge(h >> 1) && mesh.target(h) !== from);
      if (on === undefined) break;
      [from, at] = [at, mesh.target(on)];
      if (mesh.valence(from) !== 3) break;
    }
  }
  throw new TopologyError('NO_WAY', 'The border could not be followed after a loop was inserted.', { vertices: [u, v] }); // prettier-ignore
}
