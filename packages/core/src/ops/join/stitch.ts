import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { distance, lerp } from '../../math';
import { chainsOf, reversed, reweave, type Chain, type PolyMesh, type Selection } from '../../mesh';
import { settle } from '../ground';
import { operator, plural } from '../operator';
import { choice, toggle } from '../params';
import { edgesBetween, only, pickedEdges } from '../picked';

const Params = z.object({
  moves: choice('Which side moves', [['both', 'both, to the middle'], ['first', 'the first'], ['second', 'the second']], 'both'), // prettier-ignore
  partly: toggle('Stitch what matches', false, 'Where counts differ, leave the rest open'),
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
 * Joins two borders point by point in one go. Refuses (COUNTS_DIFFER) borders of different counts, saying how many
 * loops are missing and where, unless what matches shall be stitched; what is left open stays picked.
 */
export const stitch = operator({
  name: 'stitch',
  title: 'Stitch',
  params: Params,
  run(mesh, selection, { moves, partly }, ground) {
    const { pairs, counts, unmatched } = seamOf(mesh, selection);
    const [a, b] = counts;
    if (a !== b && !partly) {
      const fewer = a < b ? 'first' : 'second';
      throw new TopologyError('COUNTS_DIFFER', `One border has ${a} edges, the other ${b}: insert ${plural(Math.abs(a - b), 'loop')} on the ${fewer} side, or stitch what matches.`, { vertices: unmatched }); // prettier-ignore
    }
    const share = moves === 'both' ? 0.5 : moves === 'first' ? 1 : 0;
    for (const [v, w] of pairs) settle(mesh, w, lerp(mesh.point(w), mesh.point(v), 1 - share), ground);
    reweave(mesh, new Map(pairs));
    const stays = pairs.map(([, w]) => w);
    const open = unmatched.length > 0 ? `, ${plural(unmatched.length, 'point')} left open` : '';
    return {
      selection: unmatched.length > 0 ? only({ vertices: unmatched.filter((v) => mesh.hasVertex(v)) }) : only({ edges: edgesBetween(mesh, stays.map((v, i) => [v, stays[(i + 1) % stays.length]])) }), // prettier-ignore
      report: { sentence: `${plural(pairs.length, 'pair')} stitched${open}`, counts: { pairs: pairs.length, unmatched: unmatched.length } }, // prettier-ignore
    };
  },
});
