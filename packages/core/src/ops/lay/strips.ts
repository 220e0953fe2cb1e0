import { addFace, chainsOf, NONE, reversed, type Chain, type PolyMesh } from '../../mesh';
import { distance } from '../../math';
import { TopologyError } from '../../errors';
import { openHalf } from '../drawOut';
import { carryFrom } from './carry';

/** Two runs of border edges, walked side by side: both with their open side towards the other. */
export interface Facing {
  first: Chain;
  second: Chain;
}

/** Picked border edges as chains with their open side on the left. Throws NOT_A_BORDER. */
export function openChains(mesh: PolyMesh, edges: readonly number[]): Chain[] {
  const halves = new Map(edges.map((e) => [e, openHalf(mesh, e)]));
  return chainsOf(mesh, edges).map((chain) => {
    const h = chain.halves[0];
    const loose = mesh.face(h) === NONE && mesh.face(h ^ 1) === NONE;
    return loose || halves.get(h >> 1) === h ? chain : reversed(chain);
  });
}

/**
 * The second run turned to run beside the first, from end to end or, where both close, from where the way between them is shortest in all.
 * `turn` moves a closed one on. Cost: for closed runs the product of their counts.
 */
export function beside(mesh: PolyMesh, first: Chain, second: Chain, turn = 0): number[] {
  const back = [...second.vertices].reverse();
  const hasFaces = [first, second].every(
    ({ halves }) => mesh.face(halves[0]) === NONE && mesh.face(halves[0] ^ 1) !== NONE,
  );
  // borders with faces must be walked against each other; loose runs may go either way
  const ways = hasFaces ? [back] : [back, [...second.vertices]];
  const n = first.vertices.length,
    m = second.vertices.length;
  let best: number[] = back,
    least = Infinity;
  for (const way of ways)
    for (let s = 0; s < (second.closed && first.closed ? m : 1); s++) {
      const order = [...way.slice(s), ...way.slice(0, s)];
      const cost = first.vertices.reduce((sum, v, i) => sum + distance(mesh.point(v), mesh.point(order[Math.min(m - 1, Math.round((i * (m - (first.closed ? 0 : 1))) / (n - (first.closed ? 0 : 1)))) % m])), 0); // prettier-ignore
      if (cost < least) [best, least] = [order, cost];
    }
  if (!second.closed || turn === 0) return best;
  const k = ((turn % m) + m) % m;
  return [...best.slice(k), ...best.slice(0, k)];
}

/** Rows of quads between lines of vertices of equal length; returns the faces. `like` gives them what they take over. */
export function rowsBetween(
  mesh: PolyMesh,
  lines: readonly (readonly number[])[],
  closed: boolean,
  like: readonly number[],
): number[] {
  const carry = carryFrom(mesh, like);
  const made: number[] = [];
  for (let r = 0; r + 1 < lines.length; r++) {
    const [low, high] = [lines[r], lines[r + 1]];
    if (low.length !== high.length)
      throw new TopologyError('COUNTS_DIFFER', `One side has ${low.length} points, the other ${high.length}.`, { vertices: [...low, ...high] }); // prettier-ignore
    for (let i = 0; i + (closed ? 0 : 1) < low.length; i++) {
      const j = (i + 1) % low.length;
      const corners = [low[i], low[j], high[j], high[i]].filter((v, k, all) => all.indexOf(v) === k);
      if (corners.length > 2) made.push(carry.face(addFace(mesh, corners)));
    }
  }
  return made;
}
