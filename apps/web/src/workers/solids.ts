import solidsWasmUrl from 'manifold-3d/manifold.wasm?url';
import { loadSolids } from '@half-loop/core/ops';

/** Fetches the kernel of solids, once; Booleans refuse until it is there. */
export const solidsReady = (): Promise<void> => loadSolids(async () => (await fetch(solidsWasmUrl)).arrayBuffer());
