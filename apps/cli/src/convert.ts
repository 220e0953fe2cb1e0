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
