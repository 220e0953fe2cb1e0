import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import path from 'node:path';
import { EMPTY_SELECTION, PolyMesh, type Selection } from '@half-loop/core/mesh';
import {
  BARE_GROUND,
  EvenPatches,
  loadSolids,
  OPERATORS,
  parseParams,
  Preview,
  type Operator,
} from '@half-loop/core/ops';
import { ms, say, time } from './measure';

const GOAL = 'goal 50 ms';
/** The engine compiles what runs often during a drag's first moves. */
const WARM = 12;
const op = (name: string): Operator => OPERATORS.get(name) as Operator;
const facesWhere = (mesh: PolyMesh, holds: (x: number, y: number, z: number) => boolean): number[] =>
  [...mesh.faces()].filter((f) => mesh.faceVertices(f).every((v) => holds(...mesh.point(v))));

/** A fresh part of about 10,000 faces. */
function part(name: string, settings: object): PolyMesh {
  const mesh = new PolyMesh();
  const preview = new Preview(mesh);
  preview.update(op(name), EMPTY_SELECTION, settings as never);
  preview.commit();
  return mesh;
}

/** Shapes and what is done to them, as a preview costs: run again from the start, on 10,000 faces. */
export async function shapes({ root }: { root: string }): Promise<void> {
  const resolve = createRequire(path.join(root, 'packages/core/package.json')).resolve;
  const bytes = await readFile(resolve('manifold-3d/manifold.wasm'));
  await loadSolids(async () => bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer); // prettier-ignore
  say('\nShapes in preview on about 10,000 faces, medians');
  await preview('a cylinder of 10,000 quads', new PolyMesh(), 'cylinder', EMPTY_SELECTION, { sides: 100, rings: 94, ends: 'quads' }); // prettier-ignore
  const sheet = part('plane-grid', { columns: 100, rows: 100, width: 10, depth: 10 });
  await preview('thicken a sheet', sheet, 'thicken', EMPTY_SELECTION, { thickness: 0.05 });
  await preview('bend it', sheet, 'deform', EMPTY_SELECTION, { kind: 'bend', axis: 'x', angle: 90 });
  const box = part('box', { width: 10, height: 10, depth: 10, columns: 41, floors: 41, rows: 41 });
  const top = facesWhere(box, (x, y, z) => y > 9.99 && Math.abs(x) < 1.6 && Math.abs(z) < 1.6);
  await preview(`bore through a box (${top.length} faces picked)`, box, 'bore', { ...EMPTY_SELECTION, faces: top }, { radius: 0.8 }); // prettier-ignore
  await preview('hold the border of 1,681 faces', box, 'holding-borders', { ...EMPTY_SELECTION, faces: facesWhere(box, (_x, y) => y > 9.99) }, {}); // prettier-ignore
  const line = [...box.edges()].filter((e) => [box.origin(2 * e), box.target(2 * e)].every((v) => box.point(v)[1] > 9.99 && Math.abs(box.point(v)[2] - 0.12) < 0.13)); // prettier-ignore
  await preview(`a groove along ${line.length} edges`, box, 'groove', { ...EMPTY_SELECTION, edges: line }, {});
  await preview('move a control point of a lattice', sheet, 'lattice', EMPTY_SELECTION, { moves: { '1,1,1': [0, 1, 0] } }); // prettier-ignore
  await preview('settle it about its base', box, 'settle', EMPTY_SELECTION, { ty: 30 });
  await preview('twist it', box, 'deform', EMPTY_SELECTION, { kind: 'twist', axis: 'y', angle: 90 });
  await preview('taper it', box, 'deform', EMPTY_SELECTION, { kind: 'taper', axis: 'y' });
  const levels = part('box', { columns: 20, floors: 20, rows: 20 });
  const finer = new Preview(levels);
  finer.update(op('subdivide'), EMPTY_SELECTION, {} as never);
  finer.commit();
  await preview(`recover the coarser mesh of ${levels.faceCount.toLocaleString('en')}`, levels, 'recover-coarser', EMPTY_SELECTION, {}); // prettier-ignore
  const rim = part('cylinder', { sides: 60, rings: 2 });
  const adding = new Preview(rim);
  const stud = adding.update(op('box'), EMPTY_SELECTION, { columns: 5, floors: 5, rows: 5, width: 0.1, height: 0.1, depth: 0.1, at: [9, 0, 0] } as never); // prettier-ignore
  adding.commit();
  const edges = [...rim.edges()].slice(0, 1);
  if ('selection' in stud) await preview('66 studs of 150 faces', rim, 'studs', { ...stud.selection, edges }, { count: 66, size: 0.5 }); // prettier-ignore
  const small = part('box', { columns: 5, floors: 5, rows: 5 });
  await preview('66 copies of 150 faces', small, 'copies', { ...EMPTY_SELECTION, faces: [0] }, { count: 67 });
  await cut('cut a box of 10,086 by a cylinder of 320 faces', 41, { sides: 64, rings: 4 });
  await cut('cut a box of 4,704 by a cylinder of 4,900', 28, { sides: 64, rings: 70 });
  await patches(box);
}

/** Even out is tried on a patch while its settings change: round so many places in turn. */
async function patches(mesh: PolyMesh): Promise<void> {
  const even = new EvenPatches(mesh, EMPTY_SELECTION, BARE_GROUND);
  const params = parseParams(op('even-out'), {}) as Parameters<EvenPatches['at']>[1];
  const faces = [...mesh.faces()];
  let i = 0;
  const run = (): void => {
    const face = faces[(7919 * i++) % faces.length];
    even.at({ face, point: mesh.point(mesh.faceVertices(face)[0]) }, params);
  };
  const first = await time(run, WARM);
  const cost = await time(run, 41);
  say(
    `  ${`even out: a patch, on ${mesh.faceCount.toLocaleString('en')} faces`.padEnd(47)} ${ms(cost)}  (${GOAL}); the first ${WARM} up to ${first.max.toFixed(0)} ms`,
  );
  const whole = await time(() => {
    const drag = new Preview(mesh);
    drag.update(op('even-out'), EMPTY_SELECTION, {} as never);
    drag.cancel();
  }, 3);
  say(`  ${'… and the whole, beside the page'.padEnd(47)} ${ms(whole)}`);
}

async function preview(
  name: string,
  mesh: PolyMesh,
  operator: string,
  selection: Selection,
  params: object,
): Promise<void> {
  const drag = new Preview(mesh);
  const run = (): void => void drag.update(op(operator), selection, params as never);
  const first = await time(run, WARM);
  const cost = await time(run, 21);
  drag.cancel();
  say(`  ${name.padEnd(47)} ${ms(cost)}  (${GOAL}); the first ${WARM} up to ${first.max.toFixed(0)} ms`);
}

async function cut(name: string, columns: number, cutter: object): Promise<void> {
  const mesh = part('box', { width: 10, height: 10, depth: 10, columns, floors: columns, rows: columns });
  const adding = new Preview(mesh);
  const added = adding.update(op('cylinder'), EMPTY_SELECTION, { radius: 3, height: 14, at: [0.1, -2, 0.2], ...cutter } as never); // prettier-ignore
  adding.commit();
  if ('selection' in added) await preview(name, mesh, 'boolean', added.selection, {});
}
