import { BufferGeometry, Points, type ShaderMaterial } from 'three';
import type { Vec3 } from '@half-loop/core/math';
import type { Srgb } from './materials';
import { SlotBuffer } from './SlotBuffer';

/** The shape of a mark that is open inside; 0 is a disc, greater ones have so many sides. */
export const RING = 1;

export interface Mark {
  at: Vec3;
  colour: Srgb;
  /** pixels */
  size: number;
  shape: 0 | 1 | 3 | 4 | 5 | 6;
}

/** A few hundred shapes at points, set all at once. */
export class PointSet {
  readonly geometry = new BufferGeometry();
  private readonly slots = new SlotBuffer(
    this.geometry,
    [
      { name: 'position', type: 'f32', size: 3 },
      { name: 'aColour', type: 'u8', size: 4 },
      { name: 'aSize', type: 'f32', size: 1 },
      { name: 'aShape', type: 'f32', size: 1 },
    ],
    1,
    false,
  );

  points(material: ShaderMaterial): Points {
    const points = new Points(this.geometry, material);
    points.frustumCulled = false;
    return points;
  }

  show(marks: readonly Mark[]): void {
    this.slots.ensure(marks.length);
    marks.forEach(({ at, colour, size, shape }, i) => {
      this.slots.array('position').set(at, 3 * i);
      this.slots.array('aColour').set([...colour, 1].map((x) => Math.round(x * 255)), 4 * i); // prettier-ignore
      this.slots.array('aSize')[i] = size;
      this.slots.array('aShape')[i] = shape;
      this.slots.mark(i);
    });
    this.geometry.setDrawRange(0, marks.length);
    this.slots.flush();
  }
}
