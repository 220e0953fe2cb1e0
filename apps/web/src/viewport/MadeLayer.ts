import { Group } from 'three';
import type { PolyMesh } from '@half-loop/core/mesh';
import { cutters } from '@half-loop/core/ops';
import type { Session } from '../session';
import { LowPolyLayer, NO_EMPHASIS, type LowPolyColours } from './LowPolyLayer';
import type { OtherPiece } from './OtherPieces';

/** As the piece in hand, its edges thinner than those that are edited. */
const COLOURS: LowPolyColours = {
  face: () => [0.6, 0.78, 0.75],
  edge: () => null,
  ink: [0.38, 0.5, 0.49],
  border: [0.2, 0.3, 0.3],
  picked: [0, 0, 0],
  pointed: [0, 0, 0],
};

/** The piece in hand as its recipe makes it, drawn under the edges that are edited. */
export class MadeLayer {
  readonly group = new Group();
  private layer: LowPolyLayer | null = null;
  private shown: PolyMesh | null = null;

  /** Shows a mesh, or nothing; a mesh that is shown already costs nothing. */
  show(mesh: PolyMesh | null): void {
    if (mesh === this.shown) return;
    this.dispose();
    this.shown = mesh;
    if (!mesh) return;
    this.layer = new LowPolyLayer(COLOURS, () => NO_EMPHASIS);
    this.layer.rebuild(mesh, null);
    this.group.add(this.layer.own);
  }

  get all(): readonly LowPolyLayer[] {
    return this.layer ? [this.layer] : [];
  }

  dispose(): void {
    this.group.clear();
    this.layer?.dispose();
    this.layer = null;
    this.shown = null;
  }
}

/** The pieces beside the one in hand: those that are shown, as their recipes make them, and cutting shapes as outlines. */
export function othersOf({ document, piece, plane, recipes }: Session): OtherPiece[] {
  const cutting = cutters(document.pieces);
  return document.pieces
    .filter((p) => p.id !== piece.id && (p.visible || cutting.has(p.id)))
    .map((p) => {
      const made = recipes.made(p.id);
      return {
        ...(made ? { mesh: made.mesh, plane: null } : { mesh: p.mesh, plane }),
        outline: cutting.has(p.id),
        guide: p.guide,
        tint: p.tint,
      };
    });
}

/** Whether the piece in hand cuts another: its faces would hide what it does. */
export const isCutter = ({ document, piece }: Session): boolean => cutters(document.pieces).has(piece.id);
