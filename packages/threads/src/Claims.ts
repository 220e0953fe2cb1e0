/** Who has what of some work, between two threads: nobody, one of them, or it is done. */
const FREE = 0;
const TAKEN = 1;
const DONE = 2;

/** Who works aside gives signs of life no further apart than so many milliseconds, or is given up. */
const SILENT = 120_000;

/** One word of shared memory for each piece of work, and one more that changes with each sign of life. */
export class Claims {
  private readonly words: Int32Array;

  /** `shared` is that of the other thread, where this one joins it. */
  constructor(
    count: number,
    readonly shared = new SharedArrayBuffer(4 * (count + 1)),
  ) {
    this.words = new Int32Array(shared);
  }

  /** Takes it; false where it was taken. */
  take(i: number): boolean {
    return Atomics.compareExchange(this.words, i, FREE, TAKEN) === FREE;
  }

  /** It is done, and whoever waits for it goes on. */
  done(i: number): void {
    Atomics.store(this.words, i, DONE);
    Atomics.notify(this.words, i);
  }

  isDone(i: number): boolean {
    return Atomics.load(this.words, i) === DONE;
  }

  /** A sign of life. */
  alive(): void {
    Atomics.add(this.words, this.words.length - 1, 1);
  }

  /** Holds this thread up until it is done; false where the other gave no sign of life for `silent` milliseconds. */
  wait(i: number, silent = SILENT): boolean {
    const beat = (): number => Atomics.load(this.words, this.words.length - 1);
    let last = beat();
    for (let is = Atomics.load(this.words, i); is !== DONE; is = Atomics.load(this.words, i)) {
      if (Atomics.wait(this.words, i, is, silent) !== 'timed-out') continue;
      const now = beat();
      if (now === last) return false;
      last = now;
    }
    return true;
  }
}
