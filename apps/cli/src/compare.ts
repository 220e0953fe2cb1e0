import { compareSurfaces } from '@half-loop/core/inspect';
import { seededRng } from '@half-loop/core/math';
import { sculptFromSoup, SculptSurface } from '@half-loop/core/surface';
import type { Command } from './arguments';
import { load } from './load';

export const compare: Command = {
  files: ['LOW', 'HIGH'],
  flags: ['json', 'no-weld'],
  numbers: { seed: 1 },
  help: `half-loop compare LOW HIGH [--json] [--no-weld] [--seed N]

Distance from LOW to HIGH and back over samples spread by area: rms, mean and max in the file's units, and over HIGH's diagonal.

  half-loop compare docs/sample/limpet.obj docs/sample/limpet.obj --json`,
  async run({ files, flags, numbers }) {
    const [low, high] = await Promise.all(
      files.map(async (f) => SculptSurface.build(sculptFromSoup(await load(f, !flags.has('no-weld'))))),
    );
    const data = compareSurfaces(low, high, seededRng(numbers.seed));
    const row = (name: string, d: { rms: number; mean: number; max: number }): string =>
      `${name.padEnd(12)} rms ${d.rms.toPrecision(5)}  mean ${d.mean.toPrecision(5)}  max ${d.max.toPrecision(5)}`;
    const lines = [
      row('low to high', data.lowToHigh),
      row('high to low', data.highToLow),
      row('both', data),
      row('/ diagonal', data.relative),
    ];
    return { data, lines };
  },
};
