import { BufferAttribute, type BufferGeometry } from 'three';
import type { Region } from '@half-loop/contract';
import type { RegionLabels } from '@half-loop/core/surface';
import { srgb } from './materials';

/** How much of a region's tint the sculpt takes on, and what is not drawn, of 255. Stored the other way round: a point without an attribute reads as 255. */
const TINTED = 120;
const HIDDEN = 255;

const premixed = ({ tint }: Region): readonly number[] => srgb(tint).map((x) => Math.round(x * TINTED));

/** What the sculpt's points are tinted by. */
export interface ShownRegions {
  labels: RegionLabels;
  regions: readonly Region[];
  hidden: ReadonlySet<number>;
}

/** Regions on the drawn sculpt: four bytes a point, the region's tint times how much of it, so that both blend over a triangle. */
export class RegionTint {
  private shown: (ShownRegions & { geometry: BufferGeometry }) | null = null;
  private colours = new Map<number, readonly number[]>();

  /** Tints the points of `geometry`, which are the sculpt's own unless `vertexOf` says whose. Cost: the points, when anything changed. */
  show(geometry: BufferGeometry, vertexOf: Uint32Array | undefined, now: ShownRegions): void {
    const { shown } = this;
    const isSame = shown?.labels === now.labels && shown.regions === now.regions && shown.hidden === now.hidden;
    if (isSame && shown.geometry === geometry) return;
    this.shown = { ...now, geometry };
    this.colours = new Map(now.regions.map((r) => [r.id, premixed(r)]));
    if (now.hidden.size === 0 && !now.labels.some((label) => label > 0)) return void geometry.deleteAttribute('region');
    const bytes = this.bytesOf(geometry);
    for (let i = 0; i < bytes.length / 4; i++) this.write(bytes, i, now.labels[vertexOf ? vertexOf[i] : i]);
    geometry.getAttribute('region').needsUpdate = true;
  }

  /** Shows some points as if they were in a region, until the next `show`. Cost: those, or all drawn ones where they are not the sculpt's own. */
  preview(
    geometry: BufferGeometry,
    vertexOf: Uint32Array | undefined,
    vertices: Iterable<number>,
    region: Region | null,
  ): void {
    const bytes = this.bytesOf(geometry);
    if (region) this.colours.set(region.id, premixed(region));
    const label = region?.id ?? 0;
    if (vertexOf) {
      const own = new Set(vertices);
      for (let i = 0; i < vertexOf.length; i++) if (own.has(vertexOf[i])) this.write(bytes, i, label);
    } else for (const v of vertices) this.write(bytes, v, label);
    geometry.getAttribute('region').needsUpdate = true;
    // whatever comes next is drawn from what is kept
    if (this.shown) this.shown = { ...this.shown, labels: new Uint16Array(0) };
  }

  private write(bytes: Uint8Array, i: number, label: number): void {
    const [r, g, b] = this.colours.get(label) ?? [0, 0, 0];
    const amount = this.shown?.hidden.has(label) ? HIDDEN : this.colours.has(label) ? TINTED : 0;
    bytes[4 * i] = r;
    bytes[4 * i + 1] = g;
    bytes[4 * i + 2] = b;
    bytes[4 * i + 3] = 255 - amount;
  }

  private bytesOf(geometry: BufferGeometry): Uint8Array {
    if (!geometry.hasAttribute('region')) {
      const count = geometry.getAttribute('position').count;
      geometry.setAttribute('region', new BufferAttribute(new Uint8Array(4 * count), 4, true));
    }
    return geometry.getAttribute('region').array as Uint8Array;
  }
}
