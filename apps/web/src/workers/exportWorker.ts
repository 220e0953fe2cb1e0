import { expose, transfer } from 'comlink';
import { holdsNormals, writeMesh, type WriteFormat } from '@half-loop/core/formats';
import { boxOf, toPlaced, type MirrorPlane, type Placement } from '@half-loop/core/math';
import { cornerNormals, joinedMeshes, soupFromMesh } from '@half-loop/core/mesh';
import { shippedMeshes, type PackedPiece } from './recipes';

export type Pivot = 'centre' | 'base' | 'origin';
export interface ExportRequest {
  pieces: PackedPiece[];
  plane: MirrorPlane | null;
  placement: Placement;
  /** file units to the units written */
  scale: number;
  pivot: Pivot;
  format: WriteFormat;
  name: string;
  normals: boolean;
  /** length of one written unit, metres */
  metersPerUnit: number;
}
export interface Exported {
  bytes: Uint8Array;
  faces: number;
  vertices: number;
  notes: string[];
}

const api = {
  /** The low-poly as a file: recipes followed, mirrored halves made real, placed upright, pivot moved to zero, scaled. */
  async write({
    pieces,
    plane,
    placement,
    scale,
    pivot,
    format,
    name,
    normals,
    metersPerUnit,
  }: ExportRequest): Promise<Exported> {
    const meshes = await shippedMeshes(pieces, plane);
    const soup = soupFromMesh(meshes.length === 1 ? meshes[0] : joinedMeshes(meshes));
    const p = soup.positions;
    for (let i = 0; i < p.length; i += 3) p.set(toPlaced([p[i], p[i + 1], p[i + 2]], placement), i);
    const { min, max } = boxOf(p);
    const centre = [0, 1, 2].map((k) => (min[k] + max[k]) / 2);
    const zero = pivot === 'origin' ? [0, 0, 0] : pivot === 'base' ? [centre[0], min[1], centre[2]] : centre;
    for (let i = 0; i < p.length; i++) p[i] = (p[i] - zero[i % 3]) * scale;
    // normals of a file would still lie as that file does: they are made anew, as placed
    delete soup.attributes?.normals;
    if (normals && holdsNormals(format)) soup.attributes = { ...soup.attributes, normals: cornerNormals(soup) };
    const file = await writeMesh(soup, format, { name, metersPerUnit });
    return transfer({ ...file, faces: soup.faceStarts.length - 1, vertices: p.length / 3 }, [
      file.bytes.buffer as ArrayBuffer,
    ]);
  },
};

export type ExportWorker = typeof api;
expose(api);
