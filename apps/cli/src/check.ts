import { compareSurfaces, inspectSoup, soupInfo, type Finding } from '@half-loop/core/inspect';
import { seededRng } from '@half-loop/core/math';
import { sculptFromSoup, SculptSurface } from '@half-loop/core/surface';
import type { Command } from './arguments';
import { load } from './load';

const ORDER = ['fault', 'warning', 'note'];

export const check: Command = {
  files: ['FILE'],
  flags: ['json', 'no-weld'],
  numbers: { seed: 1 },
  texts: { '--sculpt': 'optional' },
  help: `half-loop check FILE [--sculpt FILE] [--json] [--no-weld] [--seed N]

The proof sheet as data: findings {kind, severity, elements, message, fix}, worst first; the measures of a mesh; with --sculpt
also the two-sided distance to it (rms, mean, max, and over its diagonal). Elements are the file's points and faces
from 0, edges as pairs of points. Findings are no refusal: exit 0.

  half-loop check docs/sample/limpet.obj --json`,
  async run({ files: [file], flags, numbers, texts }) {
    const soup = await load(file, !flags.has('no-weld'));
    const { findings, measures } = inspectSoup(soup);
    const sorted = findings.toSorted((a, b) => ORDER.indexOf(a.severity) - ORDER.indexOf(b.severity));
    const { vertices, edges, faces, quads, triangles, ngons, components, borderLoops, genus } = soupInfo(soup);
    const counts = { vertices, edges, faces, quads, triangles, ngons, components, borderLoops, genus };
    const deviation = texts.sculpt ? await distance(soup, texts.sculpt, numbers.seed) : null;
    const data = { ...counts, measures, ...(deviation ? { deviation } : {}), findings: sorted };
    const show = (f: Finding): string => `${f.severity.padEnd(8)} ${f.kind.padEnd(18)} ${f.message}`;
    const lines = [
      `${faces} faces: ${quads} quads, ${triangles} triangles, ${ngons} n-gons; ${(100 * measures.quadShare).toFixed(1)} % quads`,
      ...(deviation ? [`distance to the sculpt: mean ${deviation.mean.toPrecision(4)}, worst ${deviation.max.toPrecision(4)}`] : []), // prettier-ignore
      ...(sorted.length > 0 ? sorted.map(show) : ['nothing found']),
    ];
    return { data, lines };
  },
};

async function distance(soup: Awaited<ReturnType<typeof load>>, sculpt: string, seed: number) {
  const high = SculptSurface.build(sculptFromSoup(await load(sculpt, true)));
  return compareSurfaces(SculptSurface.build(sculptFromSoup(soup)), high, seededRng(seed));
}
