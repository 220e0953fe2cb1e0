import { TopologyError } from '../errors';
import { cleaned, type Triangles } from './clean';
import { crossingInAll } from './crossings';
import { drawnApart } from './drawnApart';
import { densityOf } from './density';
import { loopsThere } from './loopsThere';
import { linesOfHalf, type DrawnLine } from './drawn';
import type { QuadSoup } from './extract';
import { smoothed } from './field';
import type { Piece } from './gridQuads';
import { halfOf, keptOnHalf } from './halve';
import { COUNT_OFF, type Asked, type LaidAll, type LayAllOptions } from './options';
import { overShell } from './overShell';
import { Part } from './Part';
import { areaIn, surfaceOf } from './Prepared';
import { Stages, type Watch } from './Stages';
import type { TriMesh } from './TriMesh';
import { unfold } from './unfold';

/** A part gets at least so many quads. */
const LEAST = 12;
/** Parts with less area than so many quads are dust. */
const DUST = 2;

/**
 * Automatic retopology: quads over triangles, about as many as asked for, along the form, its sharp edges and borders. Each part by a whole-number
 * grid over a cross field (Bommes et al. 2009; Knöppel et al. 2013), faults mended, every result verified; where that does not pass, finer; then over the part's
 * outer shell, if it is closed; else by paired triangles. Deterministic. `watch` hears of each stage, and may throw to stop. Throws BAD_INPUT for nothing to
 * lay on, NO_WAY where even the last way does not pass. Cost: linear in the triangles up to the working mesh, then by the count: some seconds for thousands of quads.
 */
export function layAll(input: Triangles, options: LayAllOptions, watch: Watch = {}): LaidAll {
  const { plane } = options;
  const stages = new Stages(watch);
  stages.begin('Clean', 0);
  const { parts: found, mended } = cleaned(plane ? halfOf(input, plane) : input);
  const wanted = options.faces / (plane ? 2 : 1);
  const parts = options.dropDust ? withoutDust(found, wanted, mended) : found;
  if (options.smoothing > 0) for (const part of parts) part.points.set(smoothed(part, options.smoothing, plane));
  const total = parts.reduce((sum, part) => sum + areaIn(part), 0);
  const lines = linesByPart(parts, plane ? linesOfHalf(options.lines, plane) : options.lines);
  const density = options.density && densityOf(input, options.density);
  const loops = options.loops && loopsThere(options.loops);
  const pieces: Piece[] = [];
  let done = 0;
  parts.forEach((mesh, i) => {
    const share = areaIn(mesh) / total;
    stages.share = [done, share];
    stages.stretch = [0, 1];
    stages.part = i;
    const own: Asked = { ...options, lines: lines[i], density, loops };
    const made = partLaid(mesh, Math.max(LEAST, wanted * share), own, stages, mended);
    const { points, quads } = joined(made.map((piece) => piece.soup));
    stages.show(points, quads, 4);
    pieces.push(...made);
    done += share;
  });
  for (const { verdict } of pieces)
    if (verdict.handlesLost > 0) mended.push(`${verdict.handlesLost} handles too small for quads of this size closed`);
  for (const { lost } of pieces) {
    if (lost.drawn > 0) mended.push(`${lost.drawn} guides or region borders that no chain of edges follows all along`);
    if (lost.ofForm > 0) mended.push(`${lost.ofForm} sharp edges or borders that no chain of edges follows all along`);
  }
  const all = joined(pieces.map((piece) => piece.soup));
  if (plane) keptOnHalf(all, plane);
  // parts and halves may run through each other, too
  const { soup, crossing } = drawnApart(all, Math.sqrt(total / wanted), plane, (own) => crossingInAll(own, plane));
  // put onto the plane, or drawn apart, a quad may have folded
  const folded = unfold(soup, plane);
  if (folded > 0) throw new TopologyError('NO_WAY', `${folded} quads stay folded on this surface. Ask for more faces, or mend the surface.`); // prettier-ignore
  const more = (soup.quads.length / 4) * (plane ? 2 : 1) - options.faces;
  if (Math.abs(more) > COUNT_OFF * options.faces) mended.push(`${Math.round(Math.abs(more))} quads ${more > 0 ? 'more' : 'fewer'} than were asked for`); // prettier-ignore
  if (crossing.length > 0) mended.push(`${crossing.length} quads left that run through others`);
  return {
    soup,
    mended: summed(mended),
    seconds: stages.finish(),
    routes: pieces.map(({ route, verdict: { irregular, interior } }) => ({ route, irregular, interior })),
  };
}

/** One part by whichever way is sound first; quads that lack a few small handles are better than the shell, the shell than pairs; what then runs through itself is laid without its sharp edges. */
function partLaid(mesh: TriMesh, target: number, options: Asked, stages: Stages, mended: string[]): Piece[] {
  const area = areaIn(mesh);
  // laying takes the mesh apart
  const again = options.keepEdges === null ? null : mesh.copied();
  const part = new Part(mesh, target, options, stages);
  if (!part.isLaid && part.isClosed) {
    const over = overShell(part, area, options, stages);
    if (over) {
      mended.push(...over.mended);
      return over.pieces;
    }
  }
  const pieces = part.pieces();
  const plain = again && crossingsIn(pieces) > 0 ? withoutEdges(again, target, options, stages) : null;
  if (plain && crossingsIn(plain.pieces) < crossingsIn(pieces)) {
    mended.push(...plain.mended, '1 parts laid without their sharp edges, which are nearer to each other than quads are wide'); // prettier-ignore
    return plain.pieces;
  }
  mended.push(...part.mended);
  return pieces;
}

/** A part whose sharp edges are nearer to each other than quads are wide leaves those no way past each other: laid without them; null where there is none either. */
function withoutEdges(
  mesh: TriMesh,
  target: number,
  options: Asked,
  stages: Stages,
): { pieces: Piece[]; mended: string[] } | null {
  const part = new Part(mesh, target, { ...options, keepEdges: null }, stages);
  try {
    return { pieces: part.pieces(), mended: part.mended };
  } catch (error) {
    if (error instanceof TopologyError) return null;
    throw error;
  }
}

const crossingsIn = (pieces: readonly Piece[]): number => pieces.reduce((sum, { crossing }) => sum + crossing, 0);

/** Each line with the part that it lies nearest to. Cost: with several parts, a BVH of each and a closest point for each point of a line. */
function linesByPart(parts: readonly TriMesh[], lines: readonly DrawnLine[]): DrawnLine[][] {
  const own: DrawnLine[][] = parts.map(() => []);
  if (parts.length === 1 || lines.length === 0) return own.map(() => [...lines]);
  const surfaces = parts.map(surfaceOf);
  for (const line of lines) {
    const away = surfaces.map((surface) => line.points.reduce((sum, p) => sum + surface.closest(p).distance, 0));
    own[away.indexOf(Math.min(...away))].push(line);
  }
  return own;
}

function withoutDust(parts: readonly TriMesh[], faces: number, mended: string[]): TriMesh[] {
  const total = parts.reduce((sum, part) => sum + areaIn(part), 0);
  const most = Math.max(...parts.map(areaIn));
  const kept = parts.filter((part) => areaIn(part) >= Math.min(most, (DUST * total) / faces));
  if (kept.length < parts.length) mended.push(`${parts.length - kept.length} parts smaller than ${DUST} quads dropped`);
  return kept;
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

/** The same sentence about several parts, once with its numbers added up. */
function summed(lines: readonly string[]): string[] {
  const sums = new Map<string, number>();
  for (const line of lines) {
    const [n, ...words] = line.split(' ');
    const key = words.join(' ');
    sums.set(key, (sums.get(key) ?? 0) + Number(n.replaceAll(',', '')));
  }
  return [...sums].map(([words, n]) => `${n.toLocaleString('en')} ${words}`);
}
