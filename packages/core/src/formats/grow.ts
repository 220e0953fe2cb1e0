/** A typed array that grows by doubling. Take the contents with `done`. */
export class GrowF64 {
  data: Float64Array;
  length = 0;
  constructor(guess = 1024) {
    this.data = new Float64Array(Math.max(16, guess));
  }
  push(value: number): void {
    if (this.length === this.data.length) {
      const next = new Float64Array(this.length * 2);
      next.set(this.data);
      this.data = next;
    }
    this.data[this.length++] = value;
  }
  done(): Float64Array {
    return this.data.slice(0, this.length);
  }
}

export class GrowU32 {
  data: Uint32Array;
  length = 0;
  constructor(guess = 1024) {
    this.data = new Uint32Array(Math.max(16, guess));
  }
  push(value: number): void {
    if (this.length === this.data.length) {
      const next = new Uint32Array(this.length * 2);
      next.set(this.data);
      this.data = next;
    }
    this.data[this.length++] = value;
  }
  done(): Uint32Array {
    return this.data.slice(0, this.length);
  }
}
