import type { Region } from '@half-loop/contract';
import { distance, mirrored, type Vec3 } from '@half-loop/core/math';
import { DepthMap } from '@half-loop/core/pick';
import { Outline } from '@half-loop/core/select';
import { NO_OVERLAY, SCULPT_LIFT, type Hit } from '../viewport';
import { newRegion } from '../session';
import { brushRing } from './placing';
import type { Press, Tool, ToolHost } from './Tool';

/** What a drag or a click does to the region in hand. */
export type RegionDoes = 'paint' | 'lasso' | 'angle' | 'part';

/** What the card is set to. */
export interface RegionSettings {
  /** the region in hand, by its number; null: a new one */
  region: number | null;
  does: RegionDoes;
  /** what is marked goes out of the region instead */
  takesAway: boolean;
  radius: number;
  /** degrees */
  angle: number;
  against: 'start' | 'neighbour';
}

/** A stroke is dabbed at places this share of the radius apart. */
const SPACING = 0.4;
/** Between two moves of the pointer, at most so many dabs. */
const MOST_DABS = 24;

/** Region: painted, drawn round or filled on the sculpt. */
export class RegionTool implements Tool {
  readonly name = 'region';
  private stroke: { vertices: Set<number>; last: Hit; takesAway: boolean } | null = null;
  private outline: { x: number; y: number }[] | null = null;
  private adds = true;
  private hovered: Hit | null = null;

  constructor(private readonly host: ToolHost) {}

  private get settings(): RegionSettings {
    return this.host.settings(this.name) as unknown as RegionSettings;
  }

  hint(): string {
    if (!this.host.session.surface) return 'Regions are painted on a sculpt, and there is none here.';
    if (this.stroke || this.outline) return 'Let go to keep it. Esc drops it.';
    const verb = this.settings.takesAway ? 'take away' : 'mark';
    return {
      paint: `Drag over the sculpt to ${verb}. Alt does the opposite.`,
      lasso: `Drag a line round what to ${verb}, as far as it is seen. Alt does the opposite.`,
      angle: `Click where to begin: the sculpt is filled until it bends away. Alt takes away.`,
      part: `Click a part to ${verb} all that hangs together. Alt does the opposite.`,
    }[this.settings.does];
  }
  hover(hit: Hit | null): void {
    this.hovered = hit;
    this.draw();
  }
  wantsDrag(hit: Hit): boolean {
    const { does } = this.settings;
    if (!this.host.session.surface) return false;
    return does === 'lasso' || (does === 'paint' && this.host.scene.picker.onSculpt(hit) !== null);
  }
  click(hit: Hit, press: Press): void {
    const { does, angle, against } = this.settings;
    const { ground } = this.host.session.sculptRegions;
    const on = this.host.scene.picker.onSculpt(hit);
    if (!ground || !on) return;
    if (does === 'paint') {
      this.dragStart(hit, press);
      return this.dragEnd();
    }
    if (does === 'lasso') return;
    const from = (triangle: number): number[] =>
      does === 'part' ? ground.part(triangle) : ground.facingLike(triangle, angle, against);
    const found = this.bothHalves(on.point).flatMap(({ point }) => from(ground.surface.closest(point).triangle));
    this.keep(found, press.alt === true);
  }
  dragStart(hit: Hit, press: Press): void {
    this.adds = press.alt !== true;
    if (this.settings.does === 'lasso') {
      this.outline = [{ x: hit.x, y: hit.y }];
      return;
    }
    this.stroke = { vertices: new Set(), last: hit, takesAway: press.alt === true };
    this.dab(hit);
    this.hover(hit);
  }
  drag(hit: Hit): void {
    if (this.outline) {
      this.outline.push({ x: hit.x, y: hit.y });
      return this.host.outline(this.outline);
    }
    const { stroke } = this;
    if (!stroke) return;
    // a quick stroke has no gaps
    const { scene } = this.host;
    const { last } = stroke;
    const on = scene.picker.onSculpt(hit);
    const pixels = on ? (this.settings.radius * SPACING) / scene.camera.pixelSize(distance(on.point, hit.view.eye)) : Infinity; // prettier-ignore
    const steps = Math.min(MOST_DABS, Math.max(1, Math.ceil(Math.hypot(hit.x - last.x, hit.y - last.y) / Math.max(1, pixels)))); // prettier-ignore
    for (let i = 1; i < steps; i++) {
      const [x, y] = [last.x + ((hit.x - last.x) * i) / steps, last.y + ((hit.y - last.y) * i) / steps];
      this.dab({ ...hit, ...scene.picker.ray(x, y), x, y });
    }
    this.dab(hit);
    stroke.last = hit;
    this.hover(hit);
  }
  dragEnd(): void {
    const { stroke, outline } = this;
    if (outline && outline.length > 2) this.keep(this.inside(outline), !this.adds);
    if (stroke) this.keep([...stroke.vertices], stroke.takesAway);
    this.cancel();
  }
  finish(): boolean {
    return false;
  }
  stepBack(): boolean {
    return false;
  }
  cancel(): boolean {
    const had = this.stroke !== null || this.outline !== null;
    this.stroke = null;
    this.outline = null;
    this.host.outline(null);
    this.host.scene.regions?.show();
    this.draw();
    return had;
  }

  /** A place on the sculpt, and its image where there is a midline. */
  private bothHalves(point: Vec3): { point: Vec3; isImage: boolean }[] {
    const { plane } = this.host.session;
    const own = { point, isImage: false };
    return plane ? [own, { point: mirrored(point, plane), isImage: true }] : [own];
  }

  /** Marks what the brush covers, on both halves. */
  private dab(hit: Hit): void {
    const { session, scene } = this.host;
    const { ground } = session.sculptRegions;
    const on = scene.picker.onSculpt(hit);
    if (!ground || !on || !this.stroke) return;
    const { eye } = hit.view;
    const fresh = new Set<number>();
    for (const { point, isImage } of this.bothHalves(on.point)) {
      const triangle = isImage ? ground.surface.closest(point).triangle : on.triangle;
      const from = isImage && session.plane ? mirrored(eye, session.plane) : eye;
      for (const v of ground.brushed(triangle, point, this.settings.radius, from)) fresh.add(v);
    }
    for (const v of fresh) this.stroke.vertices.add(v);
    if (this.settings.takesAway === this.stroke.takesAway) return scene.regions?.preview(fresh, this.own ?? newRegion(session)); // prettier-ignore
    const { labels } = session.sculptRegions;
    scene.regions?.preview(
      [...fresh].filter((v) => labels[v] === this.own?.id),
      null,
    );
  }

  /** The region in hand; null while it is yet to begin. */
  private get own(): Region | null {
    const { regions } = this.host.session.settings;
    return regions.find((r) => r.id === this.settings.region) ?? null;
  }

  /** What of the sculpt lies inside an outline on the screen and is seen. */
  private inside(outline: readonly { x: number; y: number }[]): number[] {
    const { session, scene } = this.host;
    const { surface } = session;
    if (!surface) return [];
    const within = new Outline(Float32Array.from(outline.flatMap(({ x, y }) => [x, y])));
    const halves = session.plane ? [null, session.plane] : [null];
    const found: number[] = [];
    const depth = new DepthMap(scene.camera.width, scene.camera.height);
    const through = this.host.view.throughNow;
    const slack = (surface.diagonal * SCULPT_LIFT) / 4;
    for (const across of halves) {
      const seen = scene.picker.seenAll(surface.positions, across);
      // the image's points are hidden by the sculpt as it is seen
      if (across === null && !through) depth.addTriangles(seen, surface.indices);
      for (let v = 0; v < seen.length / 3; v++) {
        const [x, y, along] = [seen[3 * v], seen[3 * v + 1], seen[3 * v + 2]];
        if (along > 0 && within.holds(x, y) && (through || depth.isSeen(x, y, along, slack))) found.push(v);
      }
    }
    return found;
  }

  /** As one step; a region that is not there yet is begun with it. */
  private keep(vertices: readonly number[], isOpposite: boolean): void {
    const { session } = this.host;
    const { regions } = session.settings;
    const isAway = this.settings.takesAway !== isOpposite;
    const { own } = this;
    if (vertices.length === 0) return;
    if (isAway) {
      if (!own) return session.say({ kind: 'refused', text: 'Choose the region to take away from.' });
      const { labels } = session.sculptRegions;
      const there = vertices.filter((v) => labels[v] === own.id);
      return session.sculptRegions.put(`Taken away from “${own.name}”`, there, 0);
    }
    const region = own ?? newRegion(session);
    if (!own) this.host.remember(this.name, { region: region.id });
    const more = own ? {} : { regions: [...regions, region] };
    session.sculptRegions.put(`“${region.name}” painted`, vertices, region.id, more);
  }

  /** A ring of the brush's size round the pointer. */
  private draw(): void {
    const isBrush = this.settings.does === 'paint';
    const on = isBrush && this.hovered ? this.host.scene.picker.onSculpt(this.hovered) : null;
    this.host.draw(isBrush ? brushRing(this.host, on?.point, this.settings.radius) : NO_OVERLAY);
  }
}
