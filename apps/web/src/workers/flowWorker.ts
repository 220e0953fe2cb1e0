import { expose } from 'comlink';
import { decodeMesh, soupFromMesh } from '@half-loop/core/mesh';
import { FlowForm, type Flow, type FlowAsked, type FlowFormOptions } from '@half-loop/core/retopo';
import { shapeOf } from '@half-loop/core/subdivide';
import { sculptFromSoup, type TriangleData } from '@half-loop/core/surface';

/** What quads would be laid on: triangles, or a packed low-poly. */
export type FlowInput = { triangles: TriangleData } | { piece: Uint8Array; levels: number };

let form: FlowForm | null = null;

const api = {
  /** Makes a form ready; `tell` hears of each stage. */
  make(input: FlowInput, options: Omit<FlowFormOptions, 'loops'>, tell: (stage: string, done: number) => void): void {
    if ('triangles' in input) {
      form = new FlowForm(input.triangles, { ...options, loops: null }, { stage: tell });
      return;
    }
    const mesh = decodeMesh(input.piece);
    const triangles = sculptFromSoup(shapeOf(mesh, input.levels));
    form = new FlowForm(triangles, { ...options, loops: soupFromMesh(mesh) }, { stage: tell });
  },
  /** The flow on the form that was made ready. */
  flow: (asked: FlowAsked): Flow | null => form?.flow(asked) ?? null,
};

export type FlowWorker = typeof api;
expose(api);
