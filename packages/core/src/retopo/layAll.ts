import { TopologyError } from '../errors';
import type { MirrorPlane } from '../math';
import { SculptSurface } from '../surface';
import type { Aside, StartAside } from './Aside';
import { drawnApart, wallsApart } from './fit/drawnApart';
import { unfold } from './fit/unfold';
import type { Triangles } from './form/clean';
import type { LaidPart } from './LaidPart';
import { Laying } from './Laying';
import { otherSideMissed } from './limbs/otherSide';
import { COUNT_OFF, type LaidAll, type LayAllOptions } from './options';
import { crossingQuads } from './quads/crossings';
import { FormCrossings } from './quads/FormCrossings';
import { keptOnHalf } from './quads/mirrored';
import type { QuadSoup } from './quads/QuadSoup';
import { Stages, type Watch } from './Stages';

/** A part that is so much of the whole leaves too little for another processor to begin with. */
const ALMOST = 0.95;
/** So much of the side that is not laid may be unlike the one that is without a word. */
const UNLIKE = 0.002;
/** More triangles than this are held once only. */
const MANY = 600_000;

/**
 * Automatic retopology: quads over triangles, about as many as asked for, along the form, its sharp edges and borders. Each part by a whole-number
 * grid over a cross field (Bommes et al. 2009; Knöppel et al. 2013), faults mended, every result verified; where that does not pass, finer; then over the part's
 * outer shell, if it is closed; else by paired triangles. Deterministic, with another processor's help or without. `watch` hears of each stage, and may throw to stop. Throws BAD_INPUT for nothing to
 * lay on, NO_WAY where even the last way does not pass. Cost: linear in the triangles up to the working mesh, then by the count: some seconds for thousands of quads.
 */
export function layAll(
  input: Triangles,
  options: LayAllOptions,
  watch: Watch = {},
  aside: Aside | null = null,
): LaidAll {
  const { plane } = options;
  const stages = new Stages(watch);
  stages.begin('Clean', 0);
  const laying = new Laying(input, options);
  const { mended, area, wanted } = laying;
  const parts = partsLaid(
    laying,
    stages,
    aside && input.indices.length / 3 <= MANY ? (errands) => aside.start(input, options, errands) : null,
  );
  mended.push(...parts.flatMap((part) => part.mended));
  const pieces = parts.flatMap((part) => part.pieces);
  for (const { verdict } of pieces)
    if (verdict.handlesLost > 0)
      mended.push(`${verdict.handlesLost} handle(s) too small for quads of this size closed`);
  for (const { lost } of pieces) {
    if (lost.drawn > 0)
      mended.push(`${lost.drawn} guide(s) or region border(s) that no chain of edges follows all along`);
    if (lost.ofForm > 0)
      mended.push(`${lost.ofForm} sharp edge(s) or border(s) that no chain of edges follows all along`);
  }
  const all = joined(pieces.map((piece) => piece.soup));
  if (plane) keptOnHalf(all, plane);
  // parts may run through each other, too
  const size = Math.sqrt(area / wanted);
  const { soup, crossing } = crossingsParted(all, size, plane, input);
  // put onto the plane, or drawn apart, a quad may have folded
  const folded = unfold(soup, plane);
  if (folded > 0) throw new TopologyError('NO_WAY', `${folded} quads stay folded on this surface. Ask for more faces, or mend the surface.`); // prettier-ignore
  const more = (soup.quads.length / 4) * (plane ? 2 : 1) - options.faces;
  if (Math.abs(more) > COUNT_OFF * options.faces) mended.push(`${Math.round(Math.abs(more))} quad(s) ${more > 0 ? 'more' : 'fewer'} than were asked for`); // prettier-ignore
  const missed = plane ? otherSideMissed(input, soup, plane, size) : 0;
  if (missed > UNLIKE) mended.push(`${Number((100 * missed).toPrecision(2))} % of the side beyond the mirror plane is unlike this one, and was not laid`); // prettier-ignore
  if (crossing.length > 0) mended.push(`${crossing.length} quad(s) left that cross others`);
  return {
    soup,
    mended: summed(mended),
    seconds: stages.finish(),
    routes: pieces.map(({ route, verdict: { irregular, interior } }) => ({ route, irregular, interior })),
  };
}

/** Quads that cross drawn apart, and those that do even so. Lips that overlap a little come apart; what runs deep through another part, as the form does, stays as it is, and does not count. All points are on their side of a mirror plane: no half runs through the other. */
function crossingsParted(
  all: QuadSoup,
  size: number,
  plane: MirrorPlane | null,
  { positions, indices }: Triangles,
): ReturnType<typeof drawnApart> {
  const drawn = wallsApart({ soup: all, crossing: crossingQuads(all) }, size, plane, crossingQuads);
  if (drawn.crossing.length === 0) return drawn;
  const form = (): SculptSurface => SculptSurface.build({ positions: Float32Array.from(positions), indices: Uint32Array.from(indices) }); // prettier-ignore
  return drawnApart(all, size, plane, new FormCrossings(form, size).crossingElsewhere);
}

/** Every part by whichever way is sound first, greatest first, on both processors where there are two: each its parts, or ways of the one that is almost all. */
function partsLaid(laying: Laying, stages: Stages, start: StartAside | null): LaidPart[] {
  const { shares } = laying;
  const order = [...shares.keys()].sort((a, b) => shares[b] - shares[a]);
  const isOne = shares[order[0]] >= ALMOST;
  const work = isOne ? undefined : start?.(order.map((part) => ({ part })));
  const laid: LaidPart[] = [];
  let done = 0;
  const take = (i: number, made: () => LaidPart): void => {
    stages.share = [done, shares[i]];
    stages.stretch = [0, 1];
    stages.part = i;
    laid[i] = made();
    stages.showQuads(joined(laid[i].pieces.map((piece) => piece.soup)));
    done += shares[i];
  };
  try {
    for (const [k, i] of order.entries())
      if (work?.claim(k) ?? true) take(i, () => laying.part(i, stages, isOne && k === 0 ? start : null));
    for (const [k, i] of order.entries()) {
      if (laid[i]) continue;
      take(i, () => {
        stages.begin('Other parts', 0.5);
        // what was refused there is refused here, too, and can be looked at
        return work?.answer(k) ?? laying.part(i, stages);
      });
    }
  } finally {
    work?.stop();
  }
  return laid;
}

function joined(soups: readonly QuadSoup[]): QuadSoup {
  const points: number[] = [];
  const quads: number[] = [];
  const onLine: number[] = [];
  for (const soup of soups) {
    const shift = onLine.length;
    for (const x of soup.points) points.push(x);
    for (const v of soup.quads) quads.push(v + shift);
    for (const line of soup.onLine) onLine.push(line);
  }
  return { points: Float64Array.from(points), quads: Int32Array.from(quads), onLine: Int32Array.from(onLine) };
}

/** The same sentence about several parts, once with its numbers added up, and of one or of several. */
function summed(lines: readonly string[]): string[] {
  const sums = new Map<string, number>();
  for (const line of lines) {
    const [n, ...words] = line.split(' ');
    const key = words.join(' ');
    sums.set(key, (sums.get(key) ?? 0) + Number(n.replaceAll(',', '')));
  }
  return [...sums].map(([words, n]) => `${n.toLocaleString('en')} ${words.replaceAll('(s)', n === 1 ? '' : 's')}`);
}
