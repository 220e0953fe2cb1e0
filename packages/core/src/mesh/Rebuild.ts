import type { Vec3 } from '../math';
import { addFace, addVertex, removeFaceOnly, removeLooseEdge } from './build';
import type { Column } from './Column';
import { NONE, type PolyMesh } from './PolyMesh';
import { markTrace } from './trace';

/** What a new vertex is made of: old vertices and their shares, which add up to 1. */
export interface Blend {
  vertices: readonly number[];
  weights: readonly number[];
}
export const copyOf = (v: number): Blend => ({ vertices: [v], weights: [1] });
export const between = (a: number, b: number, t: number): Blend => ({ vertices: [a, b], weights: [1 - t, t] });
export const meanOf = (vertices: readonly number[]): Blend => ({
  vertices,
  weights: vertices.map(() => 1 / vertices.length),
});

/** Values of one row in every channel of a domain, column by column. */
type Row = number[][];

interface OldFace {
  row: Row;
  sides: number;
  corners: Map<number, Row>;
}
const NO_CORNERS = new Map<number, Row>();

/**
 * Replaces faces by others in the same place, attributes carried: the one mechanism behind every operator that cuts,
 * inserts or merges. Made with the faces that go; vertices and faces are then added; `finish` takes away what nothing
 * holds any more. A new face takes the attributes of the old one it is `like`; a corner takes those that its vertex,
 * or the vertices it is blended from, had in that face. Edges that stay keep their own; `edge` hands an old edge's
 * to a piece of it. Whole numbers are not blended: the greatest share wins.
 *
 * Cost: the faces replaced. What `addFace` throws leaves changes behind for the transaction to roll back.
 */
export class Rebuild {
  private readonly old = new Map<number, OldFace>();
  private readonly blends = new Map<number, Blend>();
  private readonly anyCorner = new Map<number, Row>();
  private readonly edgesOnce = new Set<number>();
  private readonly verticesOnce = new Set<number>();
  private readonly asked: { corners: readonly number[]; like: number }[] = [];
  private readonly pieces: { u: number; v: number; row: Row }[] = [];
  private readonly faceColumns: Column[];
  private readonly cornerColumns: Column[];

  constructor(
    private readonly mesh: PolyMesh,
    faces: Iterable<number>,
  ) {
    this.faceColumns = mesh.channelColumns('face');
    this.cornerColumns = mesh.channelColumns('corner');
    for (const f of new Set(faces)) this.takeOut(f);
  }

  /** Takes one more face out. */
  takeOut(f: number): void {
    const { mesh } = this;
    if (this.old.has(f)) return;
    const halves = mesh.faceHalves(f);
    const corners = this.cornerColumns.length > 0 ? new Map<number, Row>() : NO_CORNERS;
    for (const h of halves) {
      this.edgesOnce.add(h >> 1);
      this.verticesOnce.add(mesh.origin(h));
      if (this.cornerColumns.length === 0) continue;
      const row = rowOf(this.cornerColumns, h);
      corners.set(mesh.origin(h), row);
      if (!this.anyCorner.has(mesh.origin(h))) this.anyCorner.set(mesh.origin(h), row);
    }
    this.old.set(f, { row: rowOf(this.faceColumns, f), sides: halves.length, corners });
    removeFaceOnly(mesh, f);
  }

  /** A new vertex with the attributes of those it is blended from. Throws NOT_FINITE. */
  vertex(at: Vec3, blend: Blend): number {
    const v = addVertex(this.mesh, at);
    this.blends.set(v, blend);
    this.verticesOnce.add(v);
    for (const c of this.mesh.channelColumns('vertex')) {
      const rows = blend.vertices.map((w) => rowOf([c], w)[0]);
      blended(c, rows, blend.weights).forEach((value, k) => c.set(v, value, k));
    }
    return v;
  }

  /**
   * Asks for a new face with the attributes of an old one, which was taken out or stands beside it. Returns its place in the
   * list that `finish` gives.
   */
  face(corners: readonly number[], like: number): number {
    return this.asked.push({ corners, like }) - 1;
  }

  /** The edge u–v, once its faces are there, takes the attributes that edge `like` has now. */
  edge(u: number, v: number, like: number): void {
    this.pieces.push({ u, v, row: rowOf(this.mesh.channelColumns('edge'), like) });
  }

  /** Makes the faces, takes away what nothing holds any more, and gives the faces in the order asked for. */
  finish(): number[] {
    const { mesh } = this;
    // an edge that stays loose would stand between two faces of a closed turn: those that no new face wants go first
    const wanted = new Set<number>();
    for (const { corners } of this.asked)
      corners.forEach((u, i) => {
        const h = mesh.findHalf(u, corners[(i + 1) % corners.length]);
        if (h !== NONE) wanted.add(h >> 1);
      });
    for (const e of this.edgesOnce) if (!wanted.has(e) && mesh.isLooseEdge(e)) removeLooseEdge(mesh, e);
    const made = this.asked.map(({ corners, like }) => this.make(corners, like));
    const columns = mesh.channelColumns('edge');
    if (columns.length > 0)
      for (const { u, v, row } of this.pieces) {
        const h = mesh.findHalf(u, v);
        if (h !== NONE) write(columns, h >> 1, row);
      }
    for (const v of this.verticesOnce) if (mesh.hasVertex(v) && mesh.vertexHalf.data[v] === NONE) mesh.freeVertex(v);
    return made;
  }

  private make(corners: readonly number[], like: number): number {
    const { mesh } = this;
    const f = addFace(mesh, corners);
    const old = this.old.get(like);
    if (old) write(this.faceColumns, f, old.row);
    else if (like !== NONE) for (const c of this.faceColumns) c.copyRow(like, f);
    if (this.cornerColumns.length > 0)
      for (const h of mesh.faceHalves(f)) {
        const row = this.cornerRow(mesh.origin(h), old);
        if (row) write(this.cornerColumns, h, row);
      }
    markTrace(mesh, f, old?.sides ?? corners.length);
    return f;
  }

  private cornerRow(v: number, like: OldFace | undefined): Row | null {
    const own = like?.corners.get(v);
    if (own) return own;
    const blend = this.blends.get(v);
    if (!blend) return this.anyCorner.get(v) ?? null;
    const known = blend.vertices
      .map((w, i) => ({ row: this.cornerRow(w, like), share: blend.weights[i] }))
      .filter((k): k is { row: Row; share: number } => k.row !== null && k.share !== 0);
    const total = known.reduce((sum, k) => sum + k.share, 0);
    if (known.length === 0 || total === 0) return null;
    const shares = known.map((k) => k.share / total);
    return this.cornerColumns.map((c, i) => blended(c, known.map((k) => k.row[i]), shares)); // prettier-ignore
  }
}

function rowOf(columns: readonly Column[], row: number): Row {
  return columns.map((c) => [...c.data.subarray(row * c.stride, (row + 1) * c.stride)]);
}

function write(columns: readonly Column[], row: number, values: Row): void {
  columns.forEach((c, i) => values[i]?.forEach((value, k) => c.set(row, value, k)));
}

function blended(column: Column, rows: readonly number[][], weights: readonly number[]): number[] {
  if (rows.length === 1) return rows[0];
  if (column.type === 'f32' || column.type === 'f64')
    return rows[0].map((_, k) => rows.reduce((sum, row, i) => sum + row[k] * weights[i], 0));
  return rows[weights.indexOf(Math.max(...weights))];
}
