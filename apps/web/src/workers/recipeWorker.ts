import { expose, transfer } from 'comlink';
import type { MirrorPlane } from '@half-loop/core/math';
import { encodeMesh } from '@half-loop/core/mesh';
import { followRecipe, isFollowed, type Told } from '@half-loop/core/ops';
import { unpackPieces, type PackedPiece } from './recipes';

/** What a recipe made of a piece. */
export interface MadePiece {
  id: string;
  bytes: Uint8Array;
  told: Told[];
}

const api = {
  /** What the recipes make of the pieces that have one switched on. */
  async follow(packed: PackedPiece[], plane: MirrorPlane | null): Promise<MadePiece[]> {
    const pieces = await unpackPieces(packed);
    const made = pieces.filter(isFollowed).map((piece) => {
      const { mesh, told } = followRecipe(piece, plane, pieces);
      return { id: piece.id, bytes: encodeMesh(mesh), told };
    });
    return transfer(made, made.map(({ bytes }) => bytes.buffer as ArrayBuffer)); // prettier-ignore
  },
};

export type RecipeWorker = typeof api;
expose(api);
