import { expose } from 'comlink';
import { decodeMesh, soupFromMesh } from '@half-loop/core/mesh';
import { regionOfFaces } from '@half-loop/core/ops';
import { FlowForm, pieceBorders, type DrawnLine, type Flow, type FlowAsked, type FlowFormOptions } from '@half-loop/core/retopo'; // prettier-ignore
import { shapeOf, shapeValues } from '@half-loop/core/subdivide';
import { sculptFromSoup, type TriangleData } from '@half-loop/core/surface';

/** What quads would be laid on: triangles, or a packed low-poly. */
export type FlowInput = { triangles: TriangleData } | { piece: Uint8Array; levels: number };

let form: FlowForm | null = null;
/** between the regions of the piece that it is made of */
let borders: DrawnLine[] = [];

const api = {
  /** Makes a form ready; `tell` hears of each stage. */
  make(input: FlowInput, options: Omit<FlowFormOptions, 'loops'>, tell: (stage: string, done: number) => void): void {
    borders = [];
    if ('triangles' in input) {
      form = new FlowForm(input.triangles, { ...options, loops: null }, { stage: tell });
      return;
    }
    const mesh = decodeMesh(input.piece);
    const triangles = sculptFromSoup(shapeOf(mesh, input.levels));
    borders = pieceBorders(triangles, shapeValues(mesh, input.levels, regionOfFaces(mesh)));
    form = new FlowForm(triangles, { ...options, loops: soupFromMesh(mesh) }, { stage: tell });
  },
  /** The flow on the form that was made ready; with `regions` along the borders of a piece's regions too. */
  flow: (asked: FlowAsked, regions: boolean): Flow | null =>
    form?.flow({ ...asked, lines: [...asked.lines, ...(regions ? borders : [])] }) ?? null,
};

export type FlowWorker = typeof api;
expose(api);
