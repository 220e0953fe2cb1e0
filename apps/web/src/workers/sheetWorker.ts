import { expose, transfer } from 'comlink';
import { encodeMesh, meshFromSoup } from '@half-loop/core/mesh';
import { sheetOver, type SheetAsked } from '@half-loop/core/retopo';
import { RegionGround, SculptSurface, type RegionLabels, type TriangleData } from '@half-loop/core/surface';

/** A sheet as it crosses to the page. */
export interface MadeSheet {
  /** the piece, packed */
  mesh: Uint8Array;
  faces: number;
  borderEdges: [number, number];
  told: string[];
}

const api = {
  /** A sheet over one region of a sculpt; `tell` hears of each stage. */
  sheet(
    form: TriangleData,
    labels: RegionLabels,
    region: number,
    asked: SheetAsked,
    tell: (stage: string, done: number) => void,
  ): MadeSheet {
    tell('Form', 0);
    const ground = new RegionGround(SculptSurface.build(form));
    const { soup, borderEdges, told } = sheetOver(ground, (v) => labels[v] === region, asked, { stage: tell });
    const mesh = encodeMesh(meshFromSoup(soup).mesh);
    const made = { mesh, faces: soup.faceStarts.length - 1, borderEdges, told };
    return transfer(made, [mesh.buffer as ArrayBuffer]);
  },
};

export type SheetWorker = typeof api;
expose(api);
