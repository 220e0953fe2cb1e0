import { BufferAttribute, InstancedBufferGeometry, Mesh, type ShaderMaterial } from 'three';
import type { Vec3 } from '@half-loop/core/math';
import type { Srgb } from './materials';
import { SlotBuffer } from './SlotBuffer';

const FIELDS = [
  { name: 'aStart', type: 'f32', size: 3 },
  { name: 'aEnd', type: 'f32', size: 3 },
  { name: 'aColour', type: 'u8', size: 4 },
  { name: 'aWidth', type: 'f32', size: 1 },
] as const;

/** A line of an overlay: file space, width in pixels. */
export interface Line {
  a: Vec3;
  b: Vec3;
  colour: Srgb;
  width: number;
}

/** Segments in stable slots, drawn in one call. Width in pixels; 0 draws nothing. */
export class LineSet {
  readonly geometry = new InstancedBufferGeometry();
  private readonly slots: SlotBuffer;

  constructor() {
    this.geometry.setAttribute(
      'position',
      new BufferAttribute(Float32Array.of(0, -1, 0, 1, -1, 0, 1, 1, 0, 0, 1, 0), 3),
    );
    this.geometry.setIndex([0, 1, 2, 0, 2, 3]);
    this.slots = new SlotBuffer(this.geometry, FIELDS, 1, true);
    this.geometry.instanceCount = 0;
  }

  mesh(material: ShaderMaterial): Mesh {
    const mesh = new Mesh(this.geometry, material);
    mesh.frustumCulled = false;
    return mesh;
  }

  set(slot: number, a: Vec3, b: Vec3, colour: Srgb, width: number, alpha = 1): void {
    this.slots.ensure(slot + 1);
    this.slots.array('aStart').set(a, 3 * slot);
    this.slots.array('aEnd').set(b, 3 * slot);
    this.slots.array('aColour').set([...colour, alpha].map((x) => Math.round(x * 255)), 4 * slot); // prettier-ignore
    this.slots.array('aWidth')[slot] = width;
    this.slots.mark(slot);
    this.geometry.instanceCount = Math.max(this.geometry.instanceCount, slot + 1);
  }
  hide(slot: number): void {
    if (slot >= this.geometry.instanceCount) return;
    this.slots.array('aWidth')[slot] = 0;
    this.slots.mark(slot);
  }
  /** These lines and no others. */
  show(lines: readonly Line[]): void {
    lines.forEach(({ a, b, colour, width }, n) => this.set(n, a, b, colour, width));
    this.truncate(lines.length);
    this.flush();
  }
  /** Slots from `count` on are drawn no more. */
  truncate(count: number): void {
    this.geometry.instanceCount = count;
  }
  flush(): void {
    this.slots.flush();
  }
}
