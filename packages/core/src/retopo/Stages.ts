/** How far a part of the form has come, to be looked at. */
export interface Look {
  /** which part, by its number */
  part: number;
  /** f64[3·V] */
  points: Float64Array;
  /** i32[sides·F] */
  faces: Int32Array;
  sides: 3 | 4;
}

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

  /** Shows what there is of the present part. */
  show(points: Float64Array, faces: Int32Array, sides: 3 | 4): void {
    this.watch.look?.({ part: this.part, points, faces, sides });
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
