import { chainsOf, type PolyMesh } from '../mesh';

/** Picked edges as a person counts them. */
export interface PickedRuns {
  edges: number;
  runs: { edges: number; closed: boolean }[];
  /** vertices where a run ends: between them it gaps */
  gaps: number[];
}

/** How many edges are picked, in how many runs, whether they close, and where they gap. Cost: the edges. */
export function pickedRuns(mesh: PolyMesh, edges: readonly number[]): PickedRuns {
  const chains = chainsOf(mesh, edges.filter((e) => mesh.hasEdge(e))); // prettier-ignore
  return {
    edges: edges.length,
    runs: chains.map((c) => ({ edges: c.halves.length, closed: c.closed })),
    gaps: chains.flatMap((c) => (c.closed ? [] : [c.vertices[0], c.vertices[c.vertices.length - 1]])),
  };
}
