import { TopologyError } from '../../errors';
import { addFace, addVertex, edgeLoop, NONE, PolyMesh } from '../../mesh';
import { splitFace } from '../cut/edgePoints';
import { spinEdge } from '../cut/spin';
import type { LoopStop } from './loopStops';

/** One edit of a route, by the vertices that it names, which outlive the edits before it. */
export type RouteEdit =
  { kind: 'spin'; ends: [number, number]; back: boolean } | { kind: 'connect'; ends: [number, number] };

/** A chain of edits that leads a loop on through its stop, and what it costs. */
export interface Route {
  edits: RouteEdit[];
  /** poles more than before; negative: fewer */
  poles: number;
  faces: number;
  /** edges that the loop gains, as far as the neighbourhood of the stop reaches */
  gains: number;
}

/** Rings of faces round a stop that are looked at. */
const RINGS = 4;
/** Chains that are followed further, of those tried at each length. */
const FOLLOWED = 8;
/** Ways that are offered, so that a digit names each. */
const MOST_WAYS = 9;
/** Chains are made no longer than this, and longer than two edits only where no shorter one leads through. */
const LONGEST = 4;

/**
 * The ways to lead a loop on through where it stops, the cheapest first: the shortest chains of spun edges, or of edges that split an
 * n-gon. Quads stay quads; no point is left with two edges. A beam search on a copy of the stop's neighbourhood, so that
 * the cost does not depend on the mesh: some 20 ms, 60 ms where it takes long chains.
 */
export function routesOn(mesh: PolyMesh, stop: LoopStop): Route[] {
  const patch = new Patch(mesh, stop.vertex);
  const start: [number, number] = [patch.local(mesh.origin(stop.half)), patch.local(stop.vertex)];
  const found = new Map<string, Route>();
  const next = candidates(patch.mesh, start[1]);
  let chains: RouteEdit[][] = [[]];
  for (let length = 1; length <= LONGEST && (length <= 2 || found.size === 0); length++) {
    const tried = chains.flatMap((chain) => next.map((edit) => patch.outcome([...chain, edit], start))).filter((o) => o !== null); // prettier-ignore
    for (const o of tried) if (o.passes) keep(found, patch, o);
    chains = tried.sort((a, b) => a.poles - b.poles).slice(0, FOLLOWED).map((o) => o.edits); // prettier-ignore
  }
  return [...found.values()].sort((a, b) => a.poles - b.poles || a.edits.length - b.edits.length || b.gains - a.gains).slice(0, MOST_WAYS); // prettier-ignore
}

interface Outcome extends Route {
  passes: boolean;
}

function keep(found: Map<string, Route>, patch: Patch, { edits, poles, faces, gains }: Outcome): void {
  const named = edits.map((e): RouteEdit => ({ ...e, ends: [patch.id(e.ends[0]), patch.id(e.ends[1])] }));
  const key = named.map((e) => JSON.stringify(e)).sort().join(); // prettier-ignore
  if (!found.has(key)) found.set(key, { edits: named, poles, faces, gains });
}

/** Edits near a vertex: every edge of the faces round it spun both ways, and n-gons split from it. */
function candidates(mesh: PolyMesh, v: number): RouteEdit[] {
  const edits: RouteEdit[] = [];
  const edges = new Set<number>();
  for (const f of mesh.vertexFaces(v)) {
    const corners = mesh.faceVertices(f);
    for (const h of mesh.faceHalves(f)) edges.add(h >> 1);
    if (corners.length > 4)
      for (const w of corners)
        if (w !== v && mesh.findHalf(v, w) === NONE) edits.push({ kind: 'connect', ends: [v, w] });
  }
  for (const e of edges) {
    if (mesh.isBorderEdge(e)) continue;
    const ends: [number, number] = [mesh.origin(2 * e), mesh.target(2 * e)];
    edits.push({ kind: 'spin', ends, back: false }, { kind: 'spin', ends, back: true });
  }
  return edits;
}

/** Does one edit of a route. Throws NO_WAY where it cannot be done. */
export function perform(mesh: PolyMesh, { kind, ends, ...edit }: RouteEdit): void {
  const h = mesh.findHalf(ends[0], ends[1]);
  if (kind === 'connect') {
    const f = mesh.vertexFaces(ends[0]).find((g) => mesh.faceVertices(g).includes(ends[1]));
    if (f === undefined || h !== NONE)
      throw new TopologyError('NO_WAY', 'These points have no face in common any more.');
    splitFace(mesh, f, ends[0], ends[1]);
    return;
  }
  if (h === NONE) throw new TopologyError('NO_WAY', 'An edge of this route is not there any more.');
  // both ends of an edge turn the same way, whichever is named first
  spinEdge(mesh, h >> 1, (edit as { back: boolean }).back);
}

/** A copy of the faces within some rings of a vertex. */
class Patch {
  readonly mesh = new PolyMesh();
  private readonly locals = new Map<number, number>();
  private readonly ids: number[] = [];
  private readonly inner: number[];
  private readonly polesBefore: number;

  constructor(source: PolyMesh, centre: number) {
    let faces = new Set(source.vertexFaces(centre));
    for (let i = 1; i < RINGS; i++) faces = new Set([...faces].flatMap((f) => source.faceVertices(f).flatMap((v) => source.vertexFaces(v)))); // prettier-ignore
    for (const f of faces) addFace(this.mesh, source.faceVertices(f).map((v) => this.take(source, v))); // prettier-ignore
    this.inner = [...this.mesh.vertices()].filter((v) => !this.mesh.isBorderVertex(v));
    this.polesBefore = this.poles();
  }

  private take(source: PolyMesh, v: number): number {
    const known = this.locals.get(v);
    if (known !== undefined) return known;
    const local = addVertex(this.mesh, source.point(v));
    this.locals.set(v, local);
    this.ids[local] = v;
    return local;
  }
  local(v: number): number {
    return this.locals.get(v) as number;
  }
  id(local: number): number {
    return this.ids[local];
  }

  private poles(): number {
    return this.inner.filter((v) => this.mesh.valence(v) !== 4).length;
  }

  /** What the edits lead to; null when they cannot be done or leave something broken. The copy is as before. */
  outcome(edits: RouteEdit[], [from, at]: [number, number]): Outcome | null {
    const { mesh } = this;
    const faces = mesh.faceCount;
    const odd = (): number => [...mesh.faces()].filter((f) => mesh.faceHalves(f).length !== 4).length;
    const oddBefore = odd();
    // what the loop gains ahead it must not lose behind
    const known = mesh.findHalf(from, at);
    const behind = edgeLoop(mesh, known).halves.indexOf(known);
    mesh.begin();
    try {
      for (const edit of edits) perform(mesh, edit);
      if (odd() > oddBefore || this.inner.some((v) => mesh.valence(v) < 3)) return null;
      const h = mesh.findHalf(from, at);
      if (h === NONE) return null;
      const { halves, closed } = edgeLoop(mesh, h);
      const i = halves.indexOf(h);
      const gains = closed ? halves.length : halves.length - 1 - i;
      return { edits, poles: this.poles() - this.polesBefore, faces: mesh.faceCount - faces, gains, passes: closed || (gains > 0 && i >= behind) }; // prettier-ignore
    } catch (error) {
      if (error instanceof TopologyError) return null;
      throw error;
    } finally {
      mesh.rollback();
    }
  }
}
