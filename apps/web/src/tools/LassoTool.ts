import { EMPTY_SELECTION, NONE, type Selection } from '@half-loop/core/mesh';
import { DepthMap } from '@half-loop/core/pick';
import { insideOutline, pickedKind, type Kind } from '@half-loop/core/select';
import { allHidden, NO_OVERLAY, SCULPT_LIFT, type Hit } from '../viewport';
import { mergedSelection } from './selecting';
import type { Press, Tool, ToolHost } from './Tool';

type Sight = (seen: Float32Array, vertex: number) => boolean;
/** Of its distance, what may lie before a vertex without hiding it: its own faces do. */
const NEAR_ENOUGH = 0.002;

/** Lasso: a box or a free outline drawn over the model picks what lies in it. Shift adds to what is picked. */
export class LassoTool implements Tool {
  readonly name = 'lasso';
  private outline: { x: number; y: number }[] | null = null;
  private adds = false;

  constructor(private readonly host: ToolHost) {}

  hint(): string {
    const { wholly, through, shape } = this.host.view.now.lasso;
    const what = wholly ? 'what lies wholly inside' : 'all that it touches';
    return `Drag a ${shape === 'box' ? 'box' : 'line round'}: picks ${what}, ${through ? 'hidden or not' : 'as far as it is seen'}. Shift adds.`;
  }
  hover(): void {
    this.host.draw(NO_OVERLAY);
  }
  wantsDrag(): boolean {
    return true;
  }
  click(): void {}
  dragStart(hit: Hit, { shift }: Press): void {
    this.outline = [{ x: hit.x, y: hit.y }];
    this.adds = shift;
  }
  drag(hit: Hit): void {
    if (!this.outline) return;
    if (this.host.view.now.lasso.shape === 'box') {
      const [a] = this.outline;
      this.outline = [a, { x: hit.x, y: a.y }, { x: hit.x, y: hit.y }, { x: a.x, y: hit.y }];
    } else this.outline.push({ x: hit.x, y: hit.y });
    this.host.outline(this.outline);
  }
  dragEnd(): void {
    const { session, view } = this.host;
    if (this.outline && this.outline.length > 2 && !view.now.selectionLocked) {
      const found = this.inside(this.outline);
      session.select(this.adds ? mergedSelection(session.selection, found) : found);
    }
    this.cancel();
  }
  finish(): boolean {
    return false;
  }
  stepBack(): boolean {
    return false;
  }
  cancel(): boolean {
    const had = this.outline !== null;
    this.outline = null;
    this.host.outline(null);
    return had;
  }

  private get kind(): Kind {
    const { kind } = this.host.view.now;
    return kind === 'any' ? pickedKind(this.host.session.selection) : kind;
  }

  /** On both halves when symmetry is on: what is picked on the image is picked on the half that is stored. */
  private inside(outline: readonly { x: number; y: number }[]): Selection {
    const { plane, mesh } = this.host.session;
    const { picker } = this.host.scene;
    if (mesh.vertexCount === 0) return EMPTY_SELECTION;
    const flat = Float32Array.from(outline.flatMap(({ x, y }) => [x, y]));
    const halves = (plane ? [null, plane] : [null]).map((across) => picker.seenAll(mesh.position.data, across));
    const isSeen = this.sight(halves);
    const taken = halves.map((seen) => this.insideOf(flat, seen, isSeen));
    return this.shown(taken.reduce(mergedSelection));
  }

  /** Without what is hidden with its region. */
  private shown({ vertices, edges, faces }: Selection): Selection {
    const { mesh } = this.host.session;
    const { hiddenRegions: hidden } = this.host.view.now;
    const sides = (e: number): number[] => [mesh.face(2 * e), mesh.face(2 * e + 1)].filter((f) => f !== NONE);
    return {
      vertices: vertices.filter((v) => !allHidden(mesh, mesh.vertexFaces(v), hidden)),
      edges: edges.filter((e) => !allHidden(mesh, sides(e), hidden)),
      faces: faces.filter((f) => !allHidden(mesh, [f], hidden)),
    };
  }

  private insideOf(outline: Float32Array, seen: Float32Array, isSeen: Sight | null): Selection {
    const { mesh } = this.host.session;
    const pixels = new Float32Array(2 * mesh.vertexRows).fill(NaN);
    for (let v = 0; v < mesh.vertexRows; v++)
      if (seen[3 * v + 2] > 0) pixels.set(seen.subarray(3 * v, 3 * v + 2), 2 * v);
    const { wholly } = this.host.view.now.lasso;
    return insideOutline(mesh, pixels, outline, { kind: this.kind, wholly, isSeen: isSeen && ((v) => isSeen(seen, v)) }); // prettier-ignore
  }

  /** Whether a place is hidden by either half of the low-poly, or by the sculpt while that is shown; null: all counts. */
  private sight(halves: readonly Float32Array[]): Sight | null {
    const { session, scene, view } = this.host;
    if (view.now.lasso.through || view.throughNow) return null;
    const { width, height } = scene.camera;
    const own = new DepthMap(width, height);
    for (const seen of halves) own.addMesh(session.mesh, seen);
    const { surface } = session;
    if (!surface || !session.settings.sculpt.visible)
      return (seen, v) => own.isSeen(seen[3 * v], seen[3 * v + 1], seen[3 * v + 2], seen[3 * v + 2] * NEAR_ENOUGH);
    const sculpt = new DepthMap(width, height);
    sculpt.addTriangles(scene.picker.seenAll(surface.positions, null), surface.indices);
    const lift = surface.diagonal * SCULPT_LIFT;
    return (seen, v) => {
      const [x, y, along] = seen.subarray(3 * v, 3 * v + 3);
      return own.isSeen(x, y, along, along * NEAR_ENOUGH) && sculpt.isSeen(x, y, along, lift);
    };
  }
}
