import { proxy } from 'comlink';
import type { AssetCard } from '@half-loop/contract';
import type { SurfaceData } from '@half-loop/core/surface';
import { api } from './api';
import { withSculptWorker } from './sculptWorkerClient';

/** Words and progress in [0, 1]. */
export type OnStage = (stage: string, done: number) => void;

/** An asset on its way in: what the server knows of it, and its sculpt, built in a worker. */
export interface Opening {
  card: Promise<AssetCard>;
  surface: Promise<SurfaceData | null>;
  /** who wants to know how far it is */
  onStage: OnStage;
  cancel(): void;
}

let headStart: { assetId: string; opening: Opening } | null = null;

/** Begins to open an asset while the workbench's own script, which is large, is still on its way. */
export function beginOpening(assetId: string): void {
  headStart = { assetId, opening: startOpening(assetId) };
}

/** The opening that was begun for this asset, or one that begins now. */
export function takeOpening(assetId: string): Opening {
  const begun = headStart?.assetId === assetId ? headStart.opening : null;
  headStart = null;
  return begun ?? startOpening(assetId);
}

function startOpening(assetId: string): Opening {
  const controller = new AbortController();
  const card = api.asset(assetId);
  const opening: Opening = {
    card,
    surface: card.then(({ sculpt }) => (sculpt ? load(sculpt) : null)),
    onStage: () => undefined,
    cancel: () => controller.abort(),
  };
  const load = (sculpt: string): Promise<SurfaceData> => {
    const url = `${location.origin}/api/blobs/${sculpt}`;
    const report = proxy((stage: string, done: number) => !controller.signal.aborted && opening.onStage(stage, done));
    return withSculptWorker((worker) => worker.load(url, report), controller.signal);
  };
  // who takes the opening hears of a failure; until then it is not one that nobody handles
  opening.surface.catch(() => undefined);
  return opening;
}
