import { mirrored, type Vec3 } from '@half-loop/core/math';
import { EMPTY_SELECTION, type Selection } from '@half-loop/core/mesh';
import { DepthMap } from '@half-loop/core/pick';
import { insideOutline, pickedKind, type Kind } from '@half-loop/core/select';
import { NO_OVERLAY, type Hit } from '../viewport';
import { mergedSelection } from './selecting';
import type { Press, Tool, ToolHost } from './Tool';

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
    const { plane } = this.host.session;
    const flat = Float32Array.from(outline.flatMap(({ x, y }) => [x, y]));
    const own = this.insideOf(flat, (p) => p);
    return plane
      ? mergedSelection(
          own,
          this.insideOf(flat, (p) => mirrored(p, plane)),
        )
      : own;
  }

  private insideOf(outline: Float32Array, seenAs: (p: Vec3) => Vec3): Selection {
    const { session, scene, view } = this.host;
    const { mesh } = session;
    const { wholly, through } = view.now.lasso;
    if (mesh.vertexCount === 0) return EMPTY_SELECTION;
    const pixels = new Float32Array(2 * mesh.vertexRows).fill(NaN),
      seen = new Float32Array(3 * mesh.vertexRows).fill(NaN);
    for (const v of mesh.vertices()) {
      const { x, y, along } = scene.picker.pixelOf(seenAs(mesh.point(v)));
      if (along > 0) pixels.set([x, y], 2 * v);
      seen.set([x, y, along], 3 * v);
    }
    const map = through || view.throughNow ? null : new DepthMap(mesh, seen, scene.camera.width, scene.camera.height);
    return insideOutline(mesh, pixels, outline, { kind: this.kind, wholly, isSeen: map && ((v) => map.isSeen(v)) });
  }
}
