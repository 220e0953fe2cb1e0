import { writeFile } from 'node:fs/promises';
import path from 'node:path';
import { endingOf, isWriteFormat, WRITE_FORMATS, writeMesh } from '@half-loop/core/formats';
import { compareSurfaces } from '@half-loop/core/inspect';
import { AXES, seededRng, type Axis } from '@half-loop/core/math';
import { bothHalves, layAll, quadSoup, qualityOf, surfaceOfQuads } from '@half-loop/core/retopo';
import { sculptFromSoup, SculptSurface } from '@half-loop/core/surface';
import { UsageError, type Command } from './arguments';
import { load } from './load';

export const retopo: Command = {
  files: ['FILE'],
  flags: ['json', 'no-weld', 'keep-dust'],
  numbers: { faces: NaN, evenness: 0.7, 'follow-form': 1, 'keep-edges': NaN, seed: 1 },
  texts: { '-o': 'needed', '--symmetry': 'optional' },
  help: `half-loop retopo FILE -o OUT --faces N [--symmetry x|y|z] [--evenness 0..1] [--follow-form 0..1] [--keep-edges DEG] [--keep-dust] [--seed N] [--json]

Lays quads over all of FILE, about N of them, and writes them to OUT by its ending. --symmetry lays the half on the axis's positive side
and mirrors it, exactly. --evenness 0 makes all quads alike, 1 makes them smaller where the form is thin. --keep-edges keeps edges sharper than DEG as
edges. Parts smaller than two quads are dropped, and told, but for --keep-dust. The answer says what was repaired, the way each part was made, measures, and seconds by stage; --seed is that of the distance's samples.

  half-loop retopo docs/sample/limpet.obj -o limpet-low.obj --faces 300 --json`,
  async run({ files: [file], flags, numbers, texts }) {
    const out = texts.o;
    const format = endingOf(out);
    if (!isWriteFormat(format)) throw new UsageError(`OUT must end in ${WRITE_FORMATS.map((f) => `.${f}`).join(', ')}`);
    if (!(numbers.faces >= 6)) throw new UsageError('--faces wants how many, 6 or more');
    const axis = texts.symmetry as Axis | undefined;
    if (axis !== undefined && !AXES.includes(axis)) throw new UsageError('--symmetry wants x, y or z');
    const plane = axis === undefined ? null : { axis, offset: 0 };
    const input = sculptFromSoup(await load(file, !flags.has('no-weld')));
    const clock = new StageClock();
    const laid = layAll(
      input,
      {
        faces: numbers.faces,
        evenness: numbers.evenness,
        followForm: numbers['follow-form'],
        keepEdges: Number.isNaN(numbers['keep-edges']) ? null : numbers['keep-edges'],
        plane,
        dropDust: !flags.has('keep-dust'),
      },
      (name) => clock.begin(name),
    );
    const soup = plane ? bothHalves(laid.soup, plane) : laid.soup;
    const { bytes, notes } = await writeMesh(quadSoup(soup), format, { name: path.basename(out, path.extname(out)) });
    await writeFile(out, bytes);
    const faces = soup.quads.length / 4;
    const { rms, mean, max, diagonal } = compareSurfaces(surfaceOfQuads(soup), SculptSurface.build(input), seededRng(numbers.seed)); // prettier-ignore
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
      seconds: clock.seconds(),
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

/** Seconds by stage, from when each began to when the next did. */
class StageClock {
  private readonly spent: Record<string, number> = {};
  private stage: { name: string; since: number } | null = null;

  begin(name: string): void {
    const now = performance.now();
    if (this.stage) this.spent[this.stage.name] = (this.spent[this.stage.name] ?? 0) + (now - this.stage.since) / 1000;
    this.stage = { name, since: now };
  }
  seconds(): Record<string, number> {
    return this.spent;
  }
}
