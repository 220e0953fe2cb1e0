import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { soupFromMesh, type PolyMesh } from '../../mesh';
import { WalkingForm } from '../../surface';
import { ballMesh, gridMesh, torusMesh } from '../../testing';
import type { Ground } from '../lines/ground';
import { qualityOf } from '../quads/QuadCheck';
import { eulerOf, QuadLinks } from '../quads/QuadLinks';
import { type QuadSoup, surfaceOfQuads } from '../quads/QuadSoup';
import { byOneRow, countByRows } from './countByRows';
import { faultsOf } from './mendQuads';
import { aspectOf, plainRows, withoutRow, withRowHalved } from './rows';

const N = 9;

function onItself(mesh: PolyMesh): { soup: QuadSoup; ground: Ground } {
  const { positions, corners } = soupFromMesh(mesh);
  const soup = { points: Float64Array.from(positions), quads: Int32Array.from(corners), onLine: new Int32Array(positions.length / 3).fill(-1) }; // prettier-ignore
  const surface = surfaceOfQuads(soup);
  const form = new WalkingForm(surface);
  return { soup, ground: { surface, curves: [], forms: [form, form], density: null } };
}

/** A flat grid of quads whose rim lies on one curve, its four corners apart. */
function sheet(): { soup: QuadSoup; ground: Ground } {
  const { soup, ground } = onItself(gridMesh(N, N));
  const isRim = (x: number): boolean => x === 0 || x === N;
  soup.onLine.forEach((_, v) => {
    const [x, y] = [isRim(soup.points[3 * v]), isRim(soup.points[3 * v + 1])];
    soup.onLine[v] = x && y ? -2 : x || y ? 0 : -1;
  });
  const rim = Float64Array.from([0, 0, 0, N, 0, 0, N, N, 0, 0, N, 0, 0, 0, 0]);
  return { soup, ground: { ...ground, curves: [{ points: rim, isBorder: true, isDrawn: false, isMirrored: false }] } };
}

const count = ({ quads }: QuadSoup): number => quads.length / 4;
const free = (): boolean => false;

describe('rows of quads', () => {
  it.each([
    ['a torus', (): ReturnType<typeof onItself> => onItself(torusMesh(20, 8)), 20 + 8, 2 * 160],
    ['a sheet', sheet, 2 * N, 2 * N * N],
    ['a ball', (): ReturnType<typeof onItself> => onItself(ballMesh(5)), 3 * 5, 2 * 6 * 25],
  ])('of %s: each quad lies in two', (_, make, rows, inRows) => {
    const { soup } = make();
    const found = plainRows(soup, new QuadLinks(soup));
    expect(found).toHaveLength(rows);
    expect(found.reduce((sum, { entries }) => sum + entries.length, 0)).toBe(inRows);
  });

  it('are halved and taken out again: counts and what hangs together as they must be, over seeded rows', () => {
    fc.assert(
      fc.property(fc.nat(), fc.constantFrom('torus', 'sheet', 'ball'), (pick, kind) => {
        const { soup, ground } =
          kind === 'sheet' ? sheet() : onItself(kind === 'torus' ? torusMesh(20, 8) : ballMesh(5));
        const rows = plainRows(soup, new QuadLinks(soup));
        const row = rows[pick % rows.length];
        const more = withRowHalved(soup, row, ground.curves, ground.surface);
        expect([count(more) - count(soup), eulerOf(more), faultsOf(more, ground.curves)]).toEqual([row.entries.length, eulerOf(soup), []]); // prettier-ignore
        expect(qualityOf(more.points, more.quads).quality.least).toBeGreaterThan(0.5);
        // the halves are the narrowest rows
        const links = new QuadLinks(more);
        const narrow = plainRows(more, links).sort((a, b) => aspectOf(more, a) - aspectOf(more, b))[0];
        expect(narrow.entries).toHaveLength(row.entries.length);
        const back = withoutRow(more, narrow, ground.curves, links) as QuadSoup;
        expect([count(back), eulerOf(back), faultsOf(back, ground.curves)]).toEqual([count(soup), eulerOf(soup), []]);
      }),
      { numRuns: 60 },
    );
  });

  it('that end on a rim end on it still', () => {
    const { soup, ground } = sheet();
    for (const row of plainRows(soup, new QuadLinks(soup))) {
      const { points, onLine } = withRowHalved(soup, row, ground.curves, ground.surface);
      const fresh = [...onLine.keys()].slice(soup.onLine.length);
      const onRim = fresh.filter((v) => [0, 1].some((k) => [0, N].includes(points[3 * v + k])));
      // along a side both ends, and all of the outermost row's outer corners are old
      expect(onRim.map((v) => onLine[v])).toEqual([0, 0]);
    }
  });

  it('stay where a limb would have three edges round it, and where two lines would come together', () => {
    const thin = onItself(torusMesh(20, 4));
    const links = new QuadLinks(thin.soup);
    const along = plainRows(thin.soup, links).filter(({ entries }) => entries.length === 20);
    expect(along).toHaveLength(4);
    for (const row of along) expect(withoutRow(thin.soup, row, [], links)).toBeNull();
    const { soup } = sheet();
    const strip = { ...soup, quads: soup.quads.filter((_, h) => h >> 2 < N) };
    // one quad wide, each of its long sides a line
    const own = new QuadLinks(strip);
    const lines = [0, 1].map((y) => [0, y, 0, N, y, 0]).map((points) => ({ points: Float64Array.from(points), isBorder: true, isDrawn: false, isMirrored: false })); // prettier-ignore
    const two = { ...strip, onLine: Int32Array.from(strip.onLine, (_, v) => (strip.points[3 * v + 1] <= 1 ? strip.points[3 * v + 1] : -1)) }; // prettier-ignore
    const across = plainRows(two, own).find(({ entries }) => entries.every((h) => new Set([two.onLine[two.quads[h]], two.onLine[two.quads[(h & ~3) + ((h + 1) & 3)]]]).size === 2)); // prettier-ignore
    expect(across).toBeDefined();
    expect(withoutRow(two, across as NonNullable<typeof across>, lines, own)).toBeNull();
  });
});

it('a count is come nearer to by rows, over seeded counts: by no more than the shortest row off, sound, and what came in untouched', () => {
  fc.assert(
    fc.property(fc.integer({ min: 120, max: 260 }), (wanted) => {
      const { soup, ground } = onItself(torusMesh(20, 8));
      const was = structuredClone(soup);
      const made = countByRows(soup, wanted, ground, free);
      expect(soup).toEqual(was);
      expect(Math.abs(count(made) - wanted)).toBeLessThanOrEqual(6);
      expect([eulerOf(made), faultsOf(made, [])]).toEqual([0, []]);
      expect(qualityOf(made.points, made.quads).quality.least).toBeGreaterThan(0.6);
      expect(made.points.length / 3).toBe(count(made));
    }),
    { numRuns: 25 },
  );
});

it('rows that bring a count nearer come one by one, the long ones first, and none again that was refused', () => {
  fc.assert(
    fc.property(fc.integer({ min: 120, max: 260 }), fc.integer({ min: 0, max: 9 }), (wanted, taken) => {
      const { soup, ground } = onItself(torusMesh(20, 8));
      const off = ({ quads }: QuadSoup): number => Math.abs(quads.length / 4 - wanted);
      const refused = new Set<string>();
      const by: number[] = [];
      for (const next of byOneRow(soup, wanted, ground, free, refused)) {
        expect(off(next)).toBeLessThan(off(soup));
        expect([eulerOf(next), faultsOf(next, [])]).toEqual([0, []]);
        by.push(Math.abs(count(next) - count(soup)));
        if (by.length > taken) break;
      }
      const isLong = by.map((quads) => quads >= off(soup) / 4);
      expect(isLong).toEqual([...isLong].sort().reverse());
      expect(refused.size).toBe(Math.min(taken, by.length));
      const again = [...byOneRow(soup, wanted, ground, free, refused)].length;
      const all = [...byOneRow(soup, wanted, ground, free, new Set())].length;
      expect(again).toBe(all - Math.min(taken, by.length));
      expect([...byOneRow(soup, wanted, ground, free, refused)]).toEqual([]);
    }),
    { numRuns: 8 },
  );
});
