import { BufferAttribute, InstancedBufferAttribute, type BufferGeometry } from 'three';

export interface SlotField {
  name: string;
  type: 'f32' | 'u8';
  /** values a vertex (or instance) */
  size: number;
}

/**
 * Attributes of a geometry in slots of fixed size: a slot is written in place, only dirty ranges go to the GPU,
 * and growing doubles. Slot numbers stay what they are.
 */
export class SlotBuffer {
  private capacity = 0;
  private readonly dirty: [number, number][] = [];
  readonly arrays = new Map<string, Float32Array | Uint8Array>();

  constructor(
    private readonly geometry: BufferGeometry,
    private readonly fields: readonly SlotField[],
    /** vertices (or instances) in a slot */
    readonly perSlot: number,
    private readonly instanced: boolean,
  ) {
    this.grow(64);
  }

  array(name: string): Float32Array | Uint8Array {
    return this.arrays.get(name) as Float32Array | Uint8Array;
  }

  /** Makes room for slots below `count`. */
  ensure(count: number): void {
    if (count > this.capacity) this.grow(Math.max(count, this.capacity * 2));
  }

  mark(slot: number): void {
    const last = this.dirty.at(-1);
    if (last && slot >= last[0] && slot <= last[1]) last[1] = Math.max(last[1], slot + 1);
    else this.dirty.push([slot, slot + 1]);
  }

  /** Hands the dirty ranges to the next frame. */
  flush(): void {
    if (this.dirty.length === 0) return;
    for (const { name, size } of this.fields) {
      const attribute = this.geometry.getAttribute(name) as BufferAttribute;
      const width = this.perSlot * size;
      if (this.dirty.length < 200)
        for (const [from, to] of this.dirty) attribute.addUpdateRange(from * width, (to - from) * width);
      else attribute.clearUpdateRanges();
      attribute.needsUpdate = true;
    }
    this.dirty.length = 0;
  }

  private grow(capacity: number): void {
    for (const { name, type, size } of this.fields) {
      const length = capacity * this.perSlot * size;
      const array = type === 'f32' ? new Float32Array(length) : new Uint8Array(length);
      const old = this.arrays.get(name);
      if (old) array.set(old);
      this.arrays.set(name, array);
      const attribute = this.instanced
        ? new InstancedBufferAttribute(array, size, type === 'u8')
        : new BufferAttribute(array, size, type === 'u8');
      attribute.setUsage(35048);
      this.geometry.setAttribute(name, attribute);
    }
    this.capacity = capacity;
    this.dirty.length = 0;
    // a replaced attribute leaves its GPU buffer behind unless the geometry lets go of it
    this.geometry.dispose();
  }
}
