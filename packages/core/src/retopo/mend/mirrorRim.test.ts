import { expect, test } from 'vitest';
import { soupInfo } from '../../inspect';
import { soupFromMesh } from '../../mesh';
import { WalkingForm } from '../../surface';
import { gridMesh } from '../../testing';
import type { Ground } from '../lines/ground';
import { quadSoup, type QuadSoup, surfaceOfQuads } from '../quads/QuadSoup';
import { verified } from '../quads/verify';
import { faultsOf } from './mendQuads';
import { doubletsOf, withoutDoublets } from './mirrorRim';

const N = 8;

/** A flat grid of quads with square corners, whose rim is a mirror cut or not. */
function sheet(isMirrored: boolean): { soup: QuadSoup; ground: Ground } {
  const { positions, corners } = soupFromMesh(gridMesh(N, N));
  const points = Float64Array.from(positions);
  const onLine = Int32Array.from({ length: points.length / 3 }, (_, v) => {
    const rims = [points[3 * v], points[3 * v + 1]].filter((x) => x === 0 || x === N).length;
    return rims === 2 ? -2 : rims - 1;
  });
  const soup = { points, quads: Int32Array.from(corners), onLine };
  const form = new WalkingForm(surfaceOfQuads(soup));
  const rim = Float64Array.from([0, 0, 0, N, 0, 0, N, N, 0, 0, N, 0, 0, 0, 0]);
  const curves = [{ points: rim, isBorder: true, isDrawn: false, isMirrored }];
  return { soup, ground: { surface: surfaceOfQuads(soup), curves, forms: [form, form], density: null } };
}

test('a corner of a mirror cut has two quads, so that the whole form has no point with two edges there', () => {
  const { soup, ground } = sheet(true);
  expect(doubletsOf(soup, ground.curves).map((q) => q % N)).toEqual([0, N - 1, 0, N - 1]);
  const made = withoutDoublets(soup, ground);
  expect(doubletsOf(made, ground.curves)).toEqual([]);
  expect(faultsOf(made, ground.curves)).toEqual([]);
  expect(verified(made, { euler: 1, borders: 1, parts: 1 }, []).reasons).toEqual([]);
  // nothing is left open that was not, and the rim is where it was
  const { borderEdges, nonManifoldVertices } = soupInfo(quadSoup(made));
  expect([borderEdges, nonManifoldVertices]).toEqual([4 * N, 0]);
});

test('a corner of a border keeps its one quad', () => {
  const { soup, ground } = sheet(false);
  expect(doubletsOf(soup, ground.curves)).toEqual([]);
  expect(withoutDoublets(soup, ground)).toBe(soup);
});
