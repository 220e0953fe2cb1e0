import { beforeEach, describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS, type AssetSettings } from '@half-loop/contract';
import { sculptFromSoup, SculptSurface } from '@half-loop/core/surface';
import { ballSoup } from '@half-loop/core/testing';
import { newRegion, SculptRegions } from './SculptRegions';

/** As much of a session as regions are painted in, with what it was told. */
class Host {
  settings: AssetSettings = { ...DEFAULT_SETTINGS, regions: [newRegion({ settings: DEFAULT_SETTINGS }, 'Gill')] };
  readonly surface = SculptSurface.build(sculptFromSoup(ballSoup(40)));
  readonly steps: string[] = [];
  readonly said: string[] = [];

  changeSettings(name: string, change: Partial<AssetSettings>): void {
    this.steps.push(name);
    this.settings = { ...this.settings, ...change };
  }
  say({ text }: { text: string }): void {
    this.said.push(text);
  }
}

let host: Host;
let regions: SculptRegions;
const cap = (): number[] => {
  const top = host.surface.closest([0, 2, 0]);
  return regions.ground?.brushed(top.triangle, top.point, 0.5, [0, 9, 0]) ?? [];
};
beforeEach(() => {
  host = new Host();
  regions = new SculptRegions(host);
});

describe('regions painted on a sculpt', () => {
  it('are kept in the settings as one step each, and read back from them', () => {
    const own = cap();
    regions.put('“Gill” painted', own, 1);
    expect(host.steps).toEqual(['“Gill” painted']);
    expect(regions.counts()).toEqual(new Map([[1, own.length]]));
    const again = new SculptRegions(host);
    expect(again.labels).toEqual(regions.labels);
    regions.put('Taken away', own.slice(0, 5), 0);
    expect(regions.counts()).toEqual(new Map([[1, own.length - 5]]));
    // the other reads what is in the settings now
    expect(again.counts()).toEqual(regions.counts());
    regions.put('All taken away', own, 0);
    expect(host.settings.sculptRegions).toBe('');
  });
  it('follow an undo of the settings', () => {
    regions.put('painted', cap(), 1);
    const before = host.settings;
    regions.put('more', [0, 1, 2], 1);
    host.settings = before;
    expect(regions.counts()).toEqual(new Map([[1, cap().length]]));
  });
  it('have one border, worked out once until something is painted; lines for quads are short enough', () => {
    expect(regions.border(1)).toEqual([]);
    regions.put('painted', cap(), 1);
    const border = regions.border(1);
    expect(border.map((b) => b.closed)).toEqual([true]);
    expect(regions.border(1)).toBe(border);
    expect(regions.lines()).toHaveLength(1);
    expect(regions.lines()[0].points.length).toBe(border[0].points.length);
    regions.put('all of it', Array.from({ length: regions.ground?.count ?? 0 }, (_, v) => v), 1); // prettier-ignore
    expect(regions.border(1)).toEqual([]);
  });
  it('of another sculpt are told, and taken for none', () => {
    host.settings = { ...host.settings, sculptRegions: '1:3' };
    expect(regions.counts().size).toBe(0);
    expect(host.said).toEqual(['The regions painted on the sculpt do not fit it: they were painted on another one.']);
  });
});

describe('a new region', () => {
  it('has a number and a tint of its own, and a name if none is given', () => {
    const first = host.settings.regions[0];
    const second = newRegion(host, '  ');
    expect([first.id, first.name, second.id, second.name]).toEqual([1, 'Gill', 2, 'Region 2']);
    expect(second.tint).not.toBe(first.tint);
  });
});
