import { Group } from 'three';
import type { Shipped } from '../session';
import { srgb, type Srgb } from './materials';
import { LowPolyLayer, NO_EMPHASIS, type LowPolyColours } from './LowPolyLayer';

/** Paler than the piece in hand, so that it is seen which one that is. */
const COLOURS: LowPolyColours = {
  face: () => [0.72, 0.76, 0.74],
  edge: () => null,
  ink: [0.42, 0.48, 0.48],
  border: [0.3, 0.36, 0.36],
  picked: [0, 0, 0],
  pointed: [0, 0, 0],
};

/** A piece as it is drawn beside the one in hand: whole, or as an outline only where it is a cutting shape. */
export interface OtherPiece extends Shipped {
  outline: boolean;
  /** a guide body, which never ships */
  guide: boolean;
  tint: string | null;
}

/** A guide body is told from what ships. */
const GUIDE_COLOURS: LowPolyColours = { ...COLOURS, face: () => [0.76, 0.71, 0.8], ink: [0.5, 0.44, 0.56] };

/** As others are, half way to its own tint. */
function tinted(tint: string | null): LowPolyColours {
  if (tint === null) return COLOURS;
  const own = srgb(tint);
  const face = COLOURS.face(0).map((c, k) => (c + own[k]) / 2) as Srgb;
  return { ...COLOURS, face: () => face };
}

/** The pieces that are not in hand. They do not change while they are not: drawn anew only when pieces or hands change. */
export class OtherPieces {
  readonly group = new Group();
  private layers: LowPolyLayer[] = [];

  show(pieces: readonly OtherPiece[]): void {
    this.clear();
    this.layers = pieces.map(({ mesh, plane, outline, guide, tint }) => {
      const layer = new LowPolyLayer(guide ? GUIDE_COLOURS : tinted(tint), () => NO_EMPHASIS);
      layer.rebuild(mesh, plane);
      layer.showMirror(plane);
      layer.showFaces(!outline);
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
