import { expose } from 'comlink';
import { decodeMesh, soupFromMesh, type PolygonSoup } from '@half-loop/core/mesh';
import { FlowForm, type Flow, type FlowAsked, type FlowFormOptions } from '@half-loop/core/retopo';
import { cageOf, subdivide } from '@half-loop/core/subdivide';
import { sculptFromSoup, type TriangleData } from '@half-loop/core/surface';

/** What quads would be laid on: triangles, or a packed low-poly. */
export type FlowInput = { triangles: TriangleData } | { piece: Uint8Array; levels: number };

let form: FlowForm | null = null;

const api = {
  /** Makes a form ready; `tell` hears of each stage. */
  make(input: FlowInput, options: Omit<FlowFormOptions, 'loops'>, tell: (stage: string, done: number) => void): void {
    const mesh = 'piece' in input ? decodeMesh(input.piece) : null;
    const loops = mesh && soupFromMesh(mesh);
    const shape = mesh && 'levels' in input && input.levels > 0 ? subdivide(cageOf(mesh, mesh.faces(), null), input.levels) : loops; // prettier-ignore
    const triangles = 'triangles' in input ? input.triangles : sculptFromSoup(shape as PolygonSoup);
    form = new FlowForm(triangles, { ...options, loops }, { stage: tell });
  },
  /** The flow on the form that was made ready. */
  flow: (asked: FlowAsked): Flow | null => form?.flow(asked) ?? null,
};

export type FlowWorker = typeof api;
expose(api);
