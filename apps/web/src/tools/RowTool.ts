import { TopologyError } from '@half-loop/core/errors';
import { addScaled, cross, directionAcross, distance, lerp, normalize, type Vec3 } from '@half-loop/core/math';
import { chainsOf, EMPTY_SELECTION } from '@half-loop/core/mesh';
import { edgeLength, layRing, layRow, middleOfPicked, openHalf, verticesOf } from '@half-loop/core/ops';
import type { Drag } from '../session';
import { MODEL_COLOURS, NO_OVERLAY, type Hit, type Overlay } from '../viewport';
import { isOnImage, seenPoint, storedPoint, storedSide } from './placing';
import { borderWords } from './borderCounts';
import type { Tool, ToolHost } from './Tool';

interface Stroke {
  /** on what points stick to, as stored; only where the pointer was over it */
  points: Vec3[];
  facing: Vec3;
  /** where it began and where it is now: over the surface or beside it */
  first: Hit;
  last: Hit;
  /** the pixel of its last point */
  at: { x: number; y: number };
  onImage: boolean;
  side: number | null;
  /** it left the fold that it was drawn on: what came after is not taken */
  stopped: boolean;
  /** border edges that it was begun on, in a run */
  from: number[];
}

interface RingParams {
  normal: [number, number, number];
  repeat: number;
}
/** The ring laid last while it is dragged along the limb. */
interface Repeating {
  drag: Drag;
  params: RingParams;
  start: { x: number; y: number };
  /** one step along the limb, pixels */
  along: { x: number; y: number };
}

/** Points of a stroke lie this many pixels apart. */
const STEP_PX = 5;
/** A point this many times further off than the pointer went lies on another fold. */
const FOLD = 6;
/** A stroke may begin this far beside the model. */
const BESIDE_PX = 110;
/** A stroke that comes back this near to its start closes. */
const CLOSE_PX = 16;

/**
 * Row: a stroke over the surface lays quads along it; begun on a border edge it goes on from there. A stroke that runs off both sides of a
 * limb lays a ring round it. Adjusted on the card until the next stroke.
 */
export class RowTool implements Tool {
  readonly name = 'row';
  private stroke: Stroke | null = null;
  private repeating: Repeating | null = null;
  private hovered: Hit | null = null;

  constructor(private readonly host: ToolHost) {}

  hint(): string {
    if (!this.stroke)
      return 'Drag over the surface: a row of quads. Drag right across a limb, from beside it to beside it: a ring round it, which a drag along the limb repeats.';
    return this.isRing(this.stroke) ? 'Let go beside the limb to lay a ring round it.' : 'Let go to lay the row. Esc drops it.'; // prettier-ignore
  }
  hover(hit: Hit | null): void {
    this.hovered = hit;
    this.host.tell(borderWords(this.host, hit));
    this.draw();
  }
  wantsDrag(hit: Hit): boolean {
    return hit.landing !== null || this.isBeside(hit);
  }
  click(): void {}
  dragStart(hit: Hit): void {
    this.repeating = this.beginRepeat(hit);
    if (this.repeating) return;
    const onImage = isOnImage(this.host, hit);
    this.stroke = {
      points: [],
      facing: hit.landing?.normal ?? [0, 0, 1],
      first: hit,
      last: hit,
      at: { x: hit.x, y: hit.y },
      onImage,
      side: storedSide(this.host),
      stopped: false,
      from: this.runUnder(hit),
    };
    const { mesh } = this.host.session;
    const { from } = this.stroke;
    if (from.length > 0)
      this.stroke.points.push(
        middleOf(from.map((e) => [mesh.point(mesh.origin(2 * e)), mesh.point(mesh.target(2 * e))])),
      );
    else this.add(hit);
  }
  drag(hit: Hit): void {
    if (this.repeating) return this.repeat(this.repeating, hit);
    if (!this.stroke) return;
    this.stroke.last = hit;
    this.add(hit);
    this.host.tell(this.words());
    this.draw();
  }
  dragEnd(): void {
    this.repeating?.drag.commit();
    this.repeating = null;
    const { stroke } = this;
    this.stroke = null;
    this.host.tell(null);
    if (stroke && stroke.points.length > 0) {
      if (this.isRing(stroke)) this.layRing(stroke);
      else this.layRow(stroke);
    }
    this.draw();
  }
  finish(): boolean {
    return false;
  }
  stepBack(): boolean {
    return false;
  }
  cancel(): boolean {
    const had = this.stroke !== null || this.repeating !== null;
    this.repeating?.drag.cancel();
    this.repeating = null;
    this.stroke = null;
    this.host.tell(null);
    this.draw();
    return had;
  }

  /** A drag that begins on the ring laid last repeats it along the limb. */
  private beginRepeat({ element, x, y }: Hit): Repeating | null {
    const { session } = this.host;
    const { latest, mesh, selection } = session;
    if (latest?.op.name !== layRing.name || element?.kind !== 'edge' || !selection.edges.includes(element.id))
      return null;
    const params = { repeat: 1, ...latest.params } as RingParams;
    const step = latest.report.counts.step;
    const at = mesh.point(mesh.origin(2 * element.id));
    const [from, to] = [at, addScaled(at, normalize(params.normal), step)].map((p) =>
      this.host.scene.picker.pixelOf(seenPoint(this.host, p, element.mirrored)),
    );
    const drag = session.reopen();
    return drag && { drag, params, start: { x, y }, along: { x: to.x - from.x, y: to.y - from.y } };
  }
  private repeat({ drag, params, start, along }: Repeating, hit: Hit): void {
    const l2 = along.x ** 2 + along.y ** 2;
    const steps = l2 > 1 ? ((hit.x - start.x) * along.x + (hit.y - start.y) * along.y) / l2 : 0;
    // the other way along the limb its plane faces the other way
    const normal = params.normal.map((c) => (steps < 0 ? -c : c)) as [number, number, number];
    const values = { ...params, normal, repeat: params.repeat + Math.min(100, Math.round(Math.abs(steps))) };
    const done = drag.update(layRing, EMPTY_SELECTION, values as never);
    this.host.remember(layRing.name, { repeat: values.repeat });
    this.host.tell(done instanceof TopologyError ? done.message : done.report.sentence);
  }

  /** A stroke that is off the surface at both ends and was on it between; the card can fix it either way. */
  private isRing({ first, last, points, from, stopped }: Stroke): boolean {
    const { shape } = this.host.settings('row');
    if (shape === 'row' || shape === 'ring') return shape === 'ring';
    return from.length === 0 && points.length > 0 && !first.landing && (!last.landing || stopped);
  }
  private isClosed({ first, last, points }: Stroke): boolean {
    return points.length > 12 && Math.hypot(last.x - first.x, last.y - first.y) < CLOSE_PX;
  }

  private add(hit: Hit): void {
    const { stroke } = this;
    if (!stroke) return;
    if (!hit.landing) return;
    const p = storedPoint(this.host, hit.landing.point, stroke.onImage, stroke.side);
    const last = stroke.points[stroke.points.length - 1] as Vec3 | undefined;
    const { picker, camera } = this.host.scene;
    const step = camera.pixelSize(picker.pixelOf(seenPoint(this.host, p, stroke.onImage)).along) * STEP_PX;
    if (!last) stroke.facing = hit.landing.normal;
    const pixels = Math.hypot(hit.x - stroke.at.x, hit.y - stroke.at.y);
    // a surface that lies much further off than the pointer went is another fold
    stroke.stopped = last !== undefined && distance(p, last) > FOLD * Math.max(step, (pixels * step) / STEP_PX);
    if (stroke.stopped) return;
    stroke.at = { x: hit.x, y: hit.y };
    if (!last || distance(p, last) >= step) stroke.points.push(p);
  }

  private layRow(stroke: Stroke): void {
    const { session } = this.host;
    const { plane, mesh } = session;
    const facing = stroke.onImage && plane ? directionAcross(stroke.facing, plane) : stroke.facing;
    const run = stroke.from.length;
    const asked = this.host.settings(layRow.name);
    const picked = verticesOf(mesh, session.selection);
    const centre =
      asked.spokes === 'centre' && picked.size > 0 ? { centre: asTuple(middleOfPicked(mesh, [...picked])) } : {};
    const settings = { ...asked, ...centre, length: asked.length ?? session.settings.quadLength };
    const own =
      run > 0
        ? {
            across: run,
            start: chainsOf(mesh, stroke.from)[0].vertices,
            width: stroke.from.reduce((sum, e) => sum + edgeLength(mesh, e), 0),
          }
        : {};
    const end = this.endOf(stroke);
    const e = stroke.last.element?.id ?? 0;
    const ends = end.length > 0 ? { end: [mesh.origin(2 * e), mesh.target(2 * e)] } : {};
    session.run(
      layRow,
      {
        ...settings,
        ...own,
        ...ends,
        stroke: [...stroke.points, ...end].map(asTuple),
        closed: this.isClosed(stroke),
        facing: asTuple(facing),
      } as never,
      EMPTY_SELECTION,
    );
  }
  /** A stroke that ends on a border edge ends in its middle. */
  private endOf({ last, points }: Stroke): Vec3[] {
    const { mesh } = this.host.session;
    const e = last.element;
    if (e?.kind !== 'edge' || !mesh.isBorderEdge(e.id) || points.length < 3) return [];
    return [lerp(mesh.point(mesh.origin(2 * e.id)), mesh.point(mesh.target(2 * e.id)), 0.5)];
  }

  private layRing(stroke: Stroke): void {
    const { session } = this.host;
    const { plane } = session;
    // the plane that the eye sees as the stroke's own line
    const seen = normalize(cross(stroke.first.direction, stroke.last.direction));
    const normal = stroke.onImage && plane ? directionAcross(seen, plane) : seen;
    const at = stroke.points[Math.floor(stroke.points.length / 2)];
    session.run(layRing, { ...this.host.settings(layRing.name), at: asTuple(at), normal: asTuple(normal) } as never, EMPTY_SELECTION); // prettier-ignore
  }

  /** The run of border edges that a stroke begins on: the picked ones that hang together with the one under the pointer, or that one. */
  private runUnder({ element }: Hit): number[] {
    const { mesh, selection } = this.host.session;
    if (element?.kind !== 'edge' || !mesh.hasEdge(element.id) || !mesh.isBorderEdge(element.id)) return [];
    const open = selection.edges.filter((e) => mesh.hasEdge(e) && mesh.isBorderEdge(e));
    if (!open.includes(element.id)) return [openHalf(mesh, element.id) >> 1];
    return chainsOf(mesh, open).find(({ halves }) => halves.some((h) => h >> 1 === element.id))?.halves.map((h) => h >> 1) ?? []; // prettier-ignore
  }

  /** Whether the surface lies within reach of a press on the background. */
  private isBeside({ x, y }: Hit): boolean {
    const { picker } = this.host.scene;
    if (!picker.stickSurface()) return false;
    return Array.from({ length: 8 }, (_, k) => (k * Math.PI) / 4).some((a) =>
      [0.5, 1].some(
        (r) => picker.hit(x + r * BESIDE_PX * Math.cos(a), y + r * BESIDE_PX * Math.sin(a)).landing !== null,
      ),
    );
  }

  private words(): string | null {
    const { stroke } = this;
    if (!stroke || stroke.points.length < 2) return null;
    if (this.isRing(stroke)) return 'a ring';
    if (stroke.stopped) return 'stops at a fold: the surface goes on further off';
    const length = stroke.points.reduce((sum, p, i) => sum + (i > 0 ? distance(p, stroke.points[i - 1]) : 0), 0);
    return `${this.host.length(length)}${this.isClosed(stroke) ? ', closes' : ''}`;
  }

  private draw(): void {
    const overlay: Overlay = { ...NO_OVERLAY, points: [], lines: [] };
    const { stroke } = this;
    if (stroke) {
      const seen = stroke.points.map((p) => seenPoint(this.host, p, stroke.onImage));
      overlay.lines = seen.slice(1).map((b, i) => ({ a: seen[i], b, colour: MODEL_COLOURS.pointed, width: 3 }));
      overlay.pointedEdges = stroke.from;
      if (stroke.stopped)
        overlay.points.push({ at: seen[seen.length - 1], colour: MODEL_COLOURS.back, size: 14, shape: 1 });
    } else if (this.hovered) overlay.pointedEdges = this.runUnder(this.hovered);
    this.host.draw(overlay);
  }
}

const asTuple = ([x, y, z]: Vec3): [number, number, number] => [x, y, z];
function middleOf(edges: readonly (readonly [Vec3, Vec3])[]): Vec3 {
  const all = edges.flat();
  return [0, 1, 2].map((k) => all.reduce((s, p) => s + p[k], 0) / all.length) as unknown as Vec3;
}
