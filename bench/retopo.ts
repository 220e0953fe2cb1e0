import { HalfLoopError } from '@half-loop/core/errors';
import { compareSurfaces } from '@half-loop/core/inspect';
import { seededRng } from '@half-loop/core/math';
import {
  bothHalves,
  jumpShare,
  LAY_AS_USUAL,
  layAll,
  qualityOf,
  roundsOf,
  shownSurface,
  type LaidAll,
  type LayAllOptions,
} from '@half-loop/core/retopo';
import { sculptFromSoup, SculptSurface, type TriangleData } from '@half-loop/core/surface';
import { ballSoup, gearOutline, prismSoup, sideBySide, starOutline } from '@half-loop/core/testing';
import { blenny, crab, kelp, whelk } from '@half-loop/studies';
import { ThreadAside } from '@half-loop/threads';
import { formOf, FORMS } from './forms';
import { ms, pair, RINGS, say } from './measure';

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

/** Edges sharper than this are kept where edges are, degrees. */
const SHARP = 30;

/** What it makes of forms of flat faces whose edges are kept: how many of these no chain of edges follows is told. */
export async function sharp(): Promise<void> {
  say(`\nLay all, edges sharper than ${SHARP}° kept, as above`);
  const prisms: [string, [number, number][], number, number[]][] = [
    ['wedge of 14°', [[0, 0], [6, 0], [6, 1.5]], 3, [400, 2500]],
    ['spear of 8°', [[0, 0], [9, -0.6], [9.8, 0], [9, 0.6]], 0.3, [600, 2500]],
    ['star of 7 points', starOutline(7, 0.4), 0.375, [600, 2500]],
    ['saw of 30 teeth', starOutline(30, 0.86), 0.12, [1500, 3000]],
    ['gear of 24 teeth', gearOutline(24), 1.2, [1500, 2500, 4000]],
  ]; // prettier-ignore
  for (const [name, outline, height, counts] of prisms)
    table(name, sculptFromSoup(prismSoup(outline, height)), counts, null, SHARP);
}

/** Forms that no setting of the engine was chosen by, and at which counts. */
const AT_COUNTS = ['hand:600', 'hand:2500', 'octopus:600', 'octopus:2500', 'starfish:600', 'seahorse:1500', 'ray:2500', 'turtle:1500:mirrored', 'newt:1000:mirrored', 'newt:2500:mirrored', 'urchin:2500', 'jellyfish:2500', 'cutlass:2000', 'jug:2500', 'anchor:2500', 'helmet:3000', 'wheel:2500', 'coral:2500', 'lantern:3000', 'knot:2500']; // prettier-ignore
const FORM_AT = /^(\w+):(\d+)(:mirrored)?$/;

/** Whether a word names a form and a count. */
export const isFormAt = (word: string): boolean => FORM_AT.test(word);

/** What it makes of other forms, each given as name:count, or name:count:mirrored, of which one half is laid. Throws for a form that there is not. */
export function forms(wanted: readonly string[]): void {
  say('\nLay all over forms that nothing is tuned at, as above');
  for (const word of wanted.length > 0 ? wanted : AT_COUNTS) {
    const [, name, count, isMirrored] = FORM_AT.exec(word) ?? [];
    const form = formOf(name);
    if (!form) throw new Error(`There is no form “${name}”; there are ${FORMS.join(', ')}.`);
    table(isMirrored ? `${name}, half` : name, form, [Number(count)], isMirrored ? X : null);
  }
}

/** A form of two parts of like size, on two cores and on one. */
export async function parts(): Promise<void> {
  const both = sideBySide(crab(), whelk());
  say(`\nLay all over the Crab and the Whelk side by side (${Math.round(both.indices.length / 3000)}k triangles), 5,000 quads`); // prettier-ignore
  const laid = (other: ThreadAside | null): LaidAll => layAll(both, { ...LAY_AS_USUAL, faces: 5000 }, {}, other);
  const { ours, theirs, ratio } = await pair(() => laid(aside), () => laid(null), 3); // prettier-ignore
  say(`  two cores ${ms(ours)}, one ${ms(theirs)}: one over two ${ratio.toFixed(2)}`);
}

function table(
  name: string,
  triangles: TriangleData,
  counts: readonly number[],
  plane: LayAllOptions['plane'] = null,
  keepEdges: number | null = null,
): void {
  for (const faces of counts) {
    const begun = performance.now();
    const label = `  ${name.padEnd(26)} ${String(faces).padStart(5)}`;
    try {
      const laid = layAll(
        triangles,
        { ...LAY_AS_USUAL, faces, plane, keepEdges },
        { now: () => performance.now() },
        aside,
      );
      const all = (performance.now() - begun) / 1000;
      const soup = plane ? bothHalves(laid.soup, plane) : laid.soup;
      const surface = SculptSurface.build({
        positions: triangles.positions.slice(),
        indices: triangles.indices.slice(),
      });
      const { rms, max, diagonal } = compareSurfaces(shownSurface(soup), surface, seededRng(1));
      const sum = (of: 'irregular' | 'interior'): number => laid.routes.reduce((total, r) => total + r[of], 0);
      const { least, low, mean } = qualityOf(soup.points, soup.quads).quality;
      const { closed, spiral } = roundsOf(soup);
      const ways = [...new Set(laid.routes.map((r) => r.route))].join(' and ');
      say(`${label} ${String(soup.quads.length / 4).padStart(5)}  ${((100 * sum('irregular')) / sum('interior')).toFixed(2)} %  ${least.toFixed(2)} / ${low.toFixed(2)} / ${mean.toFixed(3)}  ${((100 * rms) / diagonal).toFixed(3)} % ${((100 * max) / diagonal).toFixed(2)} %  ${((100 * spiral) / Math.max(1, closed + spiral)).toFixed(1)} %  ${(100 * jumpShare(soup)).toFixed(2)} %  ${all.toFixed(1)} s  ${ways}`); // prettier-ignore
      const slow = Object.entries(laid.seconds)
        .filter(([, s]) => s >= 0.3)
        .sort((a, b) => b[1] - a[1]);
      say(`      ${[slow.map(([what, s]) => `${what} ${s.toFixed(1)}`).join(', '), ...laid.mended].join('; ')}`);
    } catch (error) {
      if (!(error instanceof HalfLoopError)) throw error;
      say(`${label} refused after ${((performance.now() - begun) / 1000).toFixed(0)} s: ${error.message}`);
    }
  }
}
