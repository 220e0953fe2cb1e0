import type { AssetSettings, Stage } from '@half-loop/contract';
import type { Delta, Selection } from '@half-loop/core/mesh';

/** What a step changed, both ways; a step holds any of these together. */
export interface StepPatch {
  meshes?: { pieceId: string; delta: Delta }[];
  settings?: { before: AssetSettings; after: AssetSettings };
  done?: { before: Stage[]; after: Stage[] };
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
