import { writeFile } from 'node:fs/promises';
import path from 'node:path';
import { endingOf, holdsNormals, isWriteFormat, WRITE_FORMATS, writeMesh } from '@half-loop/core/formats';
import { cornerNormals, faceCountOf } from '@half-loop/core/mesh';
import { UsageError, type Command } from './arguments';
import { load } from './load';

export const convert: Command = {
  files: ['IN', 'OUT'],
  flags: ['json', 'no-weld'],
  numbers: {},
  help: `half-loop convert IN OUT [--json] [--no-weld]

Writes OUT by its ending. Polygons, texture coordinates, normals, colours, groups and hard edges go along where the format holds
them; notes say what it does not. Normals that IN does not have are made.

  half-loop convert docs/sample/limpet.obj limpet.glb`,
  async run({ files: [from, to], flags }) {
    const format = endingOf(to);
    if (!isWriteFormat(format)) throw new UsageError(`OUT must end in ${WRITE_FORMATS.map((f) => `.${f}`).join(', ')}`);
    const soup = await load(from, !flags.has('no-weld'));
    const name = path.basename(to, path.extname(to));
    const whole = holdsNormals(format)
      ? { ...soup, attributes: { ...soup.attributes, normals: cornerNormals(soup) } }
      : soup;
    const { bytes, notes } = await writeMesh(whole, format, { name });
    await writeFile(to, bytes);
    const data = {
      file: to,
      faces: faceCountOf(soup),
      vertices: soup.positions.length / 3,
      bytes: bytes.length,
      notes,
    };
    return { data, lines: [`${to}: ${data.faces} faces, ${data.vertices} vertices, ${data.bytes} bytes`, ...notes] };
  },
};
