import * as z from 'zod/mini';
import { HalfLoopError, TopologyError } from '../../errors';
import type { MirrorPlane } from '../../math';
import { appendFaces, decodeMesh, EMPTY_SELECTION, encodeMesh, type PolyMesh, type Selection } from '../../mesh';
import { makeReal } from '../makeReal';
import { BARE_GROUND, type SectorGround } from '../ground';
import { parseParams, runOperator, type Operator } from '../operator';
import { settlePiece } from '../place/settlePiece';
import { only } from '../picked';
import { subdivideMesh } from '../shape/subdivideMesh';
import { booleanParts } from '../solid/boolean';
import { copies } from '../solid/copies';
import { deform } from '../solid/deform';
import { joinHalves } from '../solid/joinHalves';
import { joinSectors, joinsWithin, sectorsOf } from '../solid/joinSectors';
import { lattice } from '../solid/lattice';
import { thicken } from '../solid/thicken';

/** What may stand in a recipe: each shapes a whole piece by settings alone. */
const STEPS = [
  thicken,
  copies,
  joinHalves,
  joinSectors,
  subdivideMesh,
  deform,
  lattice,
  booleanParts,
  settlePiece,
] as const;
export const RECIPE_STEPS: ReadonlyMap<string, Operator> = new Map(
  (STEPS as unknown as Operator[]).map((op) => [op.name, op]),
);

/** One step of a recipe: an operator by name, how it is set, and whether it is done now. */
export interface RecipeStep {
  op: string;
  on: boolean;
  params: Record<string, unknown>;
  /** another piece that takes part: the cutting shape of a Boolean */
  piece?: string | undefined;
}

/** A piece as its recipe is followed: the mesh that is edited, and the steps that shape it afterwards. */
export interface RecipePiece {
  id: string;
  mesh: PolyMesh;
  recipe: readonly RecipeStep[];
}
/** What one step came to; null where it is switched off. */
export type Told = { sentence: string; refused: boolean; counts: Readonly<Record<string, number>> } | null;
export interface Followed {
  mesh: PolyMesh;
  /** one for each step */
  told: Told[];
}

/** The sectors that a recipe makes of a piece, by the first step that joins some; null where none is switched on. */
export function sectorsIn({ recipe }: Pick<RecipePiece, 'recipe'>, mesh: PolyMesh): SectorGround | null {
  const step = recipe.find(({ op, on }) => on && op === joinSectors.name);
  if (!step) return null;
  const params = z.safeParse(joinSectors.params, step.params);
  return params.success ? { sectors: sectorsOf(params.data), within: joinsWithin(mesh, params.data) } : null;
}

/** Whether anything of a recipe is switched on. */
export const isFollowed = ({ recipe }: Pick<RecipePiece, 'recipe'>): boolean => recipe.some(({ on }) => on);

/**
 * The mesh that a piece's recipe makes of it: a copy, its mirrored half made real first, then each step that is switched on, in order, on
 * all of it. A step that is refused is left out and says why. The pieces themselves are not changed. Cost: a copy of the mesh, and the steps.
 */
export function followRecipe(piece: RecipePiece, plane: MirrorPlane | null, others: readonly RecipePiece[]): Followed {
  return follow(piece, plane, others, new Set());
}

function follow(
  piece: RecipePiece,
  plane: MirrorPlane | null,
  others: readonly RecipePiece[],
  within: ReadonlySet<string>,
): Followed {
  const mesh = decodeMesh(encodeMesh(piece.mesh));
  if (plane && mesh.faceCount > 0) runOperator(mesh, makeReal, EMPTY_SELECTION, plane);
  const inside = new Set([...within, piece.id]);
  const told = piece.recipe.map((step): Told => {
    if (!step.on) return null;
    mesh.begin();
    try {
      const op = RECIPE_STEPS.get(step.op);
      if (!op) throw new TopologyError('NO_WAY', `There is no step '${step.op}'.`);
      const picked = pickFor(mesh, step, plane, others, inside);
      const { report } = op.run(mesh, picked, parseParams(op, step.params) as never, BARE_GROUND);
      mesh.commit();
      return { ...report, refused: false };
    } catch (error) {
      // what a Boolean put in goes with it
      mesh.rollback();
      if (!(error instanceof HalfLoopError)) throw error;
      return { sentence: error.message, refused: true, counts: {} };
    }
  });
  return { mesh, told };
}

/** What a step works on: everything, but the cutting shape of a Boolean, which is put into the mesh first. */
function pickFor(
  mesh: PolyMesh,
  { op, piece: id }: RecipeStep,
  plane: MirrorPlane | null,
  others: readonly RecipePiece[],
  inside: ReadonlySet<string>,
): Selection {
  if (op !== booleanParts.name) return op === copies.name ? only({ faces: [...mesh.faces()] }) : EMPTY_SELECTION;
  const other = others.find((p) => p.id === id);
  if (!other) throw new TopologyError('NOTHING_PICKED', 'Choose the piece that is the cutting shape.');
  if (inside.has(other.id))
    throw new TopologyError('NO_WAY', 'This piece would cut itself by way of another; choose a different cutting shape.'); // prettier-ignore
  const shape = follow(other, plane, others, inside).mesh;
  if (shape.faceCount === 0) throw new TopologyError('NOTHING_PICKED', 'The cutting shape has no faces yet.');
  return only({ faces: appendFaces(mesh, shape) });
}

/**
 * The recipe's first steps made real: the mesh that they make, and the steps that are left. What comes after them stays open. Throws the
 * first refusal of a step among them, for what is refused cannot be made real.
 */
export function madeReal(
  piece: RecipePiece,
  count: number,
  plane: MirrorPlane | null,
  others: readonly RecipePiece[],
): { mesh: PolyMesh; rest: RecipeStep[] } {
  const { mesh, told } = followRecipe({ ...piece, recipe: piece.recipe.slice(0, count) }, plane, others);
  const refused = told.find((t) => t?.refused);
  if (refused) throw new TopologyError('NO_WAY', `This cannot be made real yet: ${refused.sentence}`);
  return { mesh, rest: piece.recipe.slice(count) };
}

/** The pieces that take part in others' recipes, as cutting shapes. */
export const cutters = (pieces: readonly RecipePiece[]): Set<string> =>
  new Set(pieces.flatMap(({ recipe }) => recipe.flatMap((s) => (s.on && s.piece ? [s.piece] : []))));
