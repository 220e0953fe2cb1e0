import type { CrossField } from './field/field';
import { polesAt, type Pole } from './field/poles';
import { sampleLoops, type SampleLoop } from './field/sampleLoops';
import type { TriMesh } from './form/TriMesh';
import { edgesOff, QuadLinks } from './quads/QuadLinks';
import type { QuadSoup } from './quads/QuadSoup';

/** How far a part of the form has come, to be looked at. */
export interface Look {
  /** which part, by its number */
  part: number;
  /** f64[3·V] */
  points: Float64Array;
  /** i32[sides·F] */
  faces: Int32Array;
  sides: 3 | 4;
  /** lines that quads will run along; none before they are known, nor once there are quads */
  loops: readonly SampleLoop[];
  /** where other than four edges meet, or will */
  poles: readonly Pole[];
}

/** Sample loops that are looked at run so many quads apart. */
const APART = 2;

/** Who wants to know how it goes. */
export interface Watch {
  /** a stage begins; how far the whole is, in [0, 1]. May throw to stop. */
  stage?: (name: string, done: number) => void;
  /** each part as triangles and then as quads */
  look?: (look: Look) => void;
  /** a clock, milliseconds: there is none in here */
  now?: () => number;
}

/** Ways after the first, as they are told: a part is laid in no more. */
const WAYS = ['second', 'third', 'fourth', 'fifth', 'sixth', 'seventh'];

/** Tells what is being worked on, how far the whole is, and what there is to see. */
export class Stages {
  /** where the present part begins in the whole, and how much of it it is */
  share: [number, number] = [0, 1];
  /** the present part's number */
  part = 0;
  /** where what is under way begins in its part, and how much of that it is */
  stretch: [number, number] = [0, 1];
  /** how many ways were tried before the present one */
  way = 0;
  private furthest = 0;
  private readonly spent: Record<string, number> = {};
  private current: { name: string; since: number } | null = null;

  constructor(private readonly watch: Watch = {}) {}

  /** Shows the present part as triangles. */
  showForm({ points, from }: TriMesh): void {
    this.watch.look?.({ part: this.part, points, faces: from, sides: 3, loops: [], poles: [] });
  }
  /** Shows how quads of a size will run over it. Cost, where somebody looks: the triangles that the loops run through. */
  showFlow(mesh: TriMesh, field: CrossField, index: Int8Array, size: number): void {
    const loops = (): SampleLoop[] => sampleLoops(mesh, field, APART * size);
    this.watch.look?.({ part: this.part, points: mesh.points, faces: mesh.from, sides: 3, loops: loops(), poles: polesAt(mesh, index) }); // prettier-ignore
  }
  /** Shows it as quads. */
  showQuads(soup: QuadSoup): void {
    this.watch.look?.({ part: this.part, points: soup.points, faces: soup.quads, sides: 4, loops: [], poles: polesOf(soup) }); // prettier-ignore
  }

  /** A stage begins, so far in its stretch; what is done again, or by another way, takes nothing back. */
  begin(name: string, done: number): void {
    this.time(name);
    const inPart = this.stretch[0] + this.stretch[1] * done;
    this.furthest = Math.max(this.furthest, this.share[0] + this.share[1] * inPart);
    this.watch.stage?.(this.way > 0 ? `${name}, ${WAYS[this.way - 1]} way` : name, this.furthest);
  }
  /** Seconds by stage; none without a clock. */
  finish(): Record<string, number> {
    this.time(null);
    this.watch.stage?.('Done', 1);
    return this.spent;
  }

  private time(next: string | null): void {
    const now = this.watch.now?.();
    if (now === undefined) return;
    const { current } = this;
    if (current) this.spent[current.name] = (this.spent[current.name] ?? 0) + (now - current.since) / 1000;
    this.current = next === null ? null : { name: next, since: now };
  }
}

function polesOf(soup: QuadSoup): Pole[] {
  const poles: Pole[] = [];
  for (const [v, off] of edgesOff(soup, new QuadLinks(soup)).entries())
    if (off !== 0) poles.push({ at: [soup.points[3 * v], soup.points[3 * v + 1], soup.points[3 * v + 2]], valence: 4 + off }); // prettier-ignore
  return poles;
}
