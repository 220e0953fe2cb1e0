import { cross, directionAcross, distance, type Vec3 } from '@half-loop/core/math';
import { EMPTY_SELECTION } from '@half-loop/core/mesh';
import { ringOpening } from '@half-loop/core/ops';
import { TopologyError } from '@half-loop/core/errors';
import { MODEL_COLOURS, NO_OVERLAY, type Hit, type Overlay } from '../viewport';
import { DragTool, type OpenDrag } from './DragTool';
import { isOnImage, seenPoint, storedPoint, storedSide } from './placing';
import type { Tool } from './Tool';

interface Open extends OpenDrag {
  at: Vec3;
  facing: Vec3;
  /** where the pointer is on the surface, as stored */
  to: Vec3;
  onImage: boolean;
}

/** Ring an opening: a drag from the middle of an eye, mouth or hole out to its rim lays rings of quads round it. */
export class RingTool extends DragTool<Open> implements Tool {
  readonly name = 'ring-opening';
  private hovered: Hit | null = null;

  hint(): string {
    if (this.open) return 'Let go at the rim of the opening. Type a radius for an exact one. Esc drops it.';
    return 'Drag from the middle of an opening out to its rim. The settings change it afterwards.';
  }
  hover(hit: Hit | null): void {
    this.hovered = hit;
    this.draw();
  }
  wantsDrag(hit: Hit): boolean {
    return hit.landing !== null;
  }
  click(): void {}
  dragStart(hit: Hit): void {
    if (!hit.landing) return;
    const { session } = this.host;
    const onImage = isOnImage(this.host, hit);
    const at = storedPoint(this.host, hit.landing.point, onImage, storedSide(this.host));
    const facing = onImage && session.plane ? directionAcross(hit.landing.normal, session.plane) : hit.landing.normal;
    this.open = { drag: session.drag(), typed: null, at, facing, to: at, onImage };
  }
  drag(hit: Hit): void {
    if (!this.open || !hit.landing) return;
    this.open.to = storedPoint(this.host, hit.landing.point, this.open.onImage, null);
    this.update();
  }

  protected update(): void {
    const { open } = this;
    if (!open) return;
    const radius = open.typed ?? distance(open.at, open.to);
    if (!(radius > 0)) return;
    const tuple = ([x, y, z]: Vec3): [number, number, number] => [x, y, z];
    const along = this.host.scene.camera.right;
    const settings = { ...this.host.settings(ringOpening.name), radius, at: tuple(open.at), facing: tuple(open.facing), along: tuple(cross(cross(open.facing, along), open.facing)) }; // prettier-ignore
    const done = open.drag.update(ringOpening, EMPTY_SELECTION, settings as never);
    this.host.tell(done instanceof TopologyError ? done.message : this.host.length(radius));
    this.draw();
  }
  protected draw(): void {
    const overlay: Overlay = { ...NO_OVERLAY, points: [], lines: [] };
    const at = this.open ? seenPoint(this.host, this.open.at, this.open.onImage) : this.hovered?.landing?.point;
    if (at) overlay.points.push({ at, colour: MODEL_COLOURS.pointed, size: 11, shape: 1 });
    this.host.draw(overlay);
  }
}
