import { expose, transfer } from 'comlink';
import { decodeMesh, encodeMesh, meshFromSoup, soupFromMesh } from '@half-loop/core/mesh';
import { layAll, qualityOf, quadSoup, type LaidAll, type LayAllOptions } from '@half-loop/core/retopo';
import { sculptFromSoup, type TriangleData } from '@half-loop/core/surface';

/** What to lay on: triangles, or a packed low-poly. */
export type LayAllInput = { triangles: TriangleData } | { piece: Uint8Array };

export interface Laid {
  /** the packed low-poly */
  bytes: Uint8Array;
  faces: number;
  irregular: number;
  interior: number;
  quality: { least: number; low: number; mean: number };
  mended: string[];
  routes: LaidAll['routes'];
}

const api = {
  /** Quads over all of the input; `tell` hears of each stage, and how far the whole is in [0, 1]. */
  lay(input: LayAllInput, options: LayAllOptions, tell: (stage: string, done: number) => void): Laid {
    const triangles = 'piece' in input ? sculptFromSoup(soupFromMesh(decodeMesh(input.piece))) : input.triangles;
    const { soup, mended, routes } = layAll(triangles, options, tell);
    const { mesh } = meshFromSoup(quadSoup(soup));
    const sum = (of: 'irregular' | 'interior'): number => routes.reduce((total, r) => total + r[of], 0);
    const bytes = encodeMesh(mesh);
    const { quality } = qualityOf(soup.points, soup.quads);
    return transfer(
      { bytes, faces: mesh.faceCount, irregular: sum('irregular'), interior: sum('interior'), quality, mended, routes },
      [bytes.buffer as ArrayBuffer],
    );
  },
};

export type LayAllWorker = typeof api;
expose(api);
