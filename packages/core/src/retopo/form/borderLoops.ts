import { nextHalf, type TriMesh } from './TriMesh';

const NONE = -1;

/** The half-edges of each border, in the order in which they follow one another. Cost: linear. */
export function borderLoops(mesh: TriMesh): number[][] {
  const loops: number[][] = [];
  const seen = new Set<number>();
  for (let first = 0; first < 3 * mesh.triangles; first++) {
    if (mesh.twin[first] !== NONE || !mesh.isAlive(Math.floor(first / 3)) || seen.has(first)) continue;
    const loop = loopFrom(mesh, first);
    for (const h of loop) seen.add(h);
    loops.push(loop);
  }
  return loops;
}

function loopFrom(mesh: TriMesh, first: number): number[] {
  const loop: number[] = [];
  let h = first;
  do {
    loop.push(h);
    // round the end to the next open edge that leaves it
    let next = nextHalf(h);
    while (mesh.twin[next] !== NONE) next = nextHalf(mesh.twin[next]);
    h = next;
  } while (h !== first);
  return loop;
}
