import type { Vec3 } from '../math';
import { Channels } from './Channels';
import { Column } from './Column';
import { DeltaRecorder, type ChannelSpec, type Delta, type Domain } from './Delta';
import { staysLocked } from './pinChannel';

/** 'no such element' in every link */
export const NONE = -1;
/** Free rows chain through their first link: FREE(next) = -3 - next, so that undo restores the lists too. */
const freeLink = (next: number): number => -3 - next;
const isFreeLink = (link: number): boolean => link <= -2;

const enum Counter {
  VertexRows = 0,
  EdgeRows = 1,
  FaceRows = 2,
  VertexFree = 3,
  EdgeFree = 4,
  FaceFree = 5,
  Vertices = 6,
  Edges = 7,
  Faces = 8,
}

/**
 * The low-poly: a half-edge mesh of polygons of any size, with borders, several components and loose
 * edge chains. Edge e owns the half-edges 2e and 2e + 1, each other's twins; a half-edge without a face
 * lies on a border and is linked to the next border half-edge, so that all half-edges out of a vertex
 * form one cycle under h → next(twin(h)), whatever number of gaps the vertex has.
 *
 * Ids are stable: they survive edits, undo and saving, and freed ones are used again.
 * Structure after Botsch et al., Polygon Mesh Processing (2010), chapter 2; one-cycle borders after
 * Sieger and Botsch, Design, Implementation, and Evaluation of the Surface_mesh Data Structure (2011).
 */
export class PolyMesh {
  /** f64[3·vertex] xyz, file space */
  readonly position = new Column('position', 'f64', 3, 0);
  /** vertex → one half-edge out of it, NONE when isolated */
  readonly vertexHalf = new Column('vertexHalf', 'i32', 1, freeLink(NONE));
  /** half-edge → the vertex it leaves; on a free edge the even one holds the free list */
  readonly halfOrigin = new Column('halfOrigin', 'i32', 1, freeLink(NONE));
  readonly halfNext = new Column('halfNext', 'i32', 1, NONE);
  readonly halfPrev = new Column('halfPrev', 'i32', 1, NONE);
  /** half-edge → face on its left, NONE on a border */
  readonly halfFace = new Column('halfFace', 'i32', 1, NONE);
  /** face → one of its half-edges */
  readonly faceHalf = new Column('faceHalf', 'i32', 1, freeLink(NONE));
  readonly counters = new Column('counters', 'i32', 9, 0, 1);
  private readonly channels = new Channels();
  private recorder: DeltaRecorder | null = null;

  constructor() {
    for (const k of [Counter.VertexFree, Counter.EdgeFree, Counter.FaceFree]) this.counters.data[k] = NONE;
  }

  /** locked vertices that would have been moved in the transaction */
  readonly stayed = new Set<number>();

  // ---- sizes ------------------------------------------------------------------------------------
  get vertexCount(): number {
    return this.counters.data[Counter.Vertices];
  }
  get edgeCount(): number {
    return this.counters.data[Counter.Edges];
  }
  get faceCount(): number {
    return this.counters.data[Counter.Faces];
  }
  /** ids run below this; some may be free */
  get vertexRows(): number {
    return this.counters.data[Counter.VertexRows];
  }
  get edgeRows(): number {
    return this.counters.data[Counter.EdgeRows];
  }
  get faceRows(): number {
    return this.counters.data[Counter.FaceRows];
  }
  hasVertex(v: number): boolean {
    return v >= 0 && v < this.vertexRows && !isFreeLink(this.vertexHalf.data[v]);
  }
  hasEdge(e: number): boolean {
    return e >= 0 && e < this.edgeRows && !isFreeLink(this.halfOrigin.data[2 * e]);
  }
  hasFace(f: number): boolean {
    return f >= 0 && f < this.faceRows && !isFreeLink(this.faceHalf.data[f]);
  }

  // ---- links ------------------------------------------------------------------------------------
  origin(h: number): number {
    return this.halfOrigin.data[h];
  }
  target(h: number): number {
    return this.halfOrigin.data[h ^ 1];
  }
  next(h: number): number {
    return this.halfNext.data[h];
  }
  prev(h: number): number {
    return this.halfPrev.data[h];
  }
  face(h: number): number {
    return this.halfFace.data[h];
  }
  point(v: number): Vec3 {
    const d = this.position.data;
    return [d[3 * v], d[3 * v + 1], d[3 * v + 2]];
  }
  /** Moves a vertex; one that is locked stays, which `stayed` tells. */
  setPoint(v: number, p: Vec3): void {
    if (staysLocked(this, v, p)) return;
    this.position.set(v, p[0], 0);
    this.position.set(v, p[1], 1);
    this.position.set(v, p[2], 2);
  }
  link(h: number, n: number): void {
    this.halfNext.set(h, n);
    this.halfPrev.set(n, h);
  }

  // ---- elements ---------------------------------------------------------------------------------
  *vertices(): Generator<number> {
    for (let v = 0; v < this.vertexRows; v++) if (this.hasVertex(v)) yield v;
  }
  *edges(): Generator<number> {
    for (let e = 0; e < this.edgeRows; e++) if (this.hasEdge(e)) yield e;
  }
  *faces(): Generator<number> {
    for (let f = 0; f < this.faceRows; f++) if (this.hasFace(f)) yield f;
  }
  /** The half-edges round a face, in winding order. */
  faceHalves(f: number): number[] {
    const halves = [this.faceHalf.data[f]];
    for (let h = this.halfNext.data[halves[0]]; h !== halves[0]; h = this.halfNext.data[h]) halves.push(h);
    return halves;
  }
  faceVertices(f: number): number[] {
    return this.faceHalves(f).map((h) => this.halfOrigin.data[h]);
  }
  /** The half-edges out of a vertex, one full turn; empty when isolated. */
  vertexHalves(v: number): number[] {
    const first = this.vertexHalf.data[v];
    const halves: number[] = [];
    if (first === NONE) return halves;
    let h = first;
    do {
      halves.push(h);
      h = this.halfNext.data[h ^ 1];
    } while (h !== first);
    return halves;
  }
  valence(v: number): number {
    return this.vertexHalves(v).length;
  }
  vertexFaces(v: number): number[] {
    const faces = this.vertexHalves(v).map((h) => this.halfFace.data[h]);
    return faces.filter((f, i) => f !== NONE && faces.indexOf(f) === i);
  }
  isBorderVertex(v: number): boolean {
    return this.vertexHalves(v).some((h) => this.halfFace.data[h] === NONE);
  }
  /** An edge with a face on one side only; loose edges are not borders of anything. */
  isBorderEdge(e: number): boolean {
    return (this.halfFace.data[2 * e] === NONE) !== (this.halfFace.data[2 * e + 1] === NONE);
  }
  isLooseEdge(e: number): boolean {
    return this.halfFace.data[2 * e] === NONE && this.halfFace.data[2 * e + 1] === NONE;
  }
  /** The half-edge u → v, or NONE. Cost: the valence of u. */
  findHalf(u: number, v: number): number {
    const first = this.vertexHalf.data[u];
    if (first === NONE) return NONE;
    let h = first;
    do {
      if (this.halfOrigin.data[h ^ 1] === v) return h;
      h = this.halfNext.data[h ^ 1];
    } while (h !== first);
    return NONE;
  }

  // ---- rows -------------------------------------------------------------------------------------
  private take(links: Column, perId: number, rows: Counter, free: Counter, live: Counter): number {
    const c = this.counters.data;
    let id = c[free];
    if (id !== NONE) this.counters.set(0, freeLink(links.data[id * perId]), free);
    else {
      id = c[rows];
      this.counters.set(0, id + 1, rows);
    }
    this.counters.set(0, c[live] + 1, live);
    return id;
  }
  private give(links: Column, perId: number, id: number, free: Counter, live: Counter): void {
    links.set(id * perId, freeLink(this.counters.data[free]));
    this.counters.set(0, id, free);
    this.counters.set(0, this.counters.data[live] - 1, live);
  }
  /** A fresh isolated vertex. Used by `build.ts`; operators call `addVertex`. */
  allocVertex(): number {
    const v = this.take(this.vertexHalf, 1, Counter.VertexRows, Counter.VertexFree, Counter.Vertices);
    this.position.ensure(v + 1);
    this.vertexHalf.ensure(v + 1);
    this.vertexHalf.set(v, NONE);
    this.channels.reset('vertex', v);
    return v;
  }
  allocEdge(): number {
    const e = this.take(this.halfOrigin, 2, Counter.EdgeRows, Counter.EdgeFree, Counter.Edges);
    for (const c of [this.halfOrigin, this.halfNext, this.halfPrev, this.halfFace]) c.ensure(2 * e + 2);
    this.halfFace.set(2 * e, NONE);
    this.halfFace.set(2 * e + 1, NONE);
    this.channels.reset('edge', e);
    this.channels.reset('corner', 2 * e);
    this.channels.reset('corner', 2 * e + 1);
    return e;
  }
  allocFace(): number {
    const f = this.take(this.faceHalf, 1, Counter.FaceRows, Counter.FaceFree, Counter.Faces);
    this.faceHalf.ensure(f + 1);
    this.channels.reset('face', f);
    return f;
  }
  freeVertex(v: number): void {
    this.give(this.vertexHalf, 1, v, Counter.VertexFree, Counter.Vertices);
  }
  freeEdge(e: number): void {
    this.give(this.halfOrigin, 2, e, Counter.EdgeFree, Counter.Edges);
  }
  freeFace(f: number): void {
    this.give(this.faceHalf, 1, f, Counter.FaceFree, Counter.Faces);
  }

  // ---- attribute channels -----------------------------------------------------------------------
  /** Rows a channel of this domain needs. */
  rowsOf(domain: Domain): number {
    if (domain === 'vertex') return this.vertexRows;
    if (domain === 'face') return this.faceRows;
    return domain === 'edge' ? this.edgeRows : 2 * this.edgeRows;
  }
  /** The channel, made when missing; asking again with another type keeps the first. */
  channel(spec: ChannelSpec): Column {
    return this.channels.take(spec, this.rowsOf(spec.domain), this.recorder);
  }
  findChannel(domain: Domain, name: string): Column | undefined {
    return this.channels.find(domain, name);
  }
  channelSpecs(): ChannelSpec[] {
    return this.channels.specs();
  }
  channelColumns(domain: Domain): Column[] {
    return this.channels.columns(domain);
  }

  // ---- transactions -----------------------------------------------------------------------------
  get inTransaction(): boolean {
    return this.recorder !== null;
  }
  begin(): void {
    if (this.recorder) throw new Error('a transaction is open already');
    this.stayed.clear();
    this.record(new DeltaRecorder());
  }
  /** Ends the transaction and says what it changed. */
  commit(): Delta {
    const delta = this.openRecorder().finish();
    this.record(null);
    return delta;
  }
  /** Ends the transaction; the mesh is bit for bit what it was at `begin`. */
  rollback(): void {
    this.restart();
    this.record(null);
  }
  /** Back to the state at `begin`, the transaction still open: one step of a preview. */
  restart(): void {
    this.stayed.clear();
    this.channels.drop(this.openRecorder().restore());
  }
  /** Applies a delta made on this mesh's present state (forward) or on the state before it (backward). */
  apply(delta: Delta, direction: 'forward' | 'backward'): void {
    if (this.recorder) throw new Error('a transaction is open');
    if (direction === 'forward') for (const spec of delta.created) this.channel(spec);
    for (const patch of delta.columns) {
      const column = this.column(patch.column);
      const values = direction === 'forward' ? patch.after : patch.before;
      const { stride, rows } = patch;
      for (let i = 0; i < rows.length; i++) {
        column.ensure(rows[i] + 1);
        for (let k = 0; k < stride; k++) column.data[rows[i] * stride + k] = values[i * stride + k];
      }
    }
    if (direction === 'backward') this.channels.drop(delta.created);
    // rows that came with this delta and hold a channel's fill have no patch there
    for (const spec of this.channels.specs()) this.channel(spec).ensure(this.rowsOf(spec.domain));
  }
  /** Rows changed so far in the open transaction, by column name. */
  openRows(): { column: string; rows: Iterable<number> }[] {
    return this.recorder ? this.recorder.openRows() : [];
  }
  /** Every column by name, structure first. */
  columns(): Column[] {
    const { position, vertexHalf, halfOrigin, halfNext, halfPrev, halfFace, faceHalf, counters } = this;
    const own = [position, vertexHalf, halfOrigin, halfNext, halfPrev, halfFace, faceHalf, counters];
    return [...own, ...this.channels.columns()];
  }
  private column(name: string): Column {
    const column = this.columns().find((c) => c.name === name);
    if (!column) throw new Error(`no column ${name}`);
    return column;
  }
  private openRecorder(): DeltaRecorder {
    if (!this.recorder) throw new Error('no transaction is open');
    return this.recorder;
  }
  private record(recorder: DeltaRecorder | null): void {
    this.recorder = recorder;
    const { position, vertexHalf, halfOrigin, halfNext, halfPrev, halfFace, faceHalf, counters } = this;
    const watch = (rows: number, columns: readonly Column[]): void =>
      columns.forEach((column) => (recorder ? recorder.watch(column, rows) : column.watch(null, rows)));
    watch(1, [counters]);
    watch(this.vertexRows, [position, vertexHalf, ...this.channels.columns('vertex')]);
    watch(2 * this.edgeRows, [halfOrigin, halfNext, halfPrev, halfFace, ...this.channels.columns('corner')]);
    watch(this.edgeRows, this.channels.columns('edge'));
    watch(this.faceRows, [faceHalf, ...this.channels.columns('face')]);
  }
}
