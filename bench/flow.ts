import { seededRng, type Vec3 } from '@half-loop/core/math';
import { edgeLoop, EMPTY_SELECTION, type Delta, type PolyMesh } from '@half-loop/core/mesh';
import { brush, insertLoops, runOperator, weightsIn } from '@half-loop/core/ops';
import { insideOutline } from '@half-loop/core/select';
import { cageOf, subdivide } from '@half-loop/core/subdivide';
import { sculptFromSoup, SculptSurface, WalkingForm } from '@half-loop/core/surface';
import { ballMesh, ballSoup, tubeMesh } from '@half-loop/core/testing';
import { ms, say, time } from './measure';

/** Flow's interactions on 50,000 quads: what each costs a hand. Goals stand beside; undo beside its operator. */
export async function flow(): Promise<void> {
  say('\nFlow on a tube of 50,000 quads (200 round, 250 along), medians');
  const mesh = tubeMesh(200, 250, 10, 0.3);
  const inner = mesh.findHalf(200 * 125, 200 * 125 + 1);
  say(
    `  walk a loop of 200 edges                    ${ms(await time(() => void edgeLoop(mesh, inner), 200))}  (goal 1 ms)`,
  );
  const rung = { ...EMPTY_SELECTION, edges: [mesh.findHalf(200 * 125, 200 * 126) >> 1] };
  await withUndo(
    'insert a loop into a ring of 200 quads',
    mesh,
    () => runOperator(mesh, insertLoops, rung, {}).delta,
    'goal 4 ms',
  );
  await relaxing();
  await picking(mesh);
  await finer();
}

/** The operator alone with its delta, and beside it what undoing and redoing cost. */
async function withUndo(name: string, mesh: PolyMesh, run: () => Delta, goal: string): Promise<void> {
  const times: number[] = [];
  for (let i = 0; i < 260; i++) {
    const start = performance.now();
    const delta = run();
    if (i >= 60) times.push(performance.now() - start);
    mesh.apply(delta, 'backward');
  }
  times.sort((a, b) => a - b);
  const delta = run();
  mesh.apply(delta, 'backward');
  const undo = await time(() => {
    mesh.apply(delta, 'forward');
    mesh.apply(delta, 'backward');
  }, 60);
  const forward = { median: times[times.length >> 1], min: times[0], max: times[times.length - 1] };
  say(`  ${name.padEnd(43)} ${ms(forward)}  (${goal}; one redo and undo of it ${ms(undo)})`);
}

async function relaxing(): Promise<void> {
  const rings = 500;
  const surface = SculptSurface.build(sculptFromSoup(ballSoup(rings, 10)));
  const low = ballMesh(91, 10);
  const near = 0;
  const at = low.point(near);
  let radius = 0.5;
  while (weightsIn(low, near, at, radius, 1).size < 1000) radius += 0.05;
  const ground = { plane: null, form: new WalkingForm(surface) };
  const rng = seededRng(3);
  const step = (): Delta => {
    const dab = { at: at.map((x) => x + (rng() - 0.5) * 0.02) as unknown as [number, number, number], near };
    return runOperator(low, brush, EMPTY_SELECTION, { kind: 'relax', radius, dabs: [dab], hold: true }, ground).delta;
  };
  const n = weightsIn(low, near, at, radius, 1).size;
  await withUndo(
    `relax ${n.toLocaleString('en')} points on ${(surface.triangleCount / 1e6).toFixed(1)}M triangles`,
    low,
    step,
    'goal 8 ms',
  );
}

async function picking(mesh: PolyMesh): Promise<void> {
  const pixels = new Float32Array(2 * mesh.vertexRows);
  for (const v of mesh.vertices()) {
    const p: Vec3 = mesh.point(v);
    pixels[2 * v] = 500 + 30 * p[0];
    pixels[2 * v + 1] = 20 * p[1];
  }
  const lasso = new Float32Array(400);
  for (let i = 0; i < 200; i++) {
    const a = (i / 200) * 2 * Math.PI;
    lasso[2 * i] = 500 + 3000 * Math.cos(a);
    lasso[2 * i + 1] = 800 + 3000 * Math.sin(a);
  }
  const take = (): void => void insideOutline(mesh, pixels, lasso, { kind: 'faces', wholly: true, isSeen: null });
  say(`  lasso of all 50,000 faces, 200 points        ${ms(await time(take, 40))}  (goal 30 ms)`);
}

async function finer(): Promise<void> {
  const cube = ballMesh(41, 1);
  const cage = cageOf(cube, cube.faces(), null);
  const timing = await time(() => void subdivide(cage, 2), 30);
  say(`  subdivision level 2 of ${cube.faceCount.toLocaleString('en')} quads            ${ms(timing)}  (goal 60 ms)`);
}
