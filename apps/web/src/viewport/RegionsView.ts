import type { Region } from '@half-loop/contract';
import { STAND_IN_ABOVE } from '@half-loop/core/surface';
import { Idle, type Session } from '../session';
import type { OverlayLayer } from './OverlayLayer';
import { regionLines } from './regionLines';
import type { SculptLayer } from './SculptLayer';
import type { ViewState } from './ViewState';

/** Borders are drawn when nothing was painted for so long, milliseconds. */
const AFTER_MS = 250;

/** Regions painted on the sculpt as they are seen: tints at once, smooth borders a moment later. */
export class RegionsView {
  private bordered = '';
  private readonly later = new Idle(AFTER_MS, () => this.drawBorders());

  constructor(
    private readonly session: Session,
    private readonly view: ViewState,
    private readonly sculpt: SculptLayer,
    private readonly over: OverlayLayer,
    private readonly invalidate: () => void,
  ) {}

  show(): void {
    const { settings, sculptRegions } = this.session;
    this.sculpt.showRegions({ labels: sculptRegions.labels, regions: settings.regions, hidden: this.view.now.hiddenRegions }); // prettier-ignore
    if (this.drawnBy() === this.bordered) return;
    this.over.showBorders([]);
    this.later.ask();
  }

  /** Shows vertices as if they were in a region, or in none, while a stroke goes on. */
  preview(vertices: Iterable<number>, region: Region | null): void {
    this.sculpt.previewRegion(vertices, region);
    this.invalidate();
  }

  stop(): void {
    this.later.stop();
  }

  private drawnBy(): string {
    const { regions, sculptRegions } = this.session.settings;
    return `${sculptRegions} ${[...this.view.now.hiddenRegions].join()} ${regions.map((r) => r.tint).join()}`;
  }

  private drawBorders(): void {
    const { settings, sculptRegions, surface } = this.session;
    this.bordered = this.drawnBy();
    // a border costs a pass over the sculpt: where that is felt, the tint has to do
    if (!surface || surface.triangleCount > STAND_IN_ABOVE) return;
    const shown = settings.regions.filter((r) => !this.view.now.hiddenRegions.has(r.id));
    this.over.showBorders(shown.flatMap((r) => regionLines(sculptRegions.border(r.id), r)));
    this.invalidate();
  }
}
