import * as z from 'zod/mini';
import { HalfLoopError } from '@half-loop/core/errors';
import { checkInvariants, makeData, meshFromSections, meshSections, type PolyMesh } from '@half-loop/core/mesh';
import { headOf, PieceHead, Summary, type AssetDocument } from './document';
import { AssetSettings, StageSchema } from './settings';

const Column = z.object({
  name: z.string(),
  type: z.enum(['f64', 'f32', 'i32', 'u8']),
  values: z.array(z.nullable(z.number())),
});
const Channel = z.object({
  domain: z.enum(['vertex', 'edge', 'face', 'corner']),
  name: z.string(),
  type: z.enum(['f64', 'f32', 'i32', 'u8']),
  stride: z.int().check(z.minimum(1), z.maximum(64)),
  fill: z.nullable(z.number()),
});
const Mesh = z.object({ channels: z.array(Channel), columns: z.array(Column) });
const DocumentJson = z.object({
  format: z.literal('half-loop document'),
  version: z.literal(1),
  settings: AssetSettings,
  done: z.array(StageSchema),
  summary: Summary,
  pieces: z.array(z.extend(PieceHead, { mesh: Mesh })),
});

/** A number as JSON that comes back to the last bit: −0 keeps its sign, what is not a number is null. */
const numberText = (x: number): string => (Number.isFinite(x) ? (Object.is(x, -0) ? '-0' : String(x)) : 'null');

/** A document as JSON text, readable without this program: every column of every mesh by name, ids and free lists included. */
export function documentToJson(document: AssetDocument, summary: Summary): string {
  const pieces = document.pieces.map((piece) => {
    const { channels, columns } = meshSections(piece.mesh);
    const texts = columns.map(
      (c) =>
        `{"name":${JSON.stringify(c.name)},"type":"${c.type}","values":[${Array.from(c.data, numberText).join()}]}`,
    );
    const head = JSON.stringify(headOf(piece)).slice(0, -1);
    return `${head},"mesh":{"channels":${JSON.stringify(channels)},"columns":[\n${texts.join(',\n')}\n]}}`;
  });
  const head = { format: 'half-loop document', version: 1, settings: document.settings, done: document.done, summary };
  return `${JSON.stringify(head).slice(0, -1)},"pieces":[${pieces.join(',')}]}\n`;
}

/** The document in a JSON text, every link of its meshes checked. Throws BAD_FILE. */
export function documentFromJson(text: string): { document: AssetDocument; summary: Summary } {
  const bad = (what: string): HalfLoopError =>
    new HalfLoopError('BAD_FILE', `A document in the archive cannot be used: ${what}.`);
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    throw bad('it is not JSON');
  }
  const parsed = z.safeParse(DocumentJson, json);
  if (!parsed.success) throw bad(`it has no valid ${parsed.error.issues[0].path.join('.') || 'content'}`);
  const { settings, done, summary, pieces } = parsed.data;
  const document = {
    settings,
    done,
    pieces: pieces.map(({ mesh, ...piece }) => ({ ...piece, mesh: soundMesh(mesh, bad) })),
  };
  return { document, summary };
}

function soundMesh({ channels, columns }: z.infer<typeof Mesh>, bad: (what: string) => HalfLoopError): PolyMesh {
  const mesh = meshFromSections({
    channels: channels.map((c) => ({ ...c, fill: c.fill ?? NaN })),
    columns: columns.map(({ name, type, values }) => {
      const data = makeData(type, values.length);
      values.forEach((x, i) => (data[i] = x ?? NaN));
      return { name, type, data };
    }),
  });
  let broken: string[];
  try {
    broken = checkInvariants(mesh);
  } catch {
    broken = ['its links lead nowhere'];
  }
  if (broken.length > 0) throw bad(`its mesh is broken: ${broken[0]}`);
  return mesh;
}
