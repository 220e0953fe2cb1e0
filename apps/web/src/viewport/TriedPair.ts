import { Group } from 'three';
import type { MirrorPlane } from '@half-loop/core/math';
import type { LowPolyLayer } from './LowPolyLayer';
import type { Mark } from './PointSet';
import { TriedLayer } from './TriedLayer';
import type { Tried, ViewSettings } from './ViewState';

/** What was laid and is not kept yet; and left of the wipe what it is compared with: another way that it was laid, or what was there before. */
export class TriedPair {
  readonly group = new Group();
  private readonly own = new TriedLayer();
  private readonly other = new TriedLayer();

  constructor() {
    this.group.add(this.own.group, this.other.group);
  }

  /** Shows what the settings ask for; tells whether that changed anything. */
  show({ tried, against }: ViewSettings, plane: MirrorPlane | null): boolean {
    const planeOf = (laid: Tried | null): MirrorPlane | null => (laid?.isHalf ? plane : null);
    const beside = tried && against;
    const isNew = [this.own.show(tried?.mesh ?? null, planeOf(tried)), this.other.show(beside?.mesh ?? null, planeOf(beside))]; // prettier-ignore
    return isNew.includes(true);
  }

  get all(): readonly LowPolyLayer[] {
    return [...this.own.all, ...this.other.all];
  }
  /** Its poles, or other marks while nothing is shown; and those of what it is compared with. */
  marks(otherwise: () => Mark[]): [own: Mark[], other: Mark[]] {
    return [this.own.marks() ?? otherwise(), this.other.marks() ?? []];
  }
  /** From so many device pixels across the picture on it stands itself, what it is compared with left of that. Gives where its marks begin. */
  wipe(before: readonly LowPolyLayer[], pixels: number): number {
    const [own, other] = [this.own.all, this.other.all];
    for (const layer of before)
      layer.span(-Infinity, other.length > 0 ? -Infinity : own.length > 0 ? pixels : Infinity);
    for (const layer of other) layer.span(-Infinity, pixels);
    for (const layer of own) layer.span(pixels, Infinity);
    return own.length > 0 ? pixels : -1e6;
  }

  dispose(): void {
    this.own.dispose();
    this.other.dispose();
  }
}
