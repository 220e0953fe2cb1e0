import { conjugateGradients, WayQueue, type MirrorPlane, type Vec3 } from '../../math';
import { isOnCut } from '../form/onCut';
import { prevHalf, type TriMesh } from '../form/TriMesh';
import { indicesOf, rise, turnsAt, type CrossField } from './field';
import { flatSectors, type Sector } from './narrowCorners';

/** Weight of triangles on lines, whose crosses are where they must be. */
const ANCHOR = 20;

/** Poles that are taken apart, or off the mirror plane, stand so many quads from each other. */
const APART = 1;
/** Those that a narrow corner of lines gives off: the quad in the corner is about half as wide as that is long. */
const OFF_CORNER = 2;
/** They are looked for a little beyond that, and off the plane so far at most. */
const WITHIN = 1.6;
const FARTHEST = 4;

/**
 * Fewer and simpler poles: opposite ones nearer to each other than `near` quads cancel out, and those of more than a quarter are taken apart into
 * single ones about a quad from each other, so that each can lie on a place of its own. Distances are measured by the `size` of quads there, or what is small would lose its poles. The border in the
 * mirror plane goes straight on wherever it runs, as the whole form does there: a corner would be a point with two edges in the whole, and what turns it stands off the plane. Turns are moved from vertex
 * to vertex along edges that are on no line; then the crosses are made smooth again for the poles that are left. Changes the field. Cost: a search round each pole, and two solves.
 */
export function simplifyPoles(
  mesh: TriMesh,
  field: CrossField,
  size: (v: number) => number,
  near: number,
  plane: MirrorPlane | null,
): Int8Array {
  const index = indicesOf(mesh, field);
  const blocked = new Uint8Array(mesh.vertices);
  for (let h = 0; h < 3 * mesh.triangles; h++) if (mesh.line[h] >= 0) blocked[mesh.from[h]] = blocked[mesh.to(h)] = 1;
  for (let v = 0; v < mesh.vertices; v++) if (mesh.isBorder(v)) blocked[v] = 1;
  const bent = plane ? bentInPlane(mesh, field, plane) : [];
  for (const { v, turns } of bent) index[v] = turns;
  const moves = new Moves(mesh, field, index, blocked, size);
  const changed =
    moves.offBorder(bent.map(({ v }) => v)) +
    moves.offCorners(flatSectors(mesh, field)) +
    moves.cancel(near) +
    moves.part(APART);
  for (const { v } of bent) index[v] = 0;
  if (changed > 0) smoothAgain(mesh, field);
  return index;
}

/** A point where other than four edges meet. */
export interface Pole {
  at: Vec3;
  valence: number;
}

/** The poles of a field, by the turns of each vertex. Cost: linear. */
export function polesAt({ points }: TriMesh, index: Int8Array): Pole[] {
  const poles: Pole[] = [];
  for (const [v, turns] of index.entries())
    if (turns !== 0) poles.push({ at: [points[3 * v], points[3 * v + 1], points[3 * v + 2]], valence: 4 - turns });
  return poles;
}

/** Points where the border in the mirror plane turns for the crosses, by so many quarters, and no line comes in. Cost: the border. */
function bentInPlane(mesh: TriMesh, field: CrossField, plane: MirrorPlane): { v: number; turns: number }[] {
  const isOn = (v: number): boolean => isOnCut(mesh, v, plane);
  const bent: { v: number; turns: number }[] = [];
  for (let v = 0; v < mesh.vertices; v++) {
    if (!isOn(v) || !mesh.isBorder(v)) continue;
    const fan = mesh.fan(v);
    const isPlain = fan.every((h) => mesh.twin[h] < 0 || mesh.line[h] < 0);
    const ends = [mesh.to(fan[0]), mesh.from[prevHalf(fan[fan.length - 1])]];
    const turns = isPlain && ends.every(isOn) ? turnsAt(mesh, field, v) : 0;
    if (turns !== 0) bent.push({ v, turns });
  }
  return bent;
}

class Moves {
  constructor(
    private readonly mesh: TriMesh,
    private readonly field: CrossField,
    private readonly index: Int8Array,
    private readonly blocked: Uint8Array,
    private readonly size: (v: number) => number,
  ) {}

  /** Nearest first; gives how many pairs went. */
  cancel(near: number): number {
    const pairs: { far: number; path: number[] }[] = [];
    for (let v = 0; v < this.index.length; v++)
      if (this.index[v] > 0 && this.blocked[v] === 0) for (const found of this.reach(v, near)) if (this.index[found.end] < 0) pairs.push(found); // prettier-ignore
    pairs.sort((a, b) => a.far - b.far);
    let gone = 0;
    for (const { path } of pairs) {
      const [v, w] = [this.mesh.from[path[0]], this.mesh.to(path[path.length - 1])];
      while (this.index[v] > 0 && this.index[w] < 0) {
        this.shift(path);
        gone++;
      }
    }
    return gone;
  }

  /** Single quarters moved off to regular vertices, each as far from other poles as there is one near by. */
  part(apart: number): number {
    let moved = 0;
    for (let v = 0; v < this.index.length; v++)
      while (Math.abs(this.index[v]) > 1 && this.blocked[v] === 0 && this.moveOff(v, apart)) moved++;
    return moved;
  }

  /** Whatever turns the border at some of its vertices moved off it, to where it cancels out if that is near; gives how many quarters moved. */
  offBorder(bent: readonly number[]): number {
    let moved = 0;
    for (const v of bent)
      for (let within = APART; this.index[v] !== 0 && within <= FARTHEST; within *= 2)
        while (this.index[v] !== 0 && (this.cancelled(v, within) || this.moveOff(v, within))) moved++;
    return moved;
  }

  /** Quarters moved off corners of lines that have no quad between them, until they have one; gives how many. */
  offCorners(flat: readonly Sector[]): number {
    let moved = 0;
    for (const { v, inner, quads } of flat) {
      const own = this.index[v];
      for (let lacking = 1 - quads; lacking > 0 && this.cornerOff(v, inner); lacking--) moved++;
      // a border's corners are no poles
      if (this.mesh.isBorder(v)) this.index[v] = own;
    }
    return moved;
  }

  private cornerOff(v: number, inner: readonly number[]): boolean {
    for (let within = OFF_CORNER; within <= FARTHEST; within *= 2) if (this.moveOff(v, within, 1, inner)) return true;
    return false;
  }

  /** One quarter of a vertex moved to the nearest pole that is its opposite; false where there is none near by. */
  private cancelled(v: number, within: number): boolean {
    const sign = Math.sign(this.index[v]);
    const found = this.reach(v, WITHIN * within).filter(({ end }) => sign * this.index[end] < 0);
    if (found.length === 0) return false;
    this.shift(found.reduce((a, b) => (b.far < a.far ? b : a)).path, sign);
    return true;
  }

  /** One quarter of a vertex moved to a regular one near by; false where there is none. */
  private moveOff(
    v: number,
    apart: number,
    by = Math.sign(this.index[v]),
    first: readonly number[] = this.mesh.fan(v),
  ): boolean {
    const found = this.reach(v, WITHIN * apart, first).filter(({ end }) => this.index[end] === 0);
    if (found.length === 0) return false;
    const poles = [...this.index.keys()].filter((w) => this.index[w] !== 0);
    const room = ({ end, far }: { end: number; far: number }): number =>
      Math.min(...poles.map((w) => this.between(w, end)), apart) - 0.1 * Math.abs(far - apart);
    const best = found.reduce((a, b) => (room(b) > room(a) ? b : a));
    this.shift(best.path, by);
    return true;
  }

  /** Moves a quarter from the start of a path of half-edges to its end. */
  private shift(path: readonly number[], by = 1): void {
    const { mesh, field, index } = this;
    for (const h of path) {
      field.quarter[mesh.twin[h]] += by;
      field.quarter[h] -= by;
    }
    index[mesh.from[path[0]]] -= by;
    index[mesh.to(path[path.length - 1])] += by;
  }

  private between(v: number, w: number): number {
    const p = this.mesh.points;
    const away = Math.hypot(p[3 * v] - p[3 * w], p[3 * v + 1] - p[3 * w + 1], p[3 * v + 2] - p[3 * w + 2]);
    return (2 * away) / (this.size(v) + this.size(w));
  }

  /** Vertices within a distance along edges, with the shortest paths there, which begin with one of the `first`. */
  private reach(
    v: number,
    radius: number,
    first: readonly number[] = this.mesh.fan(v),
  ): { end: number; far: number; path: number[] }[] {
    const { mesh, blocked } = this;
    const far = new Map([[v, 0]]);
    const by = new Map<number, number>();
    const open = new WayQueue();
    open.push(v, 0);
    const done = new Set<number>();
    for (let next = open.pop(); next; next = open.pop()) {
      const u = next.v;
      if (done.has(u)) continue;
      done.add(u);
      for (const h of u === v ? first : mesh.fan(u)) {
        const w = mesh.to(h);
        const d = next.way + (2 * Math.sqrt(mesh.squaredLength(h))) / (this.size(u) + this.size(w));
        if (blocked[w] || mesh.line[h] >= 0 || d > radius || d >= (far.get(w) ?? Infinity)) continue;
        far.set(w, d);
        by.set(w, h);
        open.push(w, d);
      }
    }
    return [...done]
      .filter((w) => w !== v)
      .map((end) => {
        const path: number[] = [];
        for (let w = end; w !== v;) {
          const h = by.get(w) as number;
          path.unshift(h);
          w = mesh.from[h];
        }
        return { end, far: far.get(end) as number, path };
      });
  }
}

/**
 * Crosses as smooth as the quarters between them allow: first with those on lines where they must be, then with the others held as strongly by the form as before, each to the one of its four directions
 * that it came nearest to. Scalar least-squares problems, by conjugate gradients.
 */
function smoothAgain(mesh: TriMesh, field: CrossField): void {
  const onLine = new Float64Array(mesh.triangles);
  for (let h = 0; h < 3 * mesh.triangles; h++) if (mesh.line[h] >= 0) onLine[Math.floor(h / 3)] = ANCHOR;
  const free = turnedTo(mesh, field, onLine, new Float64Array(mesh.triangles));
  const nearest = free.map((x) => (Math.PI / 2) * Math.round((2 * x) / Math.PI));
  const x = turnedTo(mesh, field, field.held, nearest);
  for (let t = 0; t < x.length; t++) field.angle[t] += x[t];
}

/** What turns the crosses to where they are smoothest and, as strongly as each is held, at what is `wanted`: least Σ (x_g − x_f + gap)² + Σ held·(x − wanted)². */
function turnedTo(mesh: TriMesh, field: CrossField, held: Float64Array, wanted: Float64Array): Float64Array {
  const n = mesh.triangles;
  const anchor = held.slice();
  if (!anchor.some((a) => a > 0)) anchor[0] = 1e-3;
  const edges: number[] = [];
  for (let h = 0; h < 3 * n; h++) if (mesh.twin[h] > h) edges.push(h);
  const gap = edges.map((h) => rise(mesh, field, h) - (field.quarter[h] * Math.PI) / 2);
  const diagonal = anchor.slice();
  const r = anchor.map((a, t) => a * wanted[t]);
  const [f, g] = [edges.map((h) => Math.floor(h / 3)), edges.map((h) => Math.floor(mesh.twin[h] / 3))];
  edges.forEach((_, e) => {
    diagonal[f[e]]++;
    diagonal[g[e]]++;
    r[f[e]] += gap[e];
    r[g[e]] -= gap[e];
  });
  const x = new Float64Array(n);
  const times = (d: Float64Array, into: Float64Array): void => {
    for (let i = 0; i < n; i++) into[i] = diagonal[i] * d[i];
    for (let e = 0; e < edges.length; e++) {
      into[f[e]] -= d[g[e]];
      into[g[e]] -= d[f[e]];
    }
  };
  const nearly = (d: Float64Array, into: Float64Array): void => {
    for (let i = 0; i < n; i++) into[i] = d[i] / diagonal[i];
  };
  conjugateGradients({ times, nearly }, x, r, 1e-10, 600);
  return x;
}
