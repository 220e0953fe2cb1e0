import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { soupInfo } from '../../inspect';
import { soupFromMesh } from '../../mesh';
import { type SculptSurface, WalkingForm } from '../../surface';
import { gridMesh, pick, seededRng, torusMesh } from '../../testing';
import type { Ground } from '../lines/ground';
import { eulerOf } from '../quads/QuadLinks';
import { quadSoup, type QuadSoup, surfaceOfQuads } from '../quads/QuadSoup';
import { mendedApart, MENDINGS } from './mendApart';
import { faultsOf, mendedAround } from './mendQuads';

const N = 10;

/** A flat grid of quads whose rim lies on one curve, its four corners apart. */
function sheet(): { soup: QuadSoup; ground: Ground } {
  const { positions, corners } = soupFromMesh(gridMesh(N, N));
  const points = Float64Array.from(positions);
  const isRim = (x: number): boolean => x === 0 || x === N;
  const onLine = Int32Array.from({ length: points.length / 3 }, (_, v) => {
    const [x, y] = [isRim(points[3 * v]), isRim(points[3 * v + 1])];
    return x && y ? -2 : x || y ? 0 : -1;
  });
  const soup = { points, quads: Int32Array.from(corners), onLine };
  const surface: SculptSurface = surfaceOfQuads(soup);
  const form = new WalkingForm(surface);
  const rim = Float64Array.from([0, 0, 0, N, 0, 0, N, N, 0, 0, N, 0, 0, 0, 0]);
  const curves = [{ points: rim, isBorder: true, isDrawn: false, isMirrored: false }];
  return { soup, ground: { surface, curves, forms: [form, form], density: null } };
}

const [AROUND, ACROSS] = [24, 8];
const torus = (): { soup: QuadSoup; ground: Ground } => {
  const { positions, corners } = soupFromMesh(torusMesh(AROUND, ACROSS));
  const soup = { points: Float64Array.from(positions), quads: Int32Array.from(corners), onLine: new Int32Array(positions.length / 3).fill(-1) }; // prettier-ignore
  const surface = surfaceOfQuads(soup);
  const form = new WalkingForm(surface);
  return { soup, ground: { surface, curves: [], forms: [form, form], density: null } };
};

const without = (soup: QuadSoup, ...gone: number[]): QuadSoup => ({
  ...soup,
  quads: soup.quads.filter((_, h) => !gone.includes(h >> 2)),
});
const inner = 5 * N + 5;

describe('faults among quads', () => {
  it.each([
    ['inside', inner],
    ['on the rim', 5],
    ['in a corner', 0],
  ])('%s are taken out and laid again, the rim as it was', (_, q) => {
    const { soup, ground } = sheet();
    expect(faultsOf(soup, ground.curves)).toEqual([]);
    const mended = mendedAround(soup, [q], ground) as QuadSoup;
    expect(faultsOf(mended, ground.curves)).toEqual([]);
    const { borderLoops, borderEdges, nonManifoldEdges, quads, vertices, edges } = soupInfo(quadSoup(mended));
    expect([borderLoops, borderEdges, nonManifoldEdges]).toEqual([1, 4 * N, 0]);
    expect(vertices - edges + quads).toBe(1);
  });

  it('a quad that is missing inside is a fault, and closed', () => {
    const { soup, ground } = sheet();
    const torn = without(soup, inner);
    const bad = faultsOf(torn, ground.curves);
    expect(bad.length).toBeGreaterThan(0);
    const mended = mendedAround(torn, bad, ground) as QuadSoup;
    expect(soupInfo(quadSoup(mended)).borderLoops).toBe(1);
  });

  it('a quad that is missing on the rim is laid again along it', () => {
    const { soup, ground } = sheet();
    const torn = without(soup, 5);
    const bad = faultsOf(torn, ground.curves);
    expect(bad.length).toBeGreaterThan(0);
    const mended = mendedAround(torn, bad, ground) as QuadSoup;
    const info = soupInfo(quadSoup(mended));
    expect([info.borderLoops, info.nonManifoldEdges, info.quads]).toEqual([1, 0, info.faces]);
    // the rim runs straight again
    for (let v = 0; v < mended.onLine.length; v++) if (mended.onLine[v] !== -1) expect(ground.surface.closest([mended.points[3 * v], mended.points[3 * v + 1], 0]).distance).toBeLessThan(1e-6); // prettier-ignore
  });

  it('are mended one by one where they lie apart, what lies between them untouched, over seeded places', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const rng = seededRng(seed);
        const { soup, ground } = sheet();
        // the column in the middle is in the ring of neither
        const [a, b] = [1, 8].map((x) => (1 + Math.floor(8 * rng())) * N + x);
        const torn = rng() < 0.5 ? without(soup, a, b) : { ...soup, quads: pinched(soup.quads, a, b) };
        expect(faultsOf(torn, ground.curves).length).toBeGreaterThan(0);
        const mended = mendedApart(torn, ground, pick(rng, MENDINGS)) as QuadSoup;
        expect(faultsOf(mended, ground.curves)).toEqual([]);
        const { borderLoops, borderEdges, nonManifoldEdges, quads, vertices, edges } = soupInfo(quadSoup(mended));
        expect([borderLoops, borderEdges, nonManifoldEdges]).toEqual([1, 4 * N, 0]);
        expect(vertices - edges + quads).toBe(1);
        // the column between is as it was: its points are points still, four quads round each
        const known = new Map(Array.from(mended.onLine, (_, v) => [`${mended.points[3 * v]} ${mended.points[3 * v + 1]}`, v])); // prettier-ignore
        for (let y = 1; y < N; y++) {
          const v = known.get(`5 ${y}`);
          expect(v).toBeDefined();
          expect(mended.quads.filter((w) => w === v)).toHaveLength(4);
        }
      }),
      { numRuns: 40 },
    );
  });

  it('all round a handle are mended by a band, over seeded places: closed by discs the handle would go', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: AROUND - 1 }), fc.integer({ min: 1, max: 2 }), (first, wide) => {
        const { soup, ground } = torus();
        const ring = Array.from({ length: wide * ACROSS }, (_, k) => (first * ACROSS + k) % (AROUND * ACROSS));
        const torn = { ...soup, quads: pinched(soup.quads, ...ring) };
        const asItHangs = mendedApart(torn, ground, 'as it hangs') as QuadSoup;
        expect(faultsOf(asItHangs, [])).toEqual([]);
        expect([eulerOf(asItHangs), soupInfo(quadSoup(asItHangs)).borderLoops]).toEqual([0, 0]);
        expect(eulerOf(mendedApart(torn, ground, 'anyhow') as QuadSoup)).toBe(2);
      }),
      { numRuns: 20 },
    );
  });

  it('where a handle is drawn together are mended by bands, though it no longer hangs together as it should', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: AROUND - 1 }), fc.integer({ min: 1, max: ACROSS }), (first, many) => {
        const { soup, ground } = torus();
        // points of one ring with those of the next
        const quads = soup.quads.map((v) => {
          const [i, j] = [Math.floor(v / ACROSS), v % ACROSS];
          return i === first && j < many ? ((i + 1) % AROUND) * ACROSS + j : v;
        });
        const torn = { ...soup, quads };
        // it does not tell any more how it should hang together
        expect(eulerOf(torn)).toBe(-many);
        const made = mendedApart(torn, ground, 'with bands') as QuadSoup;
        expect([faultsOf(made, []), eulerOf(made)]).toEqual([[], 0]);
        const others = (['as it hangs', 'anyhow'] as const).map((way) => eulerOf(mendedApart(torn, ground, way) as QuadSoup)); // prettier-ignore
        expect(others).toEqual(many > ACROSS / 2 ? [2, 2] : [0, 0]);
      }),
      { numRuns: 20 },
    );
  });
});

/** Quads with two of them turned over: their edges have two faces on a side. */
const pinched = (quads: Int32Array, ...some: number[]): Int32Array =>
  quads.map((v, h) => (some.includes(h >> 2) ? quads[(h & ~3) + 3 - (h & 3)] : v));
