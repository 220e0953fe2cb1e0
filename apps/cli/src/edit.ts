import { readFile, writeFile } from 'node:fs/promises';
import path from 'node:path';
import * as z from 'zod/mini';
import { HalfLoopError } from '@half-loop/core/errors';
import { endingOf, isWriteFormat, WRITE_FORMATS, writeMesh } from '@half-loop/core/formats';
import { AXES, type Axis } from '@half-loop/core/math';
import { EMPTY_SELECTION, meshFromSoup, NONE, soupFromMesh, type PolyMesh, type Selection } from '@half-loop/core/mesh';
import { booleanParts, loadSolids, OPERATORS, runOperator, type Ground } from '@half-loop/core/ops';
import { runQuery, SELECTION_QUERIES } from '@half-loop/core/select';
import { sculptFromSoup, SculptSurface, WalkingForm } from '@half-loop/core/surface';
import { UsageError, type Command } from './arguments';
import { load, wasmOf } from './load';

const Ids = z._default(z.array(z.int()), []);
const Params = z._default(z.record(z.string(), z.unknown()), {});
const Step = z.union([
  z.strictObject({ pick: z.strictObject({ vertices: Ids, faces: Ids, edges: z._default(z.array(z.tuple([z.int(), z.int()])), []) }) }), // prettier-ignore
  z.strictObject({ select: z.string(), params: Params }),
  z.strictObject({ run: z.string(), params: Params }),
]);
type Step = z.infer<typeof Step>;

const registry = (): string =>
  [
    'Operators, and their params as JSON Schema:',
    ...[...OPERATORS].map(([name, op]) => `  ${name.padEnd(10)} ${op.title}\n    ${schemaOf(op.params)}`),
    'Selection queries:',
    ...[...SELECTION_QUERIES].map(([name, q]) => `  ${name.padEnd(10)} ${q.title}\n    ${schemaOf(q.params)}`),
  ].join('\n');
const schemaOf = (params: z.ZodMiniType): string => {
  const { properties } = z.toJSONSchema(params, { io: 'input' }) as { properties?: object };
  return JSON.stringify(properties ?? {});
};

export const edit: Command = {
  files: ['FILE'],
  flags: ['json', 'no-weld'],
  numbers: {},
  texts: { '--ops': 'needed', '-o': 'needed', '--sculpt': 'optional', '--symmetry': 'optional' },
  get help() {
    return `half-loop edit FILE --ops OPS.json -o OUT [--sculpt FILE] [--symmetry x|y|z] [--json] [--no-weld]

Runs the steps of OPS.json in order on FILE's mesh and writes OUT. A step is one of
  {"pick": {"vertices": [0], "edges": [[0, 1]], "faces": [2]}}   what is picked from here on; edges as pairs of points
  {"select": "rhythm", "params": {"take": 2, "skip": 1}}         a query, starting from what is picked
  {"run": "delete", "params": {}}                              an operator on what is picked
With --sculpt the points that operators move stick to that surface; with --symmetry FILE is one half, and points exactly on the
plane through zero stay there. A refused step ends it with exit 1 and its sentence; OUT is not written then.

  half-loop edit docs/sample/limpet.obj --ops docs/sample/lid-off.json -o lid-off.obj
  half-loop edit docs/sample/limpet.obj --ops docs/sample/paired.json -o paired.obj

${registry()}`;
  },
  async run({ files: [file], flags, texts }) {
    const format = endingOf(texts.o);
    if (!isWriteFormat(format)) throw new UsageError(`OUT must end in ${WRITE_FORMATS.map((f) => `.${f}`).join(', ')}`);
    const steps = await readSteps(texts.ops);
    const ground = await groundOf(texts, !flags.has('no-weld'));
    const { mesh, groupNames, splitCorners, droppedFaces } = meshFromSoup(await load(file, !flags.has('no-weld')));
    if (steps.some((step) => 'run' in step && step.run === booleanParts.name))
      await loadSolids(() => wasmOf('manifold-3d/manifold.wasm'));
    let selection: Selection = EMPTY_SELECTION;
    const reports: { step: number; run?: string; sentence: string; counts: object }[] = [];
    steps.forEach((step, i) => {
      const { next, report } = perform(mesh, selection, step, i, ground);
      selection = next;
      reports.push({ step: i, ...report });
    });
    const soup = soupFromMesh(mesh, groupNames);
    const { bytes, notes } = await writeMesh(soup, format, { name: path.basename(texts.o, path.extname(texts.o)) });
    await writeFile(texts.o, bytes);
    const data = { file: texts.o, faces: mesh.faceCount, vertices: mesh.vertexCount, splitCorners, droppedFaces, steps: reports, notes }; // prettier-ignore
    return { data, lines: [...reports.map((r) => `${r.step + 1}. ${r.sentence}`), `${texts.o}: ${mesh.faceCount} faces`, ...notes] }; // prettier-ignore
  },
};

async function groundOf(texts: Record<string, string>, weld: boolean): Promise<Ground> {
  const axis = texts.symmetry;
  if (axis && !AXES.includes(axis as Axis)) throw new UsageError('--symmetry takes x, y or z');
  const plane = axis ? { axis: axis as Axis, offset: 0 } : null;
  if (!texts.sculpt) return { plane, form: null };
  const soup = await load(texts.sculpt, weld);
  return { plane, form: new WalkingForm(SculptSurface.build(sculptFromSoup(soup))) };
}

async function readSteps(file: string): Promise<Step[]> {
  let json: unknown;
  try {
    json = JSON.parse(await readFile(file, 'utf8'));
  } catch (error) {
    if (error instanceof SyntaxError) throw new HalfLoopError('BAD_INPUT', `${file} is not JSON: ${error.message}`);
    throw error;
  }
  if (!Array.isArray(json)) throw new HalfLoopError('BAD_INPUT', `${file} must hold a list of steps.`);
  return json.map((step, i) => {
    const parsed = z.safeParse(Step, step);
    if (parsed.success) return parsed.data;
    throw new HalfLoopError('BAD_INPUT', `Step ${i + 1} of ${file} is none: use pick, select or run; see half-loop edit --help.`); // prettier-ignore
  });
}

function perform(mesh: PolyMesh, selection: Selection, step: Step, i: number, ground: Ground) {
  const refuse = (what: string): HalfLoopError => new HalfLoopError('BAD_INPUT', `Step ${i + 1}: ${what}`);
  const count = (s: Selection) => ({ vertices: s.vertices.length, edges: s.edges.length, faces: s.faces.length });
  const picked = (s: Selection, how: string) => ({
    next: s,
    report: { sentence: `${how}: ${s.vertices.length} points, ${s.edges.length} edges, ${s.faces.length} faces`, counts: count(s) }, // prettier-ignore
  });
  if ('pick' in step) {
    const { vertices, edges, faces } = step.pick;
    const gone = vertices.find((v) => !mesh.hasVertex(v)) ?? faces.find((f) => !mesh.hasFace(f));
    if (gone !== undefined) throw refuse(`there is no element ${gone} to pick.`);
    const ids = edges.map(([a, b]) => {
      const h = mesh.hasVertex(a) && mesh.hasVertex(b) ? mesh.findHalf(a, b) : NONE;
      if (h === NONE) throw refuse(`no edge joins the points ${a} and ${b}.`);
      return h >> 1;
    });
    return picked({ vertices, edges: ids, faces }, 'picked');
  }
  if ('select' in step) {
    const query = SELECTION_QUERIES.get(step.select);
    if (!query) throw refuse(`there is no selection query “${step.select}”.`);
    try {
      return picked(runQuery(mesh, query, selection, step.params, ground.plane), query.title);
    } catch (error) {
      throw error instanceof HalfLoopError ? refuse(error.message) : error;
    }
  }
  const operator = OPERATORS.get(step.run);
  if (!operator) throw refuse(`there is no operator “${step.run}”.`);
  try {
    const { selection: next, report } = runOperator(mesh, operator, selection, step.params, ground);
    return { next, report: { run: step.run, ...report } };
  } catch (error) {
    throw error instanceof HalfLoopError ? refuse(error.message) : error;
  }
}
