import type { PieceHead, RecipeStep } from '@half-loop/contract';
import { HalfLoopError } from '@half-loop/core/errors';
import { booleanParts, madeReal, RECIPE_STEPS } from '@half-loop/core/ops';
import { solidsReady } from '../workers/solids';
import { changePieces } from './pieceSteps';
import type { Session } from './Session';

const titleOf = (op: string): string => RECIPE_STEPS.get(op)?.title ?? op;

/** Another recipe for the piece in hand, as one step of the history. */
function change(session: Session, name: string, to: (recipe: RecipeStep[]) => RecipeStep[]): void {
  const { id } = session.piece;
  session.changeHeads(name, (head: PieceHead) => (head.id === id ? { ...head, recipe: to(head.recipe) } : head));
}

/** Puts a step at the recipe's end, switched on. A cutting shape is hidden: it shows as an outline. */
export function addStep(session: Session, op: string, params: Record<string, unknown>, piece?: string): void {
  const step: RecipeStep = { op, on: true, params, ...(piece ? { piece } : {}) };
  const { id } = session.piece;
  session.changeHeads(`Recipe: ${titleOf(op)} added`, (head) => {
    if (head.id === id) return { ...head, recipe: [...head.recipe, step] };
    return head.id === piece ? { ...head, visible: false } : head;
  });
}

/** Other settings of a step, or switched on or off. */
export function changeStep(session: Session, at: number, to: Partial<RecipeStep>): void {
  const title = titleOf(session.piece.recipe[at]?.op ?? '');
  const what = to.on === undefined ? 'set' : to.on ? 'switched on' : 'switched off';
  change(session, `Recipe: ${title} ${what}`, (recipe) => recipe.map((s, i) => (i === at ? { ...s, ...to } : s)));
}

/** Brings a step to another place in the order. */
export function moveStep(session: Session, from: number, to: number): void {
  const { recipe } = session.piece;
  if (to < 0 || to >= recipe.length || from === to) return;
  change(session, `Recipe: ${titleOf(recipe[from].op)} moved to place ${to + 1}`, (all) => {
    const rest = all.filter((_, i) => i !== from);
    return [...rest.slice(0, to), all[from], ...rest.slice(to)];
  });
}

export function removeStep(session: Session, at: number): void {
  change(session, `Recipe: ${titleOf(session.piece.recipe[at].op)} taken out`, (all) => all.filter((_, i) => i !== at));
}

/** Makes the first `count` steps of the recipe real: what they make is edited from now on; the rest stays open. */
export async function makeRecipeReal(session: Session, count: number): Promise<void> {
  const { piece, document, plane } = session;
  if (plane) return session.say({ kind: 'refused', text: 'Make the mirror real first, or turn symmetry off: a recipe is made real on a whole piece.' }); // prettier-ignore
  if (piece.recipe.some((s) => s.on && s.op === booleanParts.name)) await solidsReady();
  try {
    const { mesh, rest } = madeReal(piece, count, plane, document.pieces);
    const pieces = document.pieces.map((p) => (p.id === piece.id ? { ...p, mesh, recipe: rest } : p));
    changePieces(session, `Recipe of “${piece.name}” made real: ${count} of ${piece.recipe.length}`, pieces, piece.id);
  } catch (error) {
    if (!(error instanceof HalfLoopError)) throw error;
    session.say({ kind: 'refused', text: error.message });
  }
}
