import { expect, it } from 'vitest';
import { compareSurfaces } from '../inspect';
import { seededRng } from '../math';
import { sculptFromSoup, SculptSurface } from '../surface';
import { ballSoup, wildShape } from '../testing';
import { LAY_AS_USUAL, layAll, qualityOf, surfaceOfQuads, type Triangles } from '.';

/** What was measured when the engine was last changed for the better: poles, corner quality, rms distance in % of the diagonal. `npm run bench -- retopo` has more. */
const KEPT: readonly {
  name: string;
  input: () => Triangles;
  faces: number;
  poles: number;
  low: number;
  mean: number;
  rms: number;
}[] = [
  // prettier-ignore
  { name: 'a ball', input: () => sculptFromSoup(ballSoup(50)), faces: 300, poles: 8, low: 0.879, mean: 0.9854, rms: 0.2272 },
  {
    name: 'a body with limbs and rings',
    input: () => wildShape(35),
    faces: 694,
    poles: 10,
    low: 0.9418,
    mean: 0.9807,
    rms: 0.192,
  },
];

it.each(KEPT)('$name is laid no more than a tenth worse than it was', ({ input, faces, poles, low, mean, rms }) => {
  const triangles = input();
  const { soup, routes } = layAll(triangles, { ...LAY_AS_USUAL, faces });
  const surface = SculptSurface.build({ positions: Float32Array.from(triangles.positions), indices: Uint32Array.from(triangles.indices) }); // prettier-ignore
  const away = compareSurfaces(surfaceOfQuads(soup), surface, seededRng(1));
  const { quality } = qualityOf(soup.points, soup.quads);
  const irregular = routes.reduce((sum, r) => sum + r.irregular, 0);
  // what is asked for is mostly a budget
  expect(soup.quads.length / 4).toBeLessThanOrEqual(faces);
  expect(soup.quads.length / 4).toBeGreaterThanOrEqual(0.98 * faces);
  expect(irregular).toBeLessThanOrEqual(1.1 * poles);
  expect(1 - quality.low).toBeLessThan(1.1 * (1 - low));
  expect(1 - quality.mean).toBeLessThan(1.1 * (1 - mean));
  expect((100 * away.rms) / away.diagonal).toBeLessThan(1.1 * rms);
});
