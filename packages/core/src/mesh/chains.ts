import type { PolyMesh } from './PolyMesh';

/** Edges that run on from one to the next. `halves` lead from vertices[0] onwards. */
export interface Chain {
  /** one more than halves where open, as many where closed */
  vertices: number[];
  halves: number[];
  closed: boolean;
}

/**
 * Picked edges as chains, each as long as it can be: a chain ends where its vertex holds one or more than two of the
 * edges. Longest first. Cost: the edges.
 */
export function chainsOf(mesh: PolyMesh, edges: Iterable<number>): Chain[] {
  const at = new Map<number, number[]>();
  const left = new Set(edges);
  for (const e of left)
    for (const h of [2 * e, 2 * e + 1]) at.set(mesh.origin(h), [...(at.get(mesh.origin(h)) ?? []), h]);
  const chains: Chain[] = [];
  const onward = (h: number): number | undefined => {
    const out = at.get(mesh.target(h)) ?? [];
    return out.length === 2 ? out.find((g) => g >> 1 !== h >> 1) : undefined;
  };
  const walk = (h: number): Chain => {
    const halves = [h];
    left.delete(h >> 1);
    for (let g = onward(h); g !== undefined && left.has(g >> 1); g = onward(g)) {
      halves.push(g);
      left.delete(g >> 1);
    }
    const first = mesh.origin(h),
      last = mesh.target(halves[halves.length - 1]);
    const closed = halves.length > 2 && first === last;
    return { halves, closed, vertices: [...halves.map((g) => mesh.origin(g)), ...(closed ? [] : [last])] };
  };
  for (const out of at.values()) if (out.length !== 2) for (const h of out) if (left.has(h >> 1)) chains.push(walk(h));
  for (const e of [...left]) if (left.has(e)) chains.push(walk(2 * e));
  return chains.sort((a, b) => b.halves.length - a.halves.length);
}

/** The chain walked from its other end. */
export function reversed({ halves, closed, vertices }: Chain): Chain {
  const back = [...vertices].reverse();
  return {
    halves: [...halves].reverse().map((h) => h ^ 1),
    closed,
    vertices: closed ? [back[back.length - 1], ...back.slice(0, -1)] : back,
  };
}
