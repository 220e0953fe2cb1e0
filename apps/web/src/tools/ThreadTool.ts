import { distance, lerp, type Vec3 } from '@half-loop/core/math';
import { EMPTY_SELECTION, type PolyMesh } from '@half-loop/core/mesh';
import { layThread, threadTroubles, type Corner, type ThreadTroubles } from '@half-loop/core/ops';
import { MODEL_COLOURS, NO_OVERLAY, type Hit, type Overlay } from '../viewport';
import { isOnImage, placeCorner, seenPoint, storedPoint, storedSide, weldRing, type Placed } from './placing';
import { borderWords } from './borderCounts';
import { CellMarks } from './cellMarks';
import type { Press, Tool, ToolHost } from './Tool';

interface Chain {
  /** the vertex that the next point is joined to */
  last: number;
  first: number;
  onImage: boolean;
  side: number | null;
  steps: number;
}

/** Of the weld distance, how near threads nearly meet. */
export const NEARLY = 1.5;
/** Points of a stroke lie this many pixels apart. */
const STEP_PX = 36;

/**
 * Thread: clicks or a stroke lay chains of edges without faces, joined to points that are near; cells that they make are closed all at once
 * when the drawing is done. Every click is one step.
 */
export class ThreadTool implements Tool {
  readonly name = 'thread';
  private chain: Chain | null = null;
  private stroke: { points: Placed[]; onImage: boolean } | null = null;
  private hovered: Placed | null = null;
  private gaps: { position: number; mesh: PolyMesh; found: ThreadTroubles } | null = null;

  private readonly marks: CellMarks;

  constructor(private readonly host: ToolHost) {
    this.marks = new CellMarks(host);
  }

  hint(): string {
    if (!this.chain) return 'Click points, or drag a line: a chain of edges. Near points it joins them. Alt and a press in a cell: it stays open, or closes.'; // prettier-ignore
    return 'Click the next point; on a point that is there it joins. Enter ends the thread, Backspace takes the last point back.';
  }
  hover(hit: Hit | null): void {
    this.hovered = hit ? this.place(hit) : null;
    // with the edge that the next click lays
    const n = this.chain?.steps ?? 0;
    const edges = `${n} ${n === 1 ? 'edge' : 'edges'}, ${n % 2 === 0 ? 'even' : 'odd'}`;
    this.host.tell(n > 0 ? edges : (borderWords(this.host, hit) ?? this.marks.words(hit)));
    this.draw();
  }
  wantsDrag(hit: Hit): boolean {
    return hit.landing !== null;
  }
  settingsChanged(): void {
    this.draw();
  }
  click(hit: Hit, press: Press): void {
    if (press.alt && this.marks.flip(hit)) return;
    const placed = this.place(hit);
    if (!placed) return;
    const { session } = this.host;
    const { chain } = this;
    const corners: Corner[] = chain && session.mesh.hasVertex(chain.last) ? [{ vertex: chain.last }, placed.corner] : [placed.corner]; // prettier-ignore
    const done = session.run(layThread, { corners }, EMPTY_SELECTION);
    const [vertex] = done?.selection.vertices ?? [];
    if (vertex === undefined) return;
    // a thread that comes back to its own start, or to another, ends there
    const isEnd = chain !== null && 'vertex' in placed.corner;
    this.chain = isEnd ? null : { last: vertex, first: chain?.first ?? vertex, onImage: chain?.onImage ?? isOnImage(this.host, hit), side: chain?.side ?? storedSide(this.host), steps: (chain?.steps ?? 0) + 1 }; // prettier-ignore
    this.draw();
  }
  dragStart(hit: Hit): void {
    const onImage = isOnImage(this.host, hit);
    this.stroke = { points: [], onImage };
    this.addTo(hit);
  }
  drag(hit: Hit): void {
    this.addTo(hit);
    this.draw();
  }
  dragEnd(): void {
    const points = this.stroke?.points ?? [];
    this.stroke = null;
    if (points.length > 1) this.host.session.run(layThread, { corners: points.map((p) => p.corner) }, EMPTY_SELECTION);
    this.chain = null;
    this.draw();
  }
  finish(): boolean {
    const had = this.chain !== null;
    this.chain = null;
    this.draw();
    return had;
  }
  cancel(): boolean {
    this.stroke = null;
    return this.finish();
  }
  stepBack(): boolean {
    if (!this.chain) return false;
    const { mesh } = this.host.session;
    const before = this.chain.steps > 1 ? mesh.vertexHalves(this.chain.last).map((h) => mesh.target(h))[0] : undefined;
    void this.host.session.undo();
    this.chain = before === undefined ? null : { ...this.chain, last: before, steps: this.chain.steps - 1 };
    this.draw();
    return true;
  }

  private addTo(hit: Hit): void {
    const { stroke } = this;
    const { picker, camera } = this.host.scene;
    if (!stroke || !hit.landing) return;
    const last = stroke.points[stroke.points.length - 1] as Placed | undefined;
    const step = camera.pixelSize(picker.pixelOf(hit.landing.point).along) * STEP_PX;
    const placed = placeCorner(this.host, hit, stroke.onImage, storedSide(this.host), new Set());
    if (!placed || (last && distance(placed.seen, last.seen) < step)) return;
    stroke.points.push(placed);
  }
  private place(hit: Hit): Placed | null {
    const onImage = this.chain?.onImage ?? isOnImage(this.host, hit);
    const side = this.chain?.side ?? storedSide(this.host);
    const placed = placeCorner(this.host, hit, onImage, side, new Set(this.chain ? [this.chain.last] : []));
    if (placed || !hit.landing) return placed;
    const stored: Vec3 = storedPoint(this.host, hit.landing.point, onImage, side);
    return { corner: { point: [...stored] }, stored, seen: seenPoint(this.host, stored, onImage) };
  }

  /** Where threads nearly meet, a short line; where they cross without a point, a ring. */
  private drawGaps({ lines, points }: Overlay): void {
    const { session } = this.host;
    const position = session.steps.position;
    if (this.gaps?.position !== position || this.gaps.mesh !== session.mesh)
      this.gaps = {
        position,
        mesh: session.mesh,
        found: threadTroubles(session.mesh, NEARLY * this.host.weldWithin()),
      };
    const { nearPoints, nearEdges, crossings } = this.gaps.found;
    const at = (v: number): Vec3 => session.mesh.point(v);
    const gap = (a: Vec3, b: Vec3): void => void lines.push({ a, b, colour: MODEL_COLOURS.back, width: 2.5 });
    for (const { end, point } of nearPoints) gap(at(end), at(point));
    for (const { end, edge, along } of nearEdges)
      gap(at(end), lerp(at(session.mesh.origin(2 * edge)), at(session.mesh.target(2 * edge)), along));
    for (const c of crossings) points.push({ at: c.at, colour: MODEL_COLOURS.back, size: 16, shape: 1 });
  }

  private draw(): void {
    const overlay: Overlay = { ...NO_OVERLAY, points: [], lines: [] };
    const { chain, stroke, hovered } = this;
    const { mesh } = this.host.session;
    this.drawGaps(overlay);
    this.marks.draw(overlay);
    if (stroke) overlay.lines = stroke.points.slice(1).map((p, i) => ({ a: stroke.points[i].seen, b: p.seen, colour: MODEL_COLOURS.pointed, width: 2.5 })); // prettier-ignore
    if (hovered && !stroke) {
      overlay.points.push({ at: hovered.seen, colour: MODEL_COLOURS.pointed, size: 'vertex' in hovered.corner ? 14 : 9, shape: 0 }, ...weldRing(this.host, hovered.seen)); // prettier-ignore
      if (chain && mesh.hasVertex(chain.last)) overlay.lines.push({ a: seenPoint(this.host, mesh.point(chain.last), chain.onImage), b: hovered.seen, colour: MODEL_COLOURS.pointed, width: 2 }); // prettier-ignore
    }
    this.host.draw(overlay);
  }
}
