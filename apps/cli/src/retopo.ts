import { readFile, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { endingOf, isWriteFormat, readObjLines, WRITE_FORMATS, writeMesh } from '@half-loop/core/formats';
import { compareSurfaces } from '@half-loop/core/inspect';
import { AXES, seededRng, type Axis } from '@half-loop/core/math';
import type { PolygonSoup } from '@half-loop/core/mesh';
import {
  bothHalves,
  layAll,
  qualityOf,
  quadSoup,
  regionBorders,
  shownSurface,
  type DrawnLine,
} from '@half-loop/core/retopo';
import { subdivide } from '@half-loop/core/subdivide';
import { GONE, sculptFromSoup, SculptSurface, type SoupTriangles } from '@half-loop/core/surface';
import { ThreadAside } from '@half-loop/threads';
import { UsageError, type Command } from './arguments';
import { load } from './load';

export const retopo: Command = {
  files: ['FILE'],
  flags: ['json', 'no-weld', 'keep-dust', 'regions', 'density', 'loops'],
  numbers: { faces: NaN, evenness: 0.7, 'follow-form': 1, 'keep-edges': NaN, levels: 0, smooth: 0, seed: 1 },
  texts: { '-o': 'needed', '--symmetry': 'optional', '--guides': 'optional' },
  help: `half-loop retopo FILE -o OUT --faces N [--symmetry x|y|z] [--evenness 0..1] [--follow-form 0..1] [--keep-edges DEG]
       [--guides LINES.obj] [--regions] [--density] [--loops] [--levels 0..3] [--smooth ROUNDS] [--keep-dust] [--seed N] [--json]

Lays quads over all of FILE, about N of them, and writes them to OUT by its ending. --symmetry lays the half on the axis's positive side
and mirrors it, exactly. --evenness 0 makes all quads alike, 1 makes them smaller where the form is thin or curved. --keep-edges keeps edges sharper than DEG as
edges. --guides reads line elements (l 1 2 3 …) out of an OBJ: chains of edges will follow them. --regions has chains of edges follow the borders between FILE's
face groups. --density reads FILE's point colours: mid-grey is as usual, white four times as many quads in the same place, black a quarter. --loops lets quads run along FILE's own edges; --levels lays over its subdivided shape; --smooth
smooths the form first. Parts smaller than two quads are dropped, and told, but for --keep-dust. The answer says what was repaired, the way each part was made, measures, and seconds by stage; --seed is that of the distance's samples.

  half-loop retopo docs/sample/limpet.obj -o limpet-low.obj --faces 300 --json`,
  async run({ files: [file], flags, numbers, texts }) {
    const out = texts.o;
    const format = endingOf(out);
    if (!isWriteFormat(format)) throw new UsageError(`OUT must end in ${WRITE_FORMATS.map((f) => `.${f}`).join(', ')}`);
    if (!(numbers.faces >= 6)) throw new UsageError('--faces wants how many, 6 or more');
    const axis = texts.symmetry as Axis | undefined;
    if (axis !== undefined && !AXES.includes(axis)) throw new UsageError('--symmetry wants x, y or z');
    const plane = axis === undefined ? null : { axis, offset: 0 };
    const polygons = await load(file, !flags.has('no-weld'));
    if (![0, 1, 2, 3].includes(numbers.levels)) throw new UsageError('--levels wants 0, 1, 2 or 3');
    if (numbers.levels > 0 && (flags.has('regions') || flags.has('density'))) throw new UsageError('--levels goes with neither --regions nor --density: they are of the faces as they are'); // prettier-ignore
    const input = sculptFromSoup(numbers.levels > 0 ? subdivide({ ...polygons, positions: Float64Array.from(polygons.positions) }, numbers.levels) : polygons); // prettier-ignore
    const lines: DrawnLine[] = texts.guides === undefined ? [] : readObjLines(await readFile(texts.guides));
    if (texts.guides !== undefined && lines.length === 0) throw new UsageError(`${texts.guides} has no line elements`);
    if (flags.has('regions')) lines.push(...bordersIn(input, polygons, file));
    const laid = layAll(
      input,
      {
        faces: numbers.faces,
        evenness: numbers.evenness,
        followForm: numbers['follow-form'],
        keepEdges: Number.isNaN(numbers['keep-edges']) ? null : numbers['keep-edges'],
        plane,
        dropDust: !flags.has('keep-dust'),
        lines,
        loops: flags.has('loops') ? polygons : null,
        smoothing: numbers.smooth,
        density: flags.has('density') ? densityIn(input, polygons, file) : null,
      },
      { now: () => performance.now() },
      new ThreadAside(new URL('./asideWorker.js', import.meta.url)),
    );
    const soup = plane ? bothHalves(laid.soup, plane) : laid.soup;
    const { bytes, notes } = await writeMesh(quadSoup(soup), format, { name: path.basename(out, path.extname(out)) });
    await writeFile(out, bytes);
    const faces = soup.quads.length / 4;
    const { rms, mean, max, diagonal } = compareSurfaces(shownSurface(soup), SculptSurface.build(input), seededRng(numbers.seed)); // prettier-ignore
    const irregular = laid.routes.reduce((sum, r) => sum + r.irregular, 0);
    const interior = laid.routes.reduce((sum, r) => sum + r.interior, 0);
    const { quality } = qualityOf(soup.points, soup.quads);
    const data = {
      file: out,
      faces,
      quadShare: 1,
      countError: Math.abs(faces - numbers.faces) / numbers.faces,
      irregularShare: irregular / Math.max(1, interior),
      cornerQuality: { least: quality.least, p5: quality.low, mean: quality.mean },
      deviation: { rms, mean, max, diagonal },
      routes: laid.routes,
      mended: laid.mended,
      seconds: laid.seconds,
      notes,
    };
    const percent = (x: number): string => `${(100 * x).toPrecision(3)} %`;
    return {
      data,
      lines: [
        `${out}: ${faces} quads, ${irregular} irregular points (${percent(data.irregularShare)})`,
        `corner quality: least ${quality.least.toFixed(2)}, 5th percentile ${quality.low.toFixed(2)}, mean ${quality.mean.toFixed(3)}`,
        `distance: rms ${percent(rms / diagonal)}, greatest ${percent(max / diagonal)} of the diagonal`,
        ...laid.mended,
        ...Object.entries(data.seconds).map(([name, s]) => `${name}: ${s.toFixed(2)} s`),
      ],
    };
  },
};

/** The borders between a file's face groups. */
function bordersIn(input: SoupTriangles, { attributes }: PolygonSoup, file: string): DrawnLine[] {
  const groups = attributes?.groups;
  if (!groups) throw new UsageError(`${file} has no face groups for --regions`);
  return regionBorders(
    input,
    Uint32Array.from(input.faceOf, (f) => groups.ofFace[f]),
  );
}

/** How many quads in the place of one, per point, by its colour: a quarter for black, four times for white. */
function densityIn(input: SoupTriangles, { attributes }: PolygonSoup, file: string): Float64Array {
  const colours = attributes?.pointColours;
  if (!colours) throw new UsageError(`${file} has no point colours for --density`);
  const density = new Float64Array(input.positions.length / 3);
  input.remap.forEach((v, i) => {
    if (v !== GONE) density[v] = 16 ** ((colours[4 * i] + colours[4 * i + 1] + colours[4 * i + 2]) / 3 - 0.5);
  });
  return density;
}
