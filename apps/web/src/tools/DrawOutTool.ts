import { isMidlineEdge } from '@half-loop/core/inspect';
import { add, directionAcross, dot, isOnPlane, lerp, mirrored, sub, type Vec3 } from '@half-loop/core/math';
import { borderWalk, EMPTY_SELECTION, type Selection } from '@half-loop/core/mesh';
import { drawOut, movePoints, openHalf, outwardAt, uniqueEnds, weld, type Corner } from '@half-loop/core/ops';
import { grabOnEdge } from '@half-loop/core/pick';
import { TopologyError } from '@half-loop/core/errors';
import type { Drag } from '../session';
import { MODEL_COLOURS, NO_OVERLAY, type Hit, type Overlay } from '../viewport';
import { rowPlaces, type RowShape } from './rowShape';
import { keepSide, normalAt, seenPoint, stick, stickBySide, storedPoint, weldRing } from './placing';
import { borderWords } from './borderCounts';
import type { Press, Tool, ToolHost } from './Tool';

/** One end of the edges being drawn: where it began, and how it leaves when a whole row goes. */
interface End {
  vertex: number;
  from: Vec3;
  outward: Vec3;
  normal: Vec3;
}

type State =
  | { name: 'idle' }
  /** an edge was clicked; the next click says where its quad ends */
  | { name: 'edgePicked'; edge: number; onImage: boolean }
  | { name: 'moving'; drag: Drag; vertex: number; from: Vec3; onImage: boolean; weldsTo: number | null }
  | {
      name: 'drawing';
      drag: Drag;
      edges: number[];
      ends: End[];
      grab: Vec3;
      outward: Vec3;
      row: boolean;
      onImage: boolean;
      made: ReadonlySet<number>;
      welds: Vec3[];
    };

/**
 * Draw out: drag a border edge for a new quad, a whole border (a second press, or Shift) for a row, a vertex to move it; or
 * click an edge, then where its quad shall end. Every drag is one step, previewed on the mesh itself.
 */
export class DrawOutTool implements Tool {
  readonly name = 'draw-out';
  private state: State = { name: 'idle' };
  private hovered: Hit | null = null;

  constructor(private readonly host: ToolHost) {}

  hint(): string {
    switch (this.state.name) {
      case 'edgePicked':
        return 'Click where the new quad shall end. Esc lets the edge go.';
      case 'moving':
        return this.state.weldsTo === null
          ? 'Let go to place the point. Esc puts it back.'
          : 'Let go to weld the two points.';
      case 'drawing':
        return `Let go to lay ${this.state.edges.length === 1 ? 'the quad' : `a row of ${this.state.edges.length}`}${this.state.welds.length > 0 ? ', welded where ringed' : ''}. Esc takes it back.`;
      default:
        return 'Drag a border edge: a quad. Press it twice, or hold Shift: the whole border; of picked edges: that run. Drag a point: move it. Or click an edge, then a point.';
    }
  }

  hover(hit: Hit | null): void {
    this.hovered = hit;
    this.host.tell(borderWords(this.host, hit));
    this.draw();
  }

  wantsDrag(hit: Hit): boolean {
    return hit.element?.kind === 'vertex' || (hit.element?.kind === 'edge' && this.isOpen(hit.element.id));
  }

  click(hit: Hit): void {
    const { session } = this.host;
    if (this.state.name === 'edgePicked' && hit.landing && hit.element?.kind !== 'edge')
      return this.drawTo(this.state, hit);
    if (hit.element?.kind !== 'edge') return void this.cancel();
    const { id, mirrored: onImage } = hit.element;
    if (!this.isOpen(id)) {
      session.say({ kind: 'refused', text: 'This edge has faces on both sides; only border edges can be drawn out.' });
      return;
    }
    this.state = { name: 'edgePicked', edge: id, onImage };
    session.select({ ...EMPTY_SELECTION, edges: [id] });
    this.draw();
  }

  dragStart(hit: Hit, press: Press): void {
    const { element } = hit;
    if (!element || element.kind === 'face') return;
    const { session } = this.host;
    const onImage = element.mirrored;
    if (element.kind === 'vertex') {
      this.state = {
        name: 'moving',
        drag: session.drag(),
        vertex: element.id,
        from: session.mesh.point(element.id),
        onImage,
        weldsTo: null,
      };
      return;
    }
    const picked = session.selection.edges.filter((e) => this.isOpen(e));
    const isRun = picked.length > 1 && picked.includes(element.id);
    const isWhole = press.second || press.shift;
    const row = isWhole || isRun;
    const edges = isWhole ? this.wholeBorder(element.id) : isRun ? picked : [element.id];
    const ends = this.endsOf(edges);
    const [a, b] = [2 * element.id, 2 * element.id + 1].map((h) => session.mesh.point(session.mesh.origin(h)));
    const { eye } = hit.view;
    const grab =
      onImage && session.plane
        ? grabOnEdge(mirrored(eye, session.plane), directionAcross(hit.direction, session.plane), a, b)
        : grabOnEdge(eye, hit.direction, a, b);
    const outward = outwardAt(session.mesh, [element.id], session.mesh.origin(2 * element.id));
    this.state = {
      name: 'drawing',
      drag: session.drag(),
      edges,
      ends,
      grab,
      outward,
      row,
      onImage,
      made: new Set(),
      welds: [],
    };
  }

  drag(hit: Hit): void {
    this.hovered = hit;
    if (this.state.name === 'moving') this.move(this.state, hit);
    else if (this.state.name === 'drawing') this.drawEdges(this.state, hit);
    this.draw();
  }

  dragEnd(): void {
    const { state } = this;
    this.state = { name: 'idle' };
    if (state.name === 'moving' || state.name === 'drawing') state.drag.commit();
    this.host.session.select(EMPTY_SELECTION);
    this.draw();
  }

  finish(): boolean {
    return false;
  }
  stepBack(): boolean {
    return false;
  }
  cancel(): boolean {
    const { state } = this;
    this.state = { name: 'idle' };
    if (state.name === 'moving' || state.name === 'drawing') state.drag.cancel();
    if (state.name === 'edgePicked') this.host.session.select(EMPTY_SELECTION);
    this.hovered = null;
    this.draw();
    return state.name !== 'idle';
  }

  // ---- moving a vertex --------------------------------------------------------------------------
  private move(state: State & { name: 'moving' }, hit: Hit): void {
    if (!hit.landing) return;
    const { plane, mesh } = this.host.session;
    const landed = state.onImage && plane ? mirrored(hit.landing.point, plane) : hit.landing.point;
    const to = keepSide(this.host, state.from, landed);
    const target = this.host.scene.picker.grid.vertexWithin(to, this.host.weldWithin(), new Set([state.vertex]));
    const leavesPlane =
      plane && isOnPlane(state.from, plane) && target !== null && !isOnPlane(mesh.point(target), plane);
    state.weldsTo = null;
    if (target !== null && !leavesPlane) {
      const done = state.drag.update(weld, EMPTY_SELECTION, { pairs: [[state.vertex, target]] });
      if (!(done instanceof TopologyError)) {
        state.weldsTo = target;
        return;
      }
    }
    state.drag.update(movePoints, EMPTY_SELECTION, { points: [{ vertex: state.vertex, to: [...to] }] });
  }

  // ---- drawing edges out ------------------------------------------------------------------------
  private drawEdges(state: State & { name: 'drawing' }, hit: Hit): void {
    const { session } = this.host;
    if (!hit.landing) return;
    const landed = session.plane && state.onImage ? mirrored(hit.landing.point, session.plane) : hit.landing.point;
    const shift = sub(landed, state.grab);
    const places = state.row ? this.rowPlaces(state, shift) : state.ends.map((end) => stick(this.host, add(end.from, shift), hit.view, state.onImage)); // prettier-ignore
    if (places.some((p) => p === null)) return;
    const except = new Set([...state.ends.map((e) => e.vertex), ...state.made]);
    const welds: Vec3[] = [];
    const ends = state.ends.map(({ vertex, from }, i) => {
      const to = keepSide(this.host, from, places[i] as Vec3);
      const near = this.host.scene.picker.grid.vertexWithin(to, this.host.weldWithin(), except);
      if (near !== null) welds.push(session.mesh.point(near));
      return { from: vertex, to: (near === null ? { point: [...to] } : { vertex: near }) as Corner };
    });
    const done = state.drag.update(drawOut, EMPTY_SELECTION, { edges: state.edges, ends });
    if (done instanceof TopologyError) {
      state.made = new Set();
      session.say({ kind: 'refused', text: done.message });
      return;
    }
    session.say(null);
    state.welds = welds.map((p) => seenPoint(this.host, p, state.onImage));
    state.made = this.madeBy(done.selection, ends);
  }

  /** New points of the preview itself, which nothing may weld to. */
  private madeBy({ edges }: Selection, ends: { to: Corner }[]): ReadonlySet<number> {
    const welded = new Set(ends.flatMap(({ to }) => ('vertex' in to ? [to.vertex] : [])));
    return new Set(uniqueEnds(this.host.session.mesh, edges).filter((v) => !welded.has(v)));
  }

  private rowPlaces({ ends, outward }: State & { name: 'drawing' }, shift: Vec3): (Vec3 | null)[] {
    const shape = this.host.settings(this.name) as unknown as RowShape;
    const { plane } = this.host.session;
    const isHalf = plane !== null && ends.some((e) => isOnPlane(e.from, plane));
    const places = rowPlaces(ends, dot(shift, outward), shape, isHalf ? plane : null);
    return places.map((p, i) => stickBySide(this.host, p, ends[i].normal));
  }

  /** The row under the drag follows the card. */
  settingsChanged(): void {
    if (this.state.name === 'drawing' && this.hovered) this.drawEdges(this.state, this.hovered);
  }

  private drawTo({ edge, onImage }: State & { name: 'edgePicked' }, hit: Hit): void {
    const { session } = this.host;
    const ends = this.endsOf([edge]);
    const target = storedPoint(this.host, (hit.landing as NonNullable<Hit['landing']>).point, onImage, null);
    const shift = sub(target, lerp(ends[0].from, ends[1].from, 0.5));
    const except = new Set(ends.map((e) => e.vertex));
    const to = ends.map(({ vertex, from }) => {
      const stuck = stick(this.host, add(from, shift), hit.view, onImage);
      const place = stuck && keepSide(this.host, from, stuck);
      const near = place && this.host.scene.picker.grid.vertexWithin(place, this.host.weldWithin(), except);
      return place && { from: vertex, to: (near === null ? { point: [...place] } : { vertex: near }) as Corner };
    });
    if (to.some((t) => t === null))
      return session.say({
        kind: 'refused',
        text: 'This view sees no surface for one end of the new edge; turn the view or click nearer.',
      });
    const done = session.run(drawOut, { edges: [edge], ends: to as { from: number; to: Corner }[] });
    const next = done?.selection.edges[0];
    this.state = next === undefined ? { name: 'idle' } : { name: 'edgePicked', edge: next, onImage };
    session.select(next === undefined ? EMPTY_SELECTION : { ...EMPTY_SELECTION, edges: [next] });
    this.draw();
  }

  private endsOf(edges: number[]): End[] {
    const { mesh } = this.host.session;
    const touching = (v: number): number[] => edges.filter((e) => mesh.origin(2 * e) === v || mesh.target(2 * e) === v);
    return uniqueEnds(mesh, edges).map((vertex) => ({
      vertex,
      from: mesh.point(vertex),
      outward: outwardAt(mesh, touching(vertex), vertex),
      normal: normalAt(this.host, vertex),
    }));
  }

  /** A border edge, not one that the midline closes. */
  private isOpen(e: number): boolean {
    const { mesh, plane } = this.host.session;
    return mesh.hasEdge(e) && (mesh.isBorderEdge(e) || mesh.isLooseEdge(e)) && !isMidlineEdge(mesh, e, plane);
  }

  private wholeBorder(e: number): number[] {
    const { mesh } = this.host.session;
    return [...new Set(borderWalk(mesh, openHalf(mesh, e)).halves.map((h) => h >> 1))].filter((b) => this.isOpen(b));
  }

  private draw(): void {
    const overlay: Overlay = { ...NO_OVERLAY, points: [], lines: [] };
    const { element } = this.hovered ?? {};
    if (this.state.name === 'drawing')
      overlay.points.push(
        ...this.state.welds.map((at) => ({ at, colour: MODEL_COLOURS.picked, size: 16, shape: 1 as const })),
      );
    else if (this.state.name === 'moving' && this.state.weldsTo !== null) {
      const at = seenPoint(this.host, this.host.session.mesh.point(this.state.weldsTo), this.state.onImage);
      overlay.points.push({ at, colour: MODEL_COLOURS.picked, size: 18, shape: 1 });
    } else if (element?.kind === 'vertex' && this.host.session.mesh.hasVertex(element.id)) {
      overlay.points.push({
        at: seenPoint(this.host, this.host.session.mesh.point(element.id), element.mirrored),
        colour: MODEL_COLOURS.pointed,
        size: 13,
        shape: 0,
      });
    } else if (element?.kind === 'edge' && this.isOpen(element.id)) overlay.pointedEdges = [element.id];
    const landing = this.hovered?.landing;
    if (landing && this.state.name !== 'idle') overlay.points.push(...weldRing(this.host, landing.point));
    this.host.draw(overlay);
  }
}
