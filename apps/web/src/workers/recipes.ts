import { decodeMesh, EMPTY_SELECTION, encodeMesh, type PolyMesh } from '@half-loop/core/mesh';
import type { MirrorPlane } from '@half-loop/core/math';
import { booleanParts, followRecipe, isFollowed, makeReal, runOperator, type RecipePiece, type RecipeStep } from '@half-loop/core/ops'; // prettier-ignore
import { solidsReady } from './solids';

/** A piece as it is sent to a worker. */
export interface PackedPiece {
  id: string;
  bytes: Uint8Array;
  recipe: readonly RecipeStep[];
  /** counted and shipped */
  ships: boolean;
}

export const packPieces = (pieces: readonly (RecipePiece & { visible: boolean; guide: boolean })[]): PackedPiece[] =>
  pieces.map(({ id, mesh, recipe, visible, guide }) => ({ id, recipe, bytes: encodeMesh(mesh), ships: visible && !guide })); // prettier-ignore

/** The pieces again, with the kernel of solids ready where one of them needs it. */
export async function unpackPieces(packed: readonly PackedPiece[]): Promise<(RecipePiece & { ships: boolean })[]> {
  if (packed.some(({ recipe }) => recipe.some((s) => s.on && s.op === booleanParts.name))) await solidsReady();
  return packed.map(({ id, bytes, recipe, ships }) => ({ id, recipe, ships, mesh: decodeMesh(bytes) }));
}

/** What ships: the pieces that are shown, as their recipes make them, mirrored halves made real. */
export async function shippedMeshes(packed: readonly PackedPiece[], plane: MirrorPlane | null): Promise<PolyMesh[]> {
  const pieces = await unpackPieces(packed);
  return pieces.filter(({ ships }) => ships).map((piece) => {
    if (isFollowed(piece)) return followRecipe(piece, plane, pieces).mesh;
    if (plane) runOperator(piece.mesh, makeReal, EMPTY_SELECTION, plane);
    return piece.mesh;
  }); // prettier-ignore
}
