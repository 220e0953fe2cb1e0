import {
  DEFAULT_SETTINGS,
  type AssetDocument,
  type AssetSettings,
  type PieceHead,
  type Stage,
} from '@half-loop/contract';
import { noneTouched, touchedElements, type Delta, type Selection, type Touched } from '@half-loop/core/mesh';

/** What a step changed, both ways; a step holds any of these together. */
export interface StepPatch {
  meshes?: { pieceId: string; delta: Delta }[];
  settings?: { before: AssetSettings; after: AssetSettings };
  done?: { before: Stage[]; after: Stage[] };
  /** what the pieces are besides their meshes */
  heads?: { before: PieceHead[]; after: PieceHead[] };
  /** whole documents, encoded: a restored version */
  whole?: { before: Uint8Array; after: Uint8Array };
  selection: { before: Selection; after: Selection };
}

/** One entry of the history. Plain data: stored as it is. */
export interface Step extends StepPatch {
  name: string;
  /** milliseconds since 1970, for people only */
  at: number;
}

export type StepTitle = Pick<Step, 'name' | 'at'>;

/** Puts a step's meshes, settings and stages into a document, one way; says what of the meshes it reached. */
export function applyPatches(document: AssetDocument, step: StepPatch, forward: boolean): Touched {
  const way = forward ? 'after' : 'before';
  const touched = noneTouched();
  for (const { pieceId, delta } of step.meshes ?? []) {
    const mesh = document.pieces.find((p) => p.id === pieceId)?.mesh;
    if (!mesh) continue;
    touchedElements(mesh, delta.columns, touched);
    mesh.apply(delta, forward ? 'forward' : 'backward');
    touchedElements(mesh, delta.columns, touched);
  }
  // a step of an earlier version knows nothing of what was added since
  if (step.settings) document.settings = { ...DEFAULT_SETTINGS, ...step.settings[way] };
  if (step.done) document.done = step.done[way];
  if (step.heads) setHeads(document, step.heads[way]);
  return touched;
}

/** Gives pieces other names, recipes and the like. */
export function setHeads(document: AssetDocument, heads: readonly PieceHead[]): void {
  for (const head of heads) Object.assign(document.pieces.find((p) => p.id === head.id) ?? {}, head);
}

/** A change of settings that goes on within this time joins the step before it, milliseconds. */
const JOIN_MS = 1200;
/** Whether a change of settings goes on from the one that a step holds. */
export const joins = (last: Step, name: string): boolean =>
  last.name === name && (last.settings ?? last.heads) !== undefined && !last.meshes && Date.now() - last.at < JOIN_MS;
