import * as z from 'zod/mini';
import { FIELDS, meanLength, OPERATORS, type Field, type Operator } from '@half-loop/core/ops';
import { isLive, type Session } from '../../session';
import { PLAIN_ROW, type PlaceSettings, type RegionSettings } from '../../tools';

/** A setting of an operator that a person sets, with what it is when nobody has. */
export interface SettingField {
  name: string;
  field: Field;
  start: unknown;
}

/** The settings that an operator's card asks for, in the order of its parameters. */
export function fieldsOf(op: Operator): SettingField[] {
  const shape = (op.params as unknown as z.ZodMiniObject).shape ?? {};
  return Object.entries(shape).flatMap(([name, schema]) => {
    const field = FIELDS.get(schema as z.ZodMiniType);
    return field ? [{ name, field, start: z.parse(schema as z.ZodMiniType, undefined) }] : [];
  });
}

/** A brush's size unless one is set: this share of the model's diagonal. */
const BRUSH_SHARE = 0.06;
const PLACE: PlaceSettings = {
  takes: 'picked',
  drag: 'move',
  lock: 'none',
  axes: 'world',
  catching: false,
  gridStep: 0.5,
  angleStep: 15,
};

/** The card of a region as it begins, without the brush's size. */
const REGION: Omit<RegionSettings, 'radius'> = {
  region: null,
  does: 'paint',
  takesAway: false,
  angle: 30,
  against: 'start',
};

/** What the cards are set to, for as long as the asset is open. */
export class ToolSettings {
  private readonly known = new Map<string, Record<string, unknown>>();

  constructor(
    private readonly session: Session,
    private readonly changed: () => void,
  ) {}

  of(name: string): Record<string, unknown> {
    const known = this.known.get(name);
    if (known) return known;
    const op = OPERATORS.get(name);
    const start: Record<string, unknown> = op ? Object.fromEntries(fieldsOf(op).map((f) => [f.name, f.start])) : {};
    if (op && 'up' in ((op.params as unknown as z.ZodMiniObject).shape ?? {})) start.up = this.session.settings.up;
    if (name === 'brush') start.radius = Math.max(this.size * BRUSH_SHARE, 1.5 * meanLength(this.session.mesh, this.session.mesh.edges())); // prettier-ignore
    if (name === 'density') Object.assign(start, { radius: this.size * BRUSH_SHARE, times: 2 });
    if (name === 'region') Object.assign(start, { ...REGION, radius: this.size * BRUSH_SHARE });
    if (name === 'draw-out') Object.assign(start, PLAIN_ROW);
    if (name === 'guide') start.liesOn = 'plane';
    if (name === 'row') start.shape = 'either';
    if (name === 'close-cells') Object.assign(start, { also: [], except: [] });
    if (name === 'place') Object.assign(start, PLACE, { gridStep: Number((this.size / 40).toPrecision(1)) });
    this.known.set(name, start);
    return start;
  }

  /** Sets one; when it belongs to the step made last, that step is made again with it. */
  change(name: string, key: string, value: unknown): void {
    this.known.set(name, { ...this.of(name), [key]: value });
    const { latest } = this.session;
    const params = { ...latest?.params, [key]: value };
    if (latest?.op.name === name && isLive(latest, this.session.mesh, params)) this.session.adjust(params);
    this.changed();
  }

  /** Takes over what a drag has set, without running the step again. */
  remember(name: string, values: Record<string, unknown>): void {
    this.known.set(name, { ...this.of(name), ...values });
    this.changed();
  }

  /** Whether the latest step is this operator's, so that its settings still change it. */
  isLive(name: string): boolean {
    return this.session.latest?.op.name === name;
  }

  /** The model's diagonal, file units. */
  private get size(): number {
    const { surface, mesh } = this.session;
    if (surface) return surface.diagonal;
    const low = [Infinity, Infinity, Infinity],
      high = [-Infinity, -Infinity, -Infinity];
    for (const v of mesh.vertices())
      mesh.point(v).forEach((x, k) => {
        low[k] = Math.min(low[k], x);
        high[k] = Math.max(high[k], x);
      });
    const d = Math.hypot(...high.map((x, k) => x - low[k]));
    return Number.isFinite(d) && d > 0 ? d : 10;
  }
}
