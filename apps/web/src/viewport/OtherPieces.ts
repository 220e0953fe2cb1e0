import { Group } from 'three';
import type { Piece } from '@half-loop/contract';
import type { MirrorPlane } from '@half-loop/core/math';
import { LowPolyLayer, type Emphasis, type LowPolyColours } from './LowPolyLayer';

const NOTHING: Emphasis = {
  picked: { vertices: new Set(), edges: new Set(), faces: new Set() },
  pointed: { edges: new Set(), face: null },
};
/** Paler than the piece in hand, so that it is seen which one that is. */
const COLOURS: LowPolyColours = {
  face: () => [0.72, 0.76, 0.74],
  edge: () => null,
  ink: [0.42, 0.48, 0.48],
  border: [0.3, 0.36, 0.36],
  picked: [0, 0, 0],
  pointed: [0, 0, 0],
};

/** The visible pieces that are not in hand. They do not change while they are not: drawn anew only when pieces or hands change. */
export class OtherPieces {
  readonly group = new Group();
  private layers: LowPolyLayer[] = [];

  show(pieces: readonly Piece[], plane: MirrorPlane | null): void {
    this.clear();
    this.layers = pieces.map(({ mesh }) => {
      const layer = new LowPolyLayer(COLOURS, () => NOTHING);
      layer.rebuild(mesh, plane);
      layer.showMirror(plane);
      this.group.add(layer.own, layer.mirror);
      return layer;
    });
  }

  /** Materials, for uniforms that the scene keeps alike for all layers. */
  get all(): readonly LowPolyLayer[] {
    return this.layers;
  }

  clear(): void {
    this.group.clear();
    for (const layer of this.layers) layer.dispose();
    this.layers = [];
  }
}
