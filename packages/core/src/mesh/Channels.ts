import { Column } from './Column';
import type { ChannelSpec, DeltaRecorder, Domain } from './Delta';

export const channelKey = (domain: Domain, name: string): string => `${domain}:${name}`;

/** The attribute channels of a mesh, by domain and name. */
export class Channels {
  private readonly known = new Map<string, { spec: ChannelSpec; column: Column }>();

  /** The channel, made with `rows` rows when missing; asking again with another type keeps the first. */
  take(spec: ChannelSpec, rows: number, recorder: DeltaRecorder | null): Column {
    const key = channelKey(spec.domain, spec.name);
    const before = this.known.get(key);
    if (before) return before.column;
    const column = new Column(key, spec.type, spec.stride, spec.fill, Math.max(1, rows));
    recorder?.watch(column, rows);
    this.known.set(key, { spec, column });
    recorder?.created.push(spec);
    return column;
  }
  find(domain: Domain, name: string): Column | undefined {
    return this.known.get(channelKey(domain, name))?.column;
  }
  drop(specs: readonly ChannelSpec[]): void {
    for (const { domain, name } of specs) this.known.delete(channelKey(domain, name));
  }
  specs(): ChannelSpec[] {
    return [...this.known.values()].map((c) => c.spec);
  }
  columns(domain?: Domain): Column[] {
    return [...this.known.values()].filter((c) => !domain || c.spec.domain === domain).map((c) => c.column);
  }
  /** A fresh element's values, in every channel of its domain. */
  reset(domain: Domain, row: number): void {
    for (const { spec, column } of this.known.values()) {
      if (spec.domain !== domain) continue;
      column.ensure(row + 1);
      column.reset(row);
    }
  }
}
