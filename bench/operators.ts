import { makeUp } from '@half-loop/core/inspect';
import { deltaSize, EMPTY_SELECTION, encodeMesh } from '@half-loop/core/mesh';
import {
  bevel,
  deletePicked,
  drawOut,
  extrude,
  inset,
  movePoints,
  poke,
  relax,
  runOperator,
  spin,
  weld,
} from '@half-loop/core/ops';
import { gridMesh } from '@half-loop/core/testing';
import { ms, say, time } from './measure';

/** What an operator touches and takes as the mesh grows: a curve that must stay flat. */
export async function operators(): Promise<void> {
  say('\nOne operator and its undo, by mesh size: rows and bytes touched, time. Flat is right.');
  for (const side of [32, 100, 316]) {
    const mesh = gridMesh(side, side);
    const middle = Math.floor(side / 2) * (side + 1) + Math.floor(side / 2);
    const edge = mesh.findHalf(1, 2) >> 1;
    const ends = [1, 2].map((from) => ({ from, to: { point: [from, -1, 0] as [number, number, number] } }));
    const cases = {
      move: () => runOperator(mesh, movePoints, EMPTY_SELECTION, { points: [{ vertex: middle, to: [0, 0, 1] }] }),
      'draw out': () => runOperator(mesh, drawOut, EMPTY_SELECTION, { edges: [edge], ends }),
      weld: () => runOperator(mesh, weld, EMPTY_SELECTION, { pairs: [[middle, middle + 1]] }),
      spin: () => runOperator(mesh, spin, { ...EMPTY_SELECTION, edges: [mesh.findHalf(middle, middle + 1) >> 1] }, {}),
      poke: () => runOperator(mesh, poke, { ...EMPTY_SELECTION, faces: [middle] }, {}),
      inset: () => runOperator(mesh, inset, { ...EMPTY_SELECTION, faces: [middle] }, { width: 0.1 }),
      extrude: () => runOperator(mesh, extrude, { ...EMPTY_SELECTION, faces: [middle] }, { distance: 0.5 }),
      bevel: () => runOperator(mesh, bevel, { ...EMPTY_SELECTION, vertices: [middle] }, { width: 0.2, segments: 2 }),
      relax: () => runOperator(mesh, relax, { ...EMPTY_SELECTION, faces: [middle] }, { density: 'even', passes: 2 }),
      delete: () => runOperator(mesh, deletePicked, { ...EMPTY_SELECTION, faces: [middle] }, {}),
    };
    for (const [name, run] of Object.entries(cases)) {
      let size = { rows: 0, bytes: 0 };
      const timing = await time(() => {
        const { delta } = run();
        size = deltaSize(delta);
        mesh.apply(delta, 'backward');
      }, 200);
      say(
        `  ${String(mesh.faceCount).padStart(7)} faces  ${name.padEnd(9)} ${String(size.rows).padStart(4)} rows ${String(size.bytes).padStart(6)} bytes  ${ms(timing)}`,
      );
    }
  }
  const big = gridMesh(224, 224);
  say(
    `\nWhole-mesh work on ${big.faceCount.toLocaleString('en')} quads\n  count the make-up ${ms(await time(() => makeUp(big, null)))}\n  encode for saving ${ms(await time(() => encodeMesh(big)))}`,
  );
}
