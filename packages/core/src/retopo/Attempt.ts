import type { QuadSoup } from './extract';
import { cleaned, type Triangles } from './clean';
import { halfOf } from './halve';
import type { LaidAll, LayAllOptions } from './options';
import { areaIn, Part } from './Part';
import type { Stage, Stages } from './Stages';

/** A part gets at least so many quads. */
const LEAST = 12;

/** All parts of an input by the grid; those that did not pass may then be paired. */
export class Attempt {
  private readonly parts: Part[];
  private readonly mended: string[];

  constructor(input: Triangles, options: LayAllOptions, stages: Stages) {
    const [from, size] = stages.share;
    stages.begin('Clean', 0);
    const { parts, mended } = cleaned(options.plane ? halfOf(input, options.plane) : input);
    this.mended = mended;
    const total = parts.reduce((sum, part) => sum + areaIn(part), 0);
    const wanted = options.faces / (options.plane ? 2 : 1);
    this.parts = parts.map((mesh, i) => {
      stages.share = [from + (size * i) / parts.length, size / parts.length];
      return new Part(mesh, Math.max(LEAST, (wanted * areaIn(mesh)) / total), options, stages);
    });
  }

  get isSound(): boolean {
    return this.parts.every((part) => part.isSound);
  }
  get isClosed(): boolean {
    return this.parts.every((part) => part.isClosed);
  }
  pairRest(): void {
    for (const part of this.parts) part.pairRest();
  }
  result(stages: Stage[]): LaidAll {
    const pieces = this.parts.flatMap((part) => part.pieces);
    const mended = [...this.mended, ...this.parts.flatMap((part) => part.mended)];
    for (const { verdict } of pieces)
      if (verdict.handlesLost > 0)
        mended.push(`${verdict.handlesLost} handles too small for quads of this size closed`);
    return {
      soup: joined(pieces.map(({ soup }) => soup)),
      mended: summed(mended),
      stages,
      routes: pieces.map(({ route, verdict: { irregular, interior } }) => ({ route, irregular, interior })),
    };
  }
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
