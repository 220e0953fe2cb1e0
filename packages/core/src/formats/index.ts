import { HalfLoopError } from '../errors';
import { faceCountOf, type PolygonSoup } from '../mesh';
import {
  endingOf,
  READ_FORMATS,
  WRITE_FORMATS,
  type ReadFormat,
  type ReadOptions,
  type WriteFormat,
  type WriteOptions,
} from './format';
import { readObj } from './obj/readObj';
import { writeObj } from './obj/writeObj';
import { readOff, writeOff } from './off';
import { readPly } from './ply/readPly';
import { writePly } from './ply/writePly';
import { readStl, writeStl } from './stl';
import { writeUsda } from './usda';

export * from './format';
export { readObjLines, type Polyline } from './obj/readObjLines';

type Reader = (bytes: Uint8Array, options: ReadOptions) => PolygonSoup | Promise<PolygonSoup>;
// glTF's library is larger than all else here together: it is loaded when a file needs it
const readGltf: Reader = async (bytes, options) => (await import('./gltf/readGltf')).readGltf(bytes, options);
const READERS: Record<ReadFormat, Reader> = {
  obj: (bytes, { attributes }) => readObj(bytes, attributes),
  ply: (bytes, { attributes }) => readPly(bytes, attributes),
  stl: (bytes, { attributes }) => readStl(bytes, attributes),
  off: (bytes, { attributes }) => readOff(bytes, attributes),
  glb: readGltf,
  gltf: readGltf,
};

/** Formats whose points are split by design, and are welded on exactly equal positions after reading. */
export const SPLIT_FORMATS: readonly ReadFormat[] = ['stl', 'glb', 'gltf'];

/**
 * The polygons of a file, by its name's ending, and with `attributes` what it says beside them. Throws BAD_FILE with one
 * sentence and the place when it is broken, empty or of an unknown kind. Cost: linear in the bytes.
 */
export async function readMesh(
  bytes: Uint8Array,
  fileName: string,
  options: ReadOptions = {},
): Promise<{ soup: PolygonSoup; format: ReadFormat }> {
  const format = READ_FORMATS.find((f) => f === endingOf(fileName));
  if (!format)
    throw new HalfLoopError(
      'BAD_FILE',
      `“${fileName}” is not a mesh file I can read; use ${READ_FORMATS.map((f) => f.toUpperCase()).join(', ')}.`,
    );
  if (bytes.length === 0) throw new HalfLoopError('BAD_FILE', `“${fileName}” is empty.`);
  const soup = await READERS[format](bytes, options);
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
  const { bytes, notes } = await WRITERS[format](soup, options);
  const lost = partsOf(soup).filter((part) => !HOLDS[format].includes(part));
  return { bytes, notes: lost.length > 0 ? [...notes, `${format.toUpperCase()} holds no ${lost.join(', ')}.`] : notes };
}

type Part = 'normals' | 'texture coordinates' | 'point colours' | 'face colours' | 'groups' | 'hard edges';
const HOLDS: Record<WriteFormat, readonly Part[]> = {
  obj: ['normals', 'texture coordinates', 'point colours', 'groups', 'hard edges'],
  ply: ['normals', 'texture coordinates', 'point colours', 'face colours'],
  glb: ['normals', 'texture coordinates', 'point colours', 'face colours', 'groups'],
  off: ['point colours', 'face colours'],
  stl: [],
  usda: ['normals', 'texture coordinates', 'point colours', 'face colours', 'groups', 'hard edges'],
};
/** Whether it is worth making normals for this format. */
export const holdsNormals = (format: WriteFormat): boolean => HOLDS[format].includes('normals');

function partsOf({ attributes = {} }: PolygonSoup): Part[] {
  const there: [Part, unknown][] = [
    ['normals', attributes.normals],
    ['texture coordinates', attributes.uvs],
    ['point colours', attributes.pointColours],
    ['face colours', attributes.faceColours],
    // one group for all faces tells nothing that is lost
    ['groups', (attributes.groups?.names.length ?? 0) > 1],
    ['hard edges', attributes.hardEdges?.length],
  ];
  return there.filter(([, value]) => value).map(([part]) => part);
}

type Writer = (soup: PolygonSoup, options: WriteOptions) => WrittenFile | Promise<WrittenFile>;
const WRITERS: Record<WriteFormat, Writer> = {
  obj: (soup, options) => {
    const { bytes, hardKept } = writeObj(soup, options);
    const lost = (soup.attributes?.hardEdges?.length ?? 0) / 2 - hardKept;
    return { bytes, notes: lost > 0 ? [`${lost} hard edges end inside a patch of soft ones; OBJ keeps them in its normals only.`] : [] }; // prettier-ignore
  },
  ply: (soup, options) => ({ bytes: writePly(soup, options), notes: [] }),
  off: (soup) => ({ bytes: writeOff(soup), notes: [] }),
  stl: (soup, options) => ({
    bytes: writeStl(soup, options),
    notes: ['STL holds triangles only: polygons were cut.'],
  }),
  usda: (soup, options) => ({ bytes: writeUsda(soup, options), notes: [] }),
  glb: async (soup, options) => {
    const { writeGltf } = await import('./gltf/writeGltf');
    const { bytes, lost } = await writeGltf(soup, options);
    const note = `${lost} ${lost === 1 ? 'face is' : 'faces are'} stored as triangles: no fan over ${lost === 1 ? 'its' : 'their'} corners stays flat.`;
    return { bytes, notes: lost > 0 ? [note] : [] };
  },
};

export const isWriteFormat = (ending: string): ending is WriteFormat =>
  (WRITE_FORMATS as readonly string[]).includes(ending);
