/** The mesh files the product reads and writes, by their ending. */
export const READ_FORMATS = ['obj', 'ply', 'stl', 'off', 'glb', 'gltf'] as const;
export type ReadFormat = (typeof READ_FORMATS)[number];
export const WRITE_FORMATS = ['obj', 'ply', 'glb', 'stl', 'off'] as const;
export type WriteFormat = (typeof WRITE_FORMATS)[number];

export interface WriteOptions {
  /** the asset's name; escaped for each format */
  name: string;
  /** f32[3·V], unit, one a point; none are written without */
  normals?: Float32Array;
}

/** What comes before the first use of a file name's ending; lower case, no dot. */
export const endingOf = (fileName: string): string => (/\.([^./\\]+)$/.exec(fileName)?.[1] ?? '').toLowerCase();
