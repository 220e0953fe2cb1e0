import { BufferAttribute, BufferGeometry } from 'three';
import { OBJLoader } from 'three/examples/jsm/loaders/OBJLoader.js';
import { PLYLoader } from 'three/examples/jsm/loaders/PLYLoader.js';
import { STLLoader } from 'three/examples/jsm/loaders/STLLoader.js';
import { mergeVertices } from 'three/examples/jsm/utils/BufferGeometryUtils.js';
import { MeshBVH } from 'three-mesh-bvh';
import { readMesh, writeMesh, type WriteFormat } from '@half-loop/core/formats';
import { makeUp } from '@half-loop/core/inspect';
import { normalize, seededRng, sub, type Vec3 } from '@half-loop/core/math';
import { deltaSize, EMPTY_SELECTION, encodeMesh, meshFromSoup } from '@half-loop/core/mesh';
import { deletePicked, drawOut, movePoints, runOperator, weld } from '@half-loop/core/ops';
import { PickGrid } from '@half-loop/core/pick';
import { sculptFromSoup, SculptSurface, snapPoint, snapRay } from '@half-loop/core/surface';
import { ballSoup, gridMesh } from '@half-loop/core/testing';
import { ms, pair, time } from './measure';

const RINGS = 500; // 4 · rings · (rings − 1) triangles: 998,000
const say = (line: string): void => console.log(line);

async function readers(): Promise<void> {
  say('\nReading a sculpt of 998,000 triangles; ratio = three.js loader / ours, same bytes, in turn');
  const soup = ballSoup(RINGS, 10);
  const bytesOf = async (f: WriteFormat): Promise<Uint8Array> => (await writeMesh(soup, f, { name: 'ball' })).bytes;
  const [obj, ply, stl] = await Promise.all((['obj', 'ply', 'stl'] as const).map(bytesOf));
  const buffer = (b: Uint8Array): ArrayBuffer =>
    b.buffer.slice(b.byteOffset, b.byteOffset + b.byteLength) as ArrayBuffer;
  const line = (name: string, r: Awaited<ReturnType<typeof pair>>): void =>
    say(`  ${name.padEnd(26)} ${ms(r.ours).padEnd(34)} three ${ms(r.theirs).padEnd(36)} ${r.ratio.toFixed(1)}x`);
  line('OBJ', await pair(() => readMesh(obj, 'a.obj'), () => new OBJLoader().parse(new TextDecoder().decode(obj)), 3)); // prettier-ignore
  line('PLY binary', await pair(() => readMesh(ply, 'a.ply'), () => new PLYLoader().parse(buffer(ply)), 3)); // prettier-ignore
  line('STL binary, loose', await pair(() => readMesh(stl, 'a.stl'), () => new STLLoader().parse(buffer(stl)), 3)); // prettier-ignore
  const weldOurs = async (): Promise<unknown> => sculptFromSoup((await readMesh(stl, 'a.stl')).soup);
  const weldTheirs = (): unknown => mergeVertices(new STLLoader().parse(buffer(stl)).deleteAttribute('normal'));
  line('STL binary, welded', await pair(weldOurs, weldTheirs, 3));

  const data = sculptFromSoup(soup);
  const bvhAlone = (): unknown => {
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(data.positions, 3));
    geometry.setIndex(new BufferAttribute(data.indices.slice(), 1));
    return new MeshBVH(geometry, { targetLeafSize: 8 });
  };
  const usable = async (): Promise<unknown> => SculptSurface.build(sculptFromSoup((await readMesh(ply, 'a.ply')).soup));
  const readAndBvh = async (): Promise<unknown> => [await readMesh(ply, 'a.ply'), bvhAlone()];
  const r = await pair(usable, readAndBvh, 3);
  say(
    `  dropped bytes to usable    ${ms(r.ours)}; read plus BVH alone ${ms(r.theirs)}: ${(1 / r.ratio).toFixed(2)}x of it`,
  );
}

async function hover(): Promise<void> {
  const surface = SculptSurface.build(sculptFromSoup(ballSoup(RINGS, 10)));
  const low = meshFromSoup(ballSoup(112, 10.01)).mesh;
  const grid = new PickGrid(low, 0.55);
  const rng = seededRng(4);
  const aim = (): { eye: Vec3; d: Vec3 } => {
    const eye: Vec3 = normalize([rng() - 0.5, rng() - 0.5, rng() - 0.5]).map((x) => x * 40) as unknown as Vec3;
    return { eye, d: normalize(sub([rng() * 12 - 6, rng() * 12 - 6, rng() * 12 - 6], eye)) };
  };
  const rays = Array.from({ length: 400 }, aim);
  let i = 0;
  const next = (): { eye: Vec3; d: Vec3 } => rays[i++ % rays.length];
  say(
    `\nPointer hover: pick on ${low.faceCount.toLocaleString('en')} faces, snap on ${surface.triangleCount.toLocaleString('en')} triangles; per query`,
  );
  const pick = await time(() => {
    const { eye, d } = next();
    const face = grid.raycast(eye, d);
    return grid.nearest(eye, d, 0.004, face ? face.distance + grid.cell / 2 : Infinity, { vertices: [], edges: [] });
  }, 400);
  const snap = await time(() => {
    const { eye, d } = next();
    return snapRay(surface, { eye }, d);
  }, 400);
  const stick = await time(() => {
    const { eye, d } = next();
    return snapPoint(surface, { eye }, [eye[0] + d[0] * 31, eye[1] + d[1] * 31, eye[2] + d[2] * 31]);
  }, 400);
  say(`  pick ${ms(pick)}\n  snap ${ms(snap)}\n  stick a moved point ${ms(stick)}`);
}

async function operators(): Promise<void> {
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

await readers();
await hover();
await operators();
