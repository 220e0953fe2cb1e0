import fc from 'fast-check';
import { expect, test } from 'vitest';
import { seededRng } from '../../math';
import type { PolygonSoup } from '../../mesh';
import { sculptFromSoup } from '../../surface';
import { ballSoup, CUBE_SOUP } from '../../testing';
import { crossField } from '../field/field';
import { simplifyPoles } from '../field/poles';
import { cleaned } from '../form/clean';
import { LAY_AS_USUAL } from '../options';
import { Prepared } from '../Prepared';
import { eulerOf } from '../quads/QuadLinks';
import { Stages } from '../Stages';
import { extracted } from './extract';
import { Grid } from './grid';
import { seamsOf } from './seams';

/** A form on its way to so many quads, and the map of it. */
function mapped(soup: PolygonSoup, faces: number, keepEdges: number | null) {
  const [mesh] = cleaned(sculptFromSoup(soup)).parts;
  const options = { ...LAY_AS_USUAL, faces, keepEdges, density: null, loops: null };
  const prepared = new Prepared(mesh, faces, options, new Stages());
  const { work, size, working, corners } = prepared.taskOf(prepared.ready[0], 1);
  const field = crossField(work, { ratio: size / working, size, followForm: 2, sizes: null, loops: null, ridges: [] });
  const index = simplifyPoles(work, field, () => size, 5, null);
  const seams = seamsOf(work, field, index);
  const map = new Grid(work, field, seams, new Float64Array(work.triangles).fill(1), null, size, []).solve(size);
  return { work, seams, map, corners };
}

test('a map gives its quads; one that ran away, or is no number anywhere, is refused in place of filling memory', () => {
  const { work, seams, map, corners } = mapped(ballSoup(30, 1), 200, null);
  const soup = extracted(work, seams, map, corners);
  expect(soup.quads.length / 4).toBeCloseTo(map.area, 0);
  expect(eulerOf(soup)).toBe(2);
  const far = { ...map, places: map.places.map((x) => 1e6 * x) };
  const none = { ...map, places: map.places.map((x, i) => (i === 0 ? NaN : x)) };
  for (const bad of [far, none]) expect(() => extracted(work, seams, bad, corners)).toThrow(/no size/);
});

test('corners are where they are, however the map folds round them', () => {
  const { work, seams, map, corners } = mapped(CUBE_SOUP, 54, 40);
  const placeOf = (points: Float64Array, v: number): string => points.subarray(3 * v, 3 * v + 3).join();
  const wanted = [...corners.keys()].filter((v) => corners[v] === 1).map((v) => placeOf(work.points, v));
  expect(wanted).toHaveLength(8);
  const isCorner = new Uint8Array(map.places.length / 2);
  work.from.forEach((v, h) => h < 3 * work.triangles && corners[v] === 1 && (isCorner[seams.wedge[h]] = 1));
  fc.assert(
    fc.property(fc.nat(), fc.double({ min: 0, max: 1.5, noNaN: true }), (seed, far) => {
      const rng = seededRng(seed);
      const places = map.places.map((x, i) => (isCorner[i >> 1] ? x : x + far * (rng() - 0.5)));
      const { points, onLine } = extracted(work, seams, { ...map, places }, corners);
      const found = [...onLine.keys()].filter((v) => onLine[v] === -2).map((v) => placeOf(points, v));
      for (const place of wanted) expect(found).toContain(place);
    }),
    { numRuns: 30 },
  );
});
