import {
  addScaled,
  cross,
  directionAcross,
  distance,
  dot,
  mirrored,
  normalize,
  scale,
  sub,
  type Vec3,
} from '@half-loop/core/math';
import { edgeLoop, EMPTY_SELECTION, type PolyMesh, type Selection } from '@half-loop/core/mesh';
import { frameOfPicked, middleOfPicked, pickedVertices, transform, wholeParts } from '@half-loop/core/ops';
import { TopologyError } from '@half-loop/core/errors';
import { alsoPlaced } from '../session';
import { MODEL_COLOURS, NO_OVERLAY, type ElementHit, type Hit, type Overlay } from '../viewport';
import { caughtPlace, type Caught } from './catching';
import { DragTool, type OpenDrag } from './DragTool';
import { seenPoint } from './placing';
import { LIST_OF, oneElement } from './selecting';
import type { Press, Tool } from './Tool';

export interface PlaceSettings {
  /** what is picked, the part that hangs together under the pointer, the whole piece in hand, or all pieces that are shown */
  takes: 'picked' | 'part' | 'piece' | 'shown';
  drag: 'move' | 'turn' | 'scale';
  lock: 'none' | 'x' | 'y' | 'z' | 'not-x' | 'not-y' | 'not-z';
  axes: 'world' | 'view' | 'own';
  catching: boolean;
  gridStep: number;
  angleStep: number;
}

type Axes = readonly [Vec3, Vec3, Vec3];

interface Open extends OpenDrag {
  selection: Selection;
  grab: Vec3;
  middle: Vec3;
  onImage: boolean;
  /** pixels */
  start: { x: number; y: number };
  own: ReadonlySet<number>;
  caught: Caught | null;
  last: Hit;
  axes: Axes;
}

const WORLD: Axes = [[1, 0, 0], [0, 1, 0], [0, 0, 1]]; // prettier-ignore
const verticesIn = (mesh: PolyMesh, halves: readonly number[]): number[] => [...new Set(halves.flatMap((h) => [mesh.origin(h), mesh.target(h)]))]; // prettier-ignore

/** Place: moves, turns or scales what is picked, or what the drag begins on, with locks, catching and typed numbers. */
export class PlaceTool extends DragTool<Open> implements Tool {
  readonly name = 'transform';
  private hovered: ElementHit | null = null;
  /** what was pointed at with Alt: turning and scaling about a point go about this one */
  private pivot: Vec3 | null = null;

  hint(): string {
    const { drag } = this.asked();
    const unit = drag === 'move' ? 'a length' : drag === 'turn' ? 'degrees' : 'a percentage';
    if (this.open) return `Let go to leave it here. Type ${unit} for an exact one; Ctrl catches. Esc puts it back.`;
    return `Drag what is picked, or any element, to ${drag} it. Ctrl catches on steps, points and middles. Alt and a press sets the point to turn about; a second press takes the loop’s middle.`;
  }
  hover(hit: Hit | null): void {
    this.hovered = hit?.element ?? null;
    this.draw();
  }
  wantsDrag(hit: Hit): boolean {
    return hit.element !== null;
  }
  click(hit: Hit, { shift, alt, second }: Press): void {
    if (alt) return this.setPivot(hit, second);
    if (!hit.element) return;
    const { session } = this.host;
    const list = LIST_OF[hit.element.kind];
    const base = shift ? session.selection : EMPTY_SELECTION;
    session.select({ ...base, [list]: [...new Set([...base[list], hit.element.id])] });
  }
  dragStart(hit: Hit): void {
    const e = hit.element;
    if (!e) return;
    const { session } = this.host;
    const list = LIST_OF[e.kind];
    const part = session.selection[list].includes(e.id) || this.touchesPicked(e);
    const whole = { ...EMPTY_SELECTION, vertices: [...session.mesh.vertices()] };
    const { takes } = this.asked();
    const selection =
      takes === 'part' ? this.partAt(e) : takes !== 'picked' ? whole : part ? session.selection : oneElement(e);
    const picked = pickedVertices(session.mesh, selection);
    const grab = this.grabOf(hit, e);
    if (selection !== whole) session.select(selection);
    this.open = {
      drag: session.drag(),
      selection,
      grab,
      middle: this.centre(middleOfPicked(session.mesh, picked), grab),
      axes: this.axesNow(hit, selection),
      onImage: e.mirrored,
      start: { x: hit.x, y: hit.y },
      own: new Set(picked),
      typed: null,
      caught: null,
      last: hit,
    };
  }
  drag(hit: Hit): void {
    if (!this.open) return;
    this.open.last = hit;
    this.update();
  }

  /** The other pieces go along, where all that are shown are placed. */
  override dragEnd(): void {
    const { open } = this;
    const { session } = this.host;
    const asked = this.asked();
    const kept = open?.drag.commit();
    const params = session.latest?.params;
    if (open && kept && params && asked.takes === 'shown') {
      const about = { about: 'point', point: [...open.middle] };
      void alsoPlaced(session, transform, { ...params, ...about });
    }
    this.close();
  }

  private asked(): PlaceSettings {
    return this.host.settings('place') as unknown as PlaceSettings;
  }

  protected update(): void {
    const { open } = this;
    if (!open) return;
    const asked = this.asked();
    open.caught = null;
    const { params, words } =
      asked.drag === 'move'
        ? this.moved(open, asked)
        : asked.drag === 'turn'
          ? this.turnedBy(open, asked)
          : this.scaledBy(open, asked);
    const settings = {
      ...this.host.settings(transform.name),
      point: [...(this.pivot ?? open.grab)] as [number, number, number],
    };
    const done = open.drag.update(transform, open.selection, { ...settings, ...params });
    this.host.tell(done instanceof TopologyError ? done.message : words);
    this.draw();
  }

  private moved(open: Open, asked: PlaceSettings): { params: object; words: string } {
    const { plane } = this.host.session;
    const { view, direction } = open.last;
    const eye = open.onImage && plane ? mirrored(view.eye, plane) : view.eye,
      ray = open.onImage && plane ? directionAcross(direction, plane) : direction;
    const towards = normalize(sub(open.grab, eye));
    const along = dot(sub(open.grab, eye), towards) / Math.max(1e-6, dot(ray, towards));
    let by = this.locked(sub(addScaled(eye, ray, along), open.grab), asked);
    if (asked.catching || open.last.catching) {
      const caught = caughtPlace(this.host, addScaled(open.grab, by, 1), open.own, asked.gridStep);
      open.caught = caught;
      by = this.locked(sub(caught.at, open.grab), asked);
    }
    const length = distance(by, [0, 0, 0]);
    if (open.typed !== null) by = scale(length > 0 ? normalize(by) : this.lockAxis(asked), open.typed);
    const words = `${this.host.length(open.typed ?? length)}${open.caught ? `, on ${open.caught.what}` : ''}`;
    return { params: { move: [...by] }, words };
  }

  private turnedBy(open: Open, asked: PlaceSettings): { params: object; words: string } {
    const c = this.host.scene.picker.pixelOf(seenPoint(this.host, open.middle, open.onImage));
    const angle = (p: { x: number; y: number }): number => Math.atan2(c.y - p.y, p.x - c.x);
    let degrees = ((angle(open.last) - angle(open.start)) * 180) / Math.PI;
    degrees = ((degrees + 540) % 360) - 180;
    if (asked.catching || open.last.catching) degrees = Math.round(degrees / asked.angleStep) * asked.angleStep;
    if (open.typed !== null) degrees = open.typed;
    const axis = asked.lock === 'none' ? normalize(sub(open.last.view.eye, open.middle)) : this.lockAxis(asked);
    const sign =
      asked.lock !== 'none' && dot(axis, sub(open.last.view.eye, open.middle)) < 0 && open.typed === null ? -1 : 1;
    return { params: { turn: { axis: [...axis], degrees: sign * degrees } }, words: `${degrees.toFixed(1)}°` };
  }

  private scaledBy(open: Open, asked: PlaceSettings): { params: object; words: string } {
    const c = this.host.scene.picker.pixelOf(seenPoint(this.host, open.middle, open.onImage));
    const away = (p: { x: number; y: number }): number => Math.max(8, Math.hypot(p.x - c.x, p.y - c.y));
    let factor = away(open.last) / away(open.start);
    if (asked.catching || open.last.catching) factor = Math.max(0.1, Math.round(factor * 10) / 10);
    if (open.typed !== null) factor = open.typed / 100;
    const factors = ['x', 'y', 'z'].map((k) => {
      if (asked.lock === 'none') return factor;
      const inLock = asked.lock.startsWith('not-') ? asked.lock !== `not-${k}` : asked.lock === k;
      return inLock ? factor : 1;
    });
    return {
      params: { scale: factors, frame: [[...open.axes[0]], [...open.axes[1]]] },
      words: `${Math.round(factor * 100)} %`,
    };
  }

  /** What a drag turns and scales about, as the card asks. */
  private centre(middle: Vec3, grab: Vec3): Vec3 {
    const { about } = this.host.settings(transform.name);
    return about === 'point' ? (this.pivot ?? grab) : about === 'zero' ? [0, 0, 0] : middle;
  }

  /** Alt and a press: the pivot is what is pointed at; a second press on an edge takes the middle of its loop. */
  private setPivot({ element }: Hit, second: boolean): void {
    const { mesh } = this.host.session;
    if (!element) this.pivot = null;
    else if (element.kind === 'edge' && second)
      this.pivot = middleOfPicked(mesh, verticesIn(mesh, edgeLoop(mesh, 2 * element.id).halves));
    else this.pivot = middleOfPicked(mesh, pickedVertices(mesh, oneElement(element)));
    if (this.pivot) this.host.set(transform.name, 'about', 'point');
    this.draw();
  }

  private axesNow(hit: Hit, selection: Selection): Axes {
    const { axes } = this.asked();
    const { mesh } = this.host.session;
    if (axes === 'own') return frameOfPicked(mesh, selection) ?? WORLD;
    if (axes === 'world') return WORLD;
    const z = normalize(sub(hit.view.eye, middleOfPicked(mesh, pickedVertices(mesh, selection))));
    const x = normalize(cross(Math.abs(z[1]) > 0.99 ? [0, 0, 1] : [0, 1, 0], z));
    return [x, cross(z, x), z];
  }

  private lockAxis(asked: PlaceSettings): Vec3 {
    const k = ['x', 'y', 'z'].indexOf(asked.lock.replace('not-', ''));
    return (this.open?.axes ?? WORLD)[Math.max(0, k)];
  }

  private locked(by: Vec3, asked: PlaceSettings): Vec3 {
    if (asked.lock === 'none') return by;
    const axis = this.lockAxis(asked);
    const along = dot(by, axis);
    return asked.lock.startsWith('not-') ? addScaled(by, axis, -along) : scale(axis, along);
  }

  /** All that hangs together with an element. */
  private partAt(e: ElementHit): Selection {
    const { mesh } = this.host.session;
    const [first] = pickedVertices(mesh, oneElement(e));
    return { ...EMPTY_SELECTION, faces: wholeParts(mesh, mesh.vertexFaces(first)) };
  }

  private touchesPicked(e: ElementHit): boolean {
    const { mesh, selection } = this.host.session;
    const { vertices, edges, faces } = selection;
    if (vertices.length + edges.length + faces.length === 0) return false;
    const picked = new Set(pickedVertices(mesh, selection));
    const own = e.kind === 'vertex' ? [e.id] : e.kind === 'edge' ? [mesh.origin(2 * e.id), mesh.target(2 * e.id)] : mesh.faceVertices(e.id); // prettier-ignore
    return own.every((v) => picked.has(v));
  }

  private grabOf(hit: Hit, e: ElementHit): Vec3 {
    const { mesh, plane } = this.host.session;
    if (e.kind === 'vertex') return mesh.point(e.id);
    const at = addScaled(hit.view.eye, hit.direction, e.along);
    return e.mirrored && plane ? mirrored(at, plane) : at;
  }

  protected draw(): void {
    const overlay: Overlay = { ...NO_OVERLAY, points: [], lines: [] };
    const { mesh } = this.host.session;
    const e = this.hovered;
    if (this.pivot) overlay.points.push({ at: this.pivot, colour: MODEL_COLOURS.picked, size: 18, shape: 1 });
    if (this.open?.caught)
      overlay.points.push({
        at: seenPoint(this.host, this.open.caught.at, this.open.onImage),
        colour: MODEL_COLOURS.pointed,
        size: 16,
        shape: 1,
      });
    if (!this.open && e?.kind === 'vertex' && mesh.hasVertex(e.id))
      overlay.points.push({
        at: seenPoint(this.host, mesh.point(e.id), e.mirrored),
        colour: MODEL_COLOURS.pointed,
        size: 13,
        shape: 0,
      });
    if (!this.open && e?.kind === 'edge') overlay.pointedEdges = [e.id];
    if (!this.open && e?.kind === 'face') overlay.pointedFace = e.id;
    this.host.draw(overlay);
  }
}
