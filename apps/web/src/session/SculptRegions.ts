import type { AssetSettings, Region } from '@half-loop/contract';
import { HalfLoopError } from '@half-loop/core/errors';
import {
  FormLines,
  readLabels,
  regionCurves,
  RegionGround,
  regionValue,
  writeLabels,
  type RegionLabels,
  type SculptSurface,
  type Section,
} from '@half-loop/core/surface';

/** A line that quads follow has at most so many points. */
const MOST_POINTS = 4000;
/** First tints of new regions, apart from each other for all eyes. */
const TINTS = ['#b9a3cf', '#d7b98a', '#8fb3d1', '#a9c28c', '#d39a8f', '#8dbdb5'];

/** A region that is not there yet, by a name or its number. */
export function newRegion({ settings: { regions } }: { settings: AssetSettings }, name = ''): Region {
  const id = 1 + regions.reduce((most, r) => Math.max(most, r.id), 0);
  return { id, name: name.trim() || `Region ${id}`, tint: TINTS[(id - 1) % TINTS.length] };
}

/** What regions are painted in: the session, as far as they need it. */
interface Painted {
  readonly settings: AssetSettings;
  readonly surface: SculptSurface | null;
  changeSettings(name: string, change: Partial<AssetSettings>, isJoined?: boolean): void;
  say(notice: { kind: 'refused'; text: string }): void;
}

/** Regions painted on the sculpt: the labels of its vertices, out of the settings that keep them. */
export class SculptRegions {
  private made: RegionGround | null = null;
  private read: { text: string; labels: RegionLabels } | null = null;
  private onForm: { text: string; lines: FormLines } | null = null;
  private readonly borders = new Map<number, { text: string; curves: Section[] }>();

  constructor(private readonly session: Painted) {}

  /** What regions are painted on; null without a sculpt. */
  get ground(): RegionGround | null {
    const { surface } = this.session;
    return surface && (this.made ??= new RegionGround(surface));
  }

  /** The region of each vertex of the sculpt; not to be written to. Cost: the vertices, when they changed. */
  get labels(): RegionLabels {
    const text = this.session.settings.sculptRegions;
    if (this.read?.text !== text) this.read = { text, labels: this.parsed(text) };
    return this.read.labels;
  }
  private parsed(text: string): RegionLabels {
    const count = this.ground?.count ?? 0;
    try {
      return readLabels(text, count);
    } catch (error) {
      if (!(error instanceof HalfLoopError)) throw error;
      this.session.say({ kind: 'refused', text: error.message });
      return new Uint16Array(count);
    }
  }

  /** How much of the sculpt's vertices each region has. Cost: the vertices. */
  counts(): Map<number, number> {
    const counts = new Map<number, number>();
    for (const label of this.labels) if (label > 0) counts.set(label, (counts.get(label) ?? 0) + 1);
    return counts;
  }

  /** Puts vertices into a region, or out of any for 0, as one step together with `more`. */
  put(name: string, vertices: Iterable<number>, region: number, more: Partial<AssetSettings> = {}): void {
    const labels = this.labels.slice();
    for (const v of vertices) labels[v] = region;
    this.putAll(name, labels, more);
  }

  /** Other labels for all of the sculpt, as one step. */
  putAll(name: string, labels: RegionLabels, more: Partial<AssetSettings> = {}): void {
    const text = writeLabels(labels);
    this.read = { text, labels };
    this.session.changeSettings(name, { ...more, sculptRegions: text }, false);
  }

  /** The borders of all painted regions as lines that quads can follow. Cost: as `border`, for each. */
  lines(): { points: [number, number, number][]; closed: boolean }[] {
    const curves = [...this.counts().keys()].flatMap((id) => this.border(id));
    return curves
      .filter((c) => c.points.length > 2)
      .map(({ points, closed }) => {
        const step = Math.ceil(points.length / MOST_POINTS);
        return { points: points.filter((_, i) => i % step === 0).map(([x, y, z]) => [x, y, z]), closed };
      });
  }

  /** All borders, for what is laid and relaxed on the sculpt; null where nothing is painted. Cost: as `lines`, when something was painted since. */
  formLines(): FormLines | null {
    const text = this.session.settings.sculptRegions;
    if (text === '') return null;
    if (this.onForm?.text !== text) this.onForm = { text, lines: new FormLines(this.lines()) };
    return this.onForm.lines;
  }

  /** The smooth border of a region. Cost: the sculpt once, when something was painted since. */
  border(region: number): Section[] {
    const { labels, ground, session } = this;
    if (!ground) return [];
    const text = session.settings.sculptRegions;
    const known = this.borders.get(region);
    if (known?.text === text) return known.curves;
    const isIn = (v: number): boolean => labels[v] === region;
    const curves = labels.includes(region) ? regionCurves(ground.surface, regionValue(ground, isIn)) : [];
    this.borders.set(region, { text, curves });
    return curves;
  }
}
