import { expose } from 'comlink';
import { decodeMesh, soupFromMesh } from '@half-loop/core/mesh';
import { FlowForm, type Flow, type FlowAsked, type LayAllOptions } from '@half-loop/core/retopo';
import { sculptFromSoup, type TriangleData } from '@half-loop/core/surface';

/** What quads would be laid on: triangles, or a packed low-poly. */
export type FlowInput = { triangles: TriangleData } | { piece: Uint8Array };

let form: FlowForm | null = null;

const api = {
  /** Makes a form ready; `tell` hears of each stage. */
  make(
    input: FlowInput,
    options: Pick<LayAllOptions, 'plane' | 'keepEdges'>,
    tell: (stage: string, done: number) => void,
  ): void {
    const triangles = 'piece' in input ? sculptFromSoup(soupFromMesh(decodeMesh(input.piece))) : input.triangles;
    form = new FlowForm(triangles, options, { stage: tell });
  },
  /** The flow on the form that was made ready. */
  flow: (asked: FlowAsked): Flow | null => form?.flow(asked) ?? null,
};

export type FlowWorker = typeof api;
expose(api);
