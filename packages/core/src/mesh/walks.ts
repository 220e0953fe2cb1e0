import { boxOf, type Box } from '../math';
import { NONE, type PolyMesh } from './PolyMesh';

/** A walk over half-edges; `closed` when it came back to where it began. */
export interface Walk {
  halves: number[];
  closed: boolean;
}

/** The border half-edges from h on, round its border. */
export function borderWalk(mesh: PolyMesh, h: number): Walk {
  const halves: number[] = [];
  let g = h;
  do {
    halves.push(g);
    g = mesh.next(g);
  } while (g !== h);
  return { halves, closed: true };
}

/**
 * The half-edges round a set of faces, the faces on their left, as loops; where the faces meet at a point alone each fan goes by itself. Cost: the
 * faces.
 */
export function loopsRound(mesh: PolyMesh, faces: ReadonlySet<number>): number[][] {
  const isRound = (h: number): boolean => !faces.has(mesh.face(h ^ 1));
  const left = new Set<number>();
  for (const f of faces) for (const h of mesh.faceHalves(f)) if (isRound(h)) left.add(h);
  const loops: number[][] = [];
  for (const first of left) {
    const loop: number[] = [];
    let h = first;
    do {
      left.delete(h);
      loop.push(h);
      h = mesh.next(h);
      while (!isRound(h)) h = mesh.next(h ^ 1);
    } while (h !== first);
    loops.push(loop);
  }
  return loops;
}

/** Every border as one walk; loose chains, which have no face on either side, are left out. */
export function borderLoops(mesh: PolyMesh): Walk[] {
  const seen = new Set<number>();
  const loops: Walk[] = [];
  for (const e of mesh.edges()) {
    for (const h of [2 * e, 2 * e + 1]) {
      if (seen.has(h) || mesh.face(h) !== NONE || mesh.face(h ^ 1) === NONE) continue;
      const walk = borderWalk(mesh, h);
      for (const g of walk.halves) seen.add(g);
      loops.push(walk);
    }
  }
  return loops;
}

/**
 * The edge loop through h: at a vertex inside with four edges on to the opposite one, along a border
 * along the border while nothing but one edge leaves it; stops anywhere else. Visits a half-edge at most once.
 */
export function edgeLoop(mesh: PolyMesh, h: number): Walk {
  if (!mesh.isBorderEdge(h >> 1))
    return walkBothWays(
      h,
      (g) => innerStep(mesh, g),
      turned((g) => innerStep(mesh, g)),
    );
  const start = mesh.face(h) === NONE ? h : h ^ 1;
  const straight = (v: number): boolean => mesh.valence(v) === 3;
  return walkBothWays(
    start,
    (g) => (straight(mesh.target(g)) ? mesh.next(g) : NONE),
    (g) => (straight(mesh.origin(g)) ? mesh.prev(g) : NONE),
  );
}

function innerStep(mesh: PolyMesh, h: number): number {
  const v = mesh.target(h);
  if (mesh.valence(v) !== 4 || mesh.isBorderVertex(v)) return NONE;
  for (let g = h, i = 0; i < 4; i++, g = mesh.next(g) ^ 1) {
    if (mesh.faceHalves(mesh.face(g)).length !== 4) return NONE;
  }
  return mesh.next(mesh.next(h) ^ 1);
}

/** The edge ring through h, across quads to the opposite edge; its faces are a strip. */
export function edgeRing(mesh: PolyMesh, h: number): Walk {
  const across = (g: number): number => {
    const f = mesh.face(g);
    if (f === NONE || mesh.faceHalves(f).length !== 4) return NONE;
    return mesh.next(mesh.next(g)) ^ 1;
  };
  return walkBothWays(h, across, turned(across));
}

type WalkStep = (h: number) => number;
/** The same step walked backward: on the twin, and turned round again. */
const turned =
  (step: WalkStep): WalkStep =>
  (h) => {
    const g = step(h ^ 1);
    return g === NONE ? NONE : g ^ 1;
  };

/** Follows `onward` from h to its end, then `back` the other way; the result runs in h's direction. */
function walkBothWays(h: number, onward: WalkStep, back: WalkStep): Walk {
  const forward = [h];
  const seen = new Set([h]);
  for (let g = onward(h); g !== NONE; g = onward(g)) {
    if (g === h) return { halves: forward, closed: true };
    if (seen.has(g)) break;
    seen.add(g);
    forward.push(g);
  }
  const backward: number[] = [];
  for (let g = back(h); g !== NONE && !seen.has(g); g = back(g)) {
    seen.add(g);
    backward.push(g);
  }
  return { halves: [...backward.reverse(), ...forward], closed: false };
}

/** Sets of vertices that hang together by edges. */
export function components(mesh: PolyMesh): number[][] {
  const seen = new Uint8Array(mesh.vertexRows);
  const parts: number[][] = [];
  for (const start of mesh.vertices()) {
    if (seen[start]) continue;
    const part = [start];
    seen[start] = 1;
    for (let i = 0; i < part.length; i++) {
      for (const h of mesh.vertexHalves(part[i])) {
        const w = mesh.target(h);
        if (seen[w]) continue;
        seen[w] = 1;
        part.push(w);
      }
    }
    parts.push(part);
  }
  return parts;
}

/** The two vertices of an edge. */
export const edgeEnds = (mesh: PolyMesh, e: number): [number, number] => [mesh.origin(2 * e), mesh.origin(2 * e + 1)];

/** Faces in sets that hang together by edges, in the order of their first ones. Cost: the faces. */
export function facePatches(mesh: PolyMesh, faces: Iterable<number>): number[][] {
  const left = new Set(faces);
  const found: number[][] = [];
  for (const first of left) {
    left.delete(first);
    const patch = [first];
    for (const f of patch)
      for (const h of mesh.faceHalves(f)) if (left.delete(mesh.face(h ^ 1))) patch.push(mesh.face(h ^ 1));
    found.push(patch);
  }
  return found;
}

/** The box of the corners of faces. Cost: the faces. */
export function boxOfFaces(mesh: PolyMesh, faces: Iterable<number>): Box {
  const vertices = new Set<number>();
  for (const f of faces) for (const v of mesh.faceVertices(f)) vertices.add(v);
  const positions = new Float64Array(3 * vertices.size);
  let i = 0;
  for (const v of vertices) positions.set(mesh.point(v), 3 * i++);
  return boxOf(positions);
}
