/** The mesh files the product reads and writes, by their ending. */
export const READ_FORMATS = ['obj', 'ply', 'stl', 'off', 'glb', 'gltf'] as const;
export type ReadFormat = (typeof READ_FORMATS)[number];
export const WRITE_FORMATS = ['obj', 'ply', 'glb', 'stl', 'off', 'usda'] as const;
export type WriteFormat = (typeof WRITE_FORMATS)[number];

export interface ReadOptions {
  /** texture coordinates, normals, colours, groups and hard edges too; default false, which is faster and smaller */
  attributes?: boolean;
  /** a file that lies beside this one, by its relative name; null when there is none */
  beside?: (name: string) => Promise<Uint8Array | null>;
  /** the Draco decoder's wasm, which each host ships in its own way */
  dracoWasm?: () => Promise<ArrayBuffer>;
}

export interface WriteOptions {
  /** the asset's name; escaped for each format */
  name: string;
  /** length of one unit of the coordinates, metres; for formats that say it. Default 0.01 */
  metersPerUnit?: number;
}

/** What comes before the first use of a file name's ending; lower case, no dot. */
export const endingOf = (fileName: string): string => (/\.([^./\\]+)$/.exec(fileName)?.[1] ?? '').toLowerCase();
