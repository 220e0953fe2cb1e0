import { EMPTY_SELECTION } from '@half-loop/core/mesh';
import { brush } from '@half-loop/core/ops';
import { distance, mirrored, type Vec3 } from '@half-loop/core/math';
import type { Drag } from '../session';
import type { Hit } from '../viewport';
import { brushRing } from './placing';
import type { Press, Tool, ToolHost } from './Tool';

interface Dab {
  at: [number, number, number];
  near: number;
  pressure: number;
  from?: [number, number, number];
}

/** A dab falls when the pointer went this share of the radius. */
const SPACING = 0.3;

/** Brush: relax, push, smooth or even out under the pointer. `[` and `]` change its size, a pen's pressure its strength. */
export class BrushTool implements Tool {
  readonly name = 'brush';
  private stroke: { drag: Drag; dabs: Dab[] } | null = null;
  private hovered: Hit | null = null;

  constructor(private readonly host: ToolHost) {}

  hint(): string {
    return this.stroke
      ? 'Let go to keep it. Esc takes the stroke back.'
      : 'Drag over the low-poly. [ and ] change the size.';
  }
  hover(hit: Hit | null): void {
    this.hovered = hit;
    this.draw();
  }
  wantsDrag(hit: Hit): boolean {
    return this.dabAt(hit) !== null;
  }
  click(hit: Hit, press: Press): void {
    this.dragStart(hit, press);
    this.dragEnd();
  }
  dragStart(hit: Hit, press: Press): void {
    const dab = this.dabAt(hit);
    if (!dab || this.host.session.ground.locked) return;
    this.stroke = { drag: this.host.session.drag(), dabs: [] };
    this.dab({ ...dab, pressure: press.pressure ?? 1 });
  }
  drag(hit: Hit): void {
    this.hovered = hit;
    const dab = this.dabAt(hit);
    if (this.stroke && dab) {
      const last = this.stroke.dabs[this.stroke.dabs.length - 1];
      if (distance(last.at, dab.at) > this.radius * SPACING) {
        this.dab({ ...dab, pressure: hit.pressure ?? last.pressure, from: last.at });
      }
    }
    this.draw();
  }
  dragEnd(): void {
    this.stroke?.drag.commit();
    this.stroke = null;
    this.draw();
  }
  finish(): boolean {
    return false;
  }
  stepBack(): boolean {
    return false;
  }
  cancel(): boolean {
    const had = this.stroke !== null;
    this.stroke?.drag.cancel();
    this.stroke = null;
    this.draw();
    return had;
  }

  private get radius(): number {
    return this.host.settings(brush.name).radius as number;
  }

  /** One dab on top of those before it; the whole stroke is what the step holds. */
  private dab(dab: Dab): void {
    if (!this.stroke) return;
    const { drag, dabs } = this.stroke;
    dabs.push(dab);
    const settings = { ...this.host.settings(brush.name), radius: this.radius };
    drag.extend(brush, EMPTY_SELECTION, { ...settings, dabs: [dab] }, { ...settings, dabs: [...dabs] });
  }

  private dabAt(hit: Hit): Dab | null {
    const { session, scene } = this.host;
    const on = scene.picker.onLowPoly(hit);
    if (!on) return null;
    const p: Vec3 = on.mirrored && session.plane ? mirrored(on.point, session.plane) : on.point;
    const near = session.mesh.faceVertices(on.face).reduce((a, b) => (distance(session.mesh.point(b), p) < distance(session.mesh.point(a), p) ? b : a)); // prettier-ignore
    return { at: [...p] as [number, number, number], near, pressure: 1 };
  }

  /** The brush as a ring of its size round the pointer. */
  private draw(): void {
    this.host.draw(
      brushRing(this.host, this.hovered && this.host.scene.picker.onLowPoly(this.hovered)?.point, this.radius),
    );
  }
}
