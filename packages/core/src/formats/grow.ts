type Numbers = Float64Array | Float32Array | Uint32Array;

/** A typed array that grows by doubling: call `room`, write behind `length`, count up. Take the contents with `done`. */
abstract class Grow<A extends Numbers> {
  length = 0;
  data: A;
  protected abstract make(length: number): A;
  constructor(first: A) {
    this.data = first;
  }
  /** Makes sure `more` values fit. Amortised constant. */
  room(more: number): void {
    const need = this.length + more;
    if (need <= this.data.length) return;
    const next = this.make(Math.max(need, Math.ceil(this.data.length * 1.6)));
    next.set(this.data);
    this.data = next;
  }
  push(value: number): void {
    this.room(1);
    this.data[this.length++] = value;
  }
  /** What was written, as a view: room that was never written to costs addresses, not memory. */
  done(): A {
    return this.data.subarray(0, this.length) as A;
  }
}

export class GrowF64 extends Grow<Float64Array> {
  constructor(guess = 1024) {
    super(new Float64Array(Math.max(16, Math.ceil(guess))));
  }
  protected make(length: number): Float64Array {
    return new Float64Array(length);
  }
}

export class GrowF32 extends Grow<Float32Array> {
  constructor(guess = 1024) {
    super(new Float32Array(Math.max(16, Math.ceil(guess))));
  }
  protected make(length: number): Float32Array {
    return new Float32Array(length);
  }
}

export class GrowU32 extends Grow<Uint32Array> {
  constructor(guess = 1024) {
    super(new Uint32Array(Math.max(16, Math.ceil(guess))));
  }
  protected make(length: number): Uint32Array {
    return new Uint32Array(length);
  }
}
