import { HalfLoopError } from '../errors';
import { faceCountOf, type PolygonSoup } from '../mesh';
import { endingOf, READ_FORMATS, WRITE_FORMATS, type ReadFormat, type WriteFormat, type WriteOptions } from './format';
import { readGlb, writeGlb } from './glb';
import { readObj, writeObj } from './obj';
import { readOff, writeOff } from './off';
import { readPly, writePly } from './ply';
import { readStl, writeStl } from './stl';

export * from './format';
export { decodeNgons, encodeNgons } from './ngonEncoding';

const READERS: Record<ReadFormat, (bytes: Uint8Array) => PolygonSoup | Promise<PolygonSoup>> = {
  obj: readObj,
  ply: readPly,
  stl: readStl,
  off: readOff,
  glb: readGlb,
  gltf: readGlb,
};

/** Formats whose points are split by design, and are welded on exactly equal positions after reading. */
export const SPLIT_FORMATS: readonly ReadFormat[] = ['stl', 'glb', 'gltf'];

/**
 * The polygons of a file, by its name's ending. Throws BAD_FILE with one sentence and the place when it is
 * broken, empty or of an unknown kind. Cost: linear in the bytes.
 */
export async function readMesh(
  bytes: Uint8Array,
  fileName: string,
): Promise<{ soup: PolygonSoup; format: ReadFormat }> {
  const format = READ_FORMATS.find((f) => f === endingOf(fileName));
  if (!format)
    throw new HalfLoopError(
      'BAD_FILE',
      `“${fileName}” is not a mesh file I can read; use ${READ_FORMATS.map((f) => f.toUpperCase()).join(', ')}.`,
    );
  if (bytes.length === 0) throw new HalfLoopError('BAD_FILE', `“${fileName}” is empty.`);
  const soup = await READERS[format](bytes);
  if (faceCountOf(soup) === 0)
    throw new HalfLoopError('BAD_FILE', `“${fileName}” holds no faces; a sculpt or a low-poly needs at least one.`);
  return { soup, format };
}

export interface WrittenFile {
  bytes: Uint8Array;
  /** what the format could not hold, in words; empty when all is there */
  notes: string[];
}

/** The bytes of a mesh file. Pure; linear. */
export async function writeMesh(soup: PolygonSoup, format: WriteFormat, options: WriteOptions): Promise<WrittenFile> {
  switch (format) {
    case 'obj':
      return { bytes: writeObj(soup, options), notes: [] };
    case 'ply':
      return { bytes: writePly(soup, options), notes: [] };
    case 'off':
      return { bytes: writeOff(soup), notes: options.normals ? ['OFF holds no normals.'] : [] };
    case 'stl':
      return { bytes: writeStl(soup), notes: ['STL holds triangles only: polygons were cut, and normals left out.'] };
    case 'glb': {
      const { bytes, lost } = await writeGlb(soup, options);
      const note = `${lost} ${lost === 1 ? 'face is' : 'faces are'} stored as triangles: no fan over ${lost === 1 ? 'its' : 'their'} corners stays flat.`;
      return { bytes, notes: lost > 0 ? [note] : [] };
    }
  }
}

export const isWriteFormat = (ending: string): ending is WriteFormat =>
  (WRITE_FORMATS as readonly string[]).includes(ending);
