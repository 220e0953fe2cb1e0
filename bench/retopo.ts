import { HalfLoopError } from '@half-loop/core/errors';
import { compareSurfaces } from '@half-loop/core/inspect';
import { boxOf, seededRng } from '@half-loop/core/math';
import {
  bothHalves,
  jumpShare,
  LAY_AS_USUAL,
  layAll,
  qualityOf,
  roundsOf,
  surfaceOfQuads,
  type LayAllOptions,
} from '@half-loop/core/retopo';
import { sculptFromSoup, SculptSurface, type TriangleData } from '@half-loop/core/surface';
import { ballSoup } from '@half-loop/core/testing';
import { blenny, crab, kelp, whelk } from '@half-loop/studies';
import { ThreadAside } from '@half-loop/threads';
import { RINGS, say } from './measure';

const aside = new ThreadAside(new URL('./asideWorker.js', import.meta.url));
const X = { axis: 'x', offset: 0 } as const;

/** What automatic retopology makes of smooth shapes and the demo's sculpts, at three counts; and where the seconds go. */
export async function retopo(): Promise<void> {
  say(
    '\nLay all, one run each: quads; irregular share; corners least / 5th percentile / mean; rms and greatest distance over the diagonal; strips round limbs that spiral; edges over twice as long as one beside them; s',
  );
  table('ball (80k)', sculptFromSoup(ballSoup(200)), [600, 2500, 8000]);
  table('Crab pincer (120k)', crab(), [600, 2500, 8000]);
  table('Blenny bust, half (153k)', blenny(), [600, 2500, 8000], X);
  table('Whelk horn (201k)', whelk(), [2500, 6000]);
  table('Kelp tendril (66k)', kelp(), [2500]);
  table('ball (1M)', sculptFromSoup(ballSoup(RINGS)), [5000]);
  say(`  memory, at most: ${Math.round(process.resourceUsage().maxRSS / 1024)} MB`);
}

/** A form of two parts of like size, on one core and on two, in turns. */
export async function parts(): Promise<void> {
  say('\nLay all over the Crab and the Whelk side by side (321k triangles), 5,000 quads; s');
  const both = beside(crab(), whelk());
  const taken: Record<'one' | 'two', number[]> = { one: [], two: [] };
  for (let round = 0; round < 3; round++)
    for (const cores of ['one', 'two'] as const) {
      const begun = performance.now();
      layAll(both, { ...LAY_AS_USUAL, faces: 5000 }, {}, cores === 'two' ? aside : null);
      taken[cores].push((performance.now() - begun) / 1000);
    }
  const middle = (all: number[]): number => all.sort((a, b) => a - b)[1];
  for (const cores of ['one', 'two'] as const)
    say(`  ${cores} core${cores === 'two' ? 's' : ' '} ${middle(taken[cores]).toFixed(1)} s of ${taken[cores].map((s) => s.toFixed(1)).join(' / ')}`); // prettier-ignore
  say(`  two over one: ${(middle(taken.two) / middle(taken.one)).toFixed(2)}`);
}

/** Two forms scaled to one width, side by side. */
function beside(...forms: readonly TriangleData[]): TriangleData {
  const positions: number[] = [];
  const indices: number[] = [];
  for (const [k, form] of forms.entries()) {
    const { min, max } = boxOf(form.positions);
    const first = positions.length / 3;
    form.positions.forEach((x, i) => positions.push((2 * (x - min[i % 3])) / (max[0] - min[0]) + (i % 3 === 0 ? 3 * k : 0))); // prettier-ignore
    for (const v of form.indices) indices.push(v + first);
  }
  return { positions: Float32Array.from(positions), indices: Uint32Array.from(indices) };
}

function table(
  name: string,
  triangles: TriangleData,
  counts: readonly number[],
  plane: LayAllOptions['plane'] = null,
): void {
  for (const faces of counts) {
    const begun = performance.now();
    const label = `  ${name.padEnd(26)} ${String(faces).padStart(5)}`;
    try {
      const laid = layAll(triangles, { ...LAY_AS_USUAL, faces, plane }, { now: () => performance.now() }, aside);
      const all = (performance.now() - begun) / 1000;
      const soup = plane ? bothHalves(laid.soup, plane) : laid.soup;
      const surface = SculptSurface.build({
        positions: triangles.positions.slice(),
        indices: triangles.indices.slice(),
      });
      const { rms, max, diagonal } = compareSurfaces(surfaceOfQuads(soup), surface, seededRng(1));
      const sum = (of: 'irregular' | 'interior'): number => laid.routes.reduce((total, r) => total + r[of], 0);
      const { least, low, mean } = qualityOf(soup.points, soup.quads).quality;
      const { closed, spiral } = roundsOf(soup);
      const ways = [...new Set(laid.routes.map((r) => r.route))].join(' and ');
      say(`${label} ${String(soup.quads.length / 4).padStart(5)}  ${((100 * sum('irregular')) / sum('interior')).toFixed(2)} %  ${least.toFixed(2)} / ${low.toFixed(2)} / ${mean.toFixed(3)}  ${((100 * rms) / diagonal).toFixed(3)} % ${((100 * max) / diagonal).toFixed(2)} %  ${((100 * spiral) / Math.max(1, closed + spiral)).toFixed(1)} %  ${(100 * jumpShare(soup)).toFixed(2)} %  ${all.toFixed(1)} s  ${ways}`); // prettier-ignore
      const slow = Object.entries(laid.seconds)
        .filter(([, s]) => s >= 0.3)
        .sort((a, b) => b[1] - a[1]);
      say(`      ${slow.map(([what, s]) => `${what} ${s.toFixed(1)}`).join(', ')}`);
    } catch (error) {
      if (!(error instanceof HalfLoopError)) throw error;
      say(`${label} refused after ${((performance.now() - begun) / 1000).toFixed(0)} s: ${error.message}`);
    }
  }
}
