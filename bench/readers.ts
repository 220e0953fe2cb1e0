import { BufferAttribute, BufferGeometry } from 'three';
import { OBJLoader } from 'three/examples/jsm/loaders/OBJLoader.js';
import { PLYLoader } from 'three/examples/jsm/loaders/PLYLoader.js';
import { STLLoader } from 'three/examples/jsm/loaders/STLLoader.js';
import { mergeVertices } from 'three/examples/jsm/utils/BufferGeometryUtils.js';
import { MeshBVH } from 'three-mesh-bvh';
import { readMesh, writeMesh, type WriteFormat } from '@half-loop/core/formats';
import { encodeSculpt, makeStandIn, sculptFromSoup, SculptSurface } from '@half-loop/core/surface';
import { ballSoup } from '@half-loop/core/testing';
import { ms, pair, RINGS, say, time } from './measure';

/** Reading and making usable, against three's own loaders on the same bytes in turn. */
export async function readers(): Promise<void> {
  say('\nReading a sculpt of 998,000 triangles; ratio = three.js loader / ours, same bytes, in turn');
  const soup = ballSoup(RINGS, 10);
  const bytesOf = async (f: WriteFormat): Promise<Uint8Array> => (await writeMesh(soup, f, { name: 'ball' })).bytes;
  const [obj, ply, stl] = await Promise.all((['obj', 'ply', 'stl'] as const).map(bytesOf));
  const short = new TextEncoder().encode(
    new TextDecoder().decode(obj).replace(/-?\d+\.\d+(e-?\d+)?/g, (n) => Number(n).toFixed(6)),
  );
  const buffer = (b: Uint8Array): ArrayBuffer =>
    b.buffer.slice(b.byteOffset, b.byteOffset + b.byteLength) as ArrayBuffer;
  const line = (name: string, r: Awaited<ReturnType<typeof pair>>): void =>
    say(`  ${name.padEnd(26)} ${ms(r.ours).padEnd(34)} three ${ms(r.theirs).padEnd(36)} ${r.ratio.toFixed(1)}x`);
  line('OBJ, full doubles', await pair(() => readMesh(obj, 'a.obj'), () => new OBJLoader().parse(new TextDecoder().decode(obj)), 3)); // prettier-ignore
  line('OBJ, six decimals', await pair(() => readMesh(short, 'a.obj'), () => new OBJLoader().parse(new TextDecoder().decode(short)), 3)); // prettier-ignore
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
  say(`  a stand-in for drawing     ${ms(await time(() => makeStandIn(data), 1))}`);
  memory(SculptSurface.build(sculptFromSoup(soup)));
}

/** Bytes of everything a sculpt is made of in the page. */
function memory(surface: SculptSurface): void {
  const { positions, indices, normals, bvh } = surface.toData();
  const roots = (bvh.roots as ArrayBuffer[]).reduce((n, b) => n + b.byteLength, 0);
  const sum = positions.byteLength + indices.byteLength + normals.byteLength + roots;
  const per = (n: number): string => (n / surface.triangleCount).toFixed(1);
  say(
    `  memory of the surface      ${per(sum)} bytes a triangle (points and normals ${per(positions.byteLength + normals.byteLength)}, corners ${per(indices.byteLength)}, BVH ${per(roots)}); stored ${per(encodeSculpt({ positions, indices }).byteLength)}`,
  );
}
