import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { describe, expect, it } from 'vitest';
import { compareSurfaces, soupInfo } from '../../inspect';
import { seededRng } from '../../math';
import type { PolygonSoup } from '../../mesh';
import { sculptFromSoup, SculptSurface } from '../../surface';
import { ballSoup } from '../../testing';
import { encodeGltf, GLTF_KINDS } from '../../testing/gltfFixtures';
import { readMesh, type ReadOptions } from '..';

const dracoWasm = async (): Promise<ArrayBuffer> => {
  const bytes = await readFile(createRequire(import.meta.url).resolve('draco3dgltf/draco_decoder_gltf.wasm'));
  return bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer;
};
const text = (json: unknown): Uint8Array => new TextEncoder().encode(JSON.stringify(json));
const base64 = (bytes: ArrayBuffer): string => `data:application/octet-stream;base64,${Buffer.from(bytes).toString('base64')}`; // prettier-ignore
const surface = (soup: PolygonSoup): SculptSurface => SculptSurface.build(sculptFromSoup(soup));

/** A glTF of a unit square by two triangles; `change` edits its JSON. */
function square(change: (json: Gltf) => void = () => undefined): Gltf {
  const points = new Float32Array([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0]);
  const ids = new Uint16Array([0, 1, 2, 0, 2, 3]);
  const all = new Uint8Array(60);
  all.set(new Uint8Array(points.buffer));
  all.set(new Uint8Array(ids.buffer), 48);
  const json: Gltf = {
    asset: { version: '2.0' },
    buffers: [{ byteLength: 60, uri: base64(all.buffer) }],
    bufferViews: [{ buffer: 0, byteLength: 48 }, { buffer: 0, byteOffset: 48, byteLength: 12 }],
    accessors: [{ bufferView: 0, componentType: 5126, count: 4, type: 'VEC3' }, { bufferView: 1, componentType: 5123, count: 6, type: 'SCALAR' }],
    meshes: [{ name: 'hatch', primitives: [{ attributes: { POSITION: 0 }, indices: 1 }] }],
    nodes: [{ mesh: 0 }],
    scenes: [{ nodes: [0] }],
  }; // prettier-ignore
  change(json);
  return json;
}
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- tests break the JSON in ways no type allows
type Gltf = any;
const read = async (json: Gltf, options: ReadOptions = {}): Promise<PolygonSoup> =>
  (await readMesh(text(json), 'a.gltf', options)).soup;

describe('glTF as programs write it', () => {
  it.each(GLTF_KINDS)('%s: encoded here, read back as the same surface', async (kind) => {
    const ball = ballSoup(12, 3);
    const { soup } = await readMesh(await encodeGltf(ball, kind), 'ball.glb', { dracoWasm });
    expect(soupInfo({ ...soup, ...sculptFromSoupAsSoup(soup) })).toMatchObject({ triangles: soupInfo(ball).triangles, components: 1, borderLoops: 0 }); // prettier-ignore
    const { max } = compareSurfaces(surface(soup), surface(ball), seededRng(3));
    expect(max).toBeLessThan(kind === 'plain' || kind === 'sparse' ? 1e-6 : 0.01);
  });

  it('says so when a decoder is missing', async () => {
    await expect(readMesh(await encodeGltf(ballSoup(4), 'draco'), 'a.glb')).rejects.toThrow(/compressed by Draco/);
  });

  it('reads strips, fans and points without indices', async () => {
    const faces = (mode: number, ids: number[] | null): Promise<PolygonSoup> =>
      read(
        square((j) => {
          j.meshes[0].primitives[0].mode = mode;
          if (!ids) delete j.meshes[0].primitives[0].indices;
          else {
            j.buffers.push({ byteLength: ids.length, uri: base64(Uint8Array.from(ids).buffer) });
            j.bufferViews.push({ buffer: 1, byteLength: ids.length });
            j.accessors[1] = { bufferView: 2, componentType: 5121, count: ids.length, type: 'SCALAR' };
          }
        }),
      );
    expect([...(await faces(5, [0, 1, 3, 2])).corners]).toEqual([0, 1, 3, 3, 1, 2]);
    expect([...(await faces(5, [0, 1, 3, 3, 2])).corners]).toEqual([0, 1, 3]);
    expect([...(await faces(6, [0, 1, 2, 3])).corners]).toEqual([0, 1, 2, 0, 2, 3]);
    expect([...(await faces(6, null)).corners]).toEqual([0, 1, 2, 0, 2, 3]);
    expect([...(await faces(4, null)).corners]).toEqual([0, 1, 2]);
  });

  it('places meshes by their nodes, turns faces that a mirror turned, and needs no scene', async () => {
    const soup = await read(
      square((j) => {
        j.nodes = [
          { children: [1, 2], translation: [0, 0, 5] },
          { mesh: 0, scale: [-2, 2, 2] },
          { mesh: 0, name: 'other' },
        ];
        delete j.scenes;
      }),
      { attributes: true },
    );
    expect(soup.positions.subarray(0, 6)).toEqual(Float64Array.of(0, 0, 5, -2, 0, 5));
    expect([...soup.corners]).toEqual([2, 1, 0, 3, 2, 0, 4, 5, 6, 4, 6, 7]);
    expect(soup.attributes?.groups).toEqual({ names: ['hatch', 'other'], ofFace: Uint32Array.of(0, 0, 1, 1) });
  });

  it('reads buffers that lie beside it, below its folder only', async () => {
    const bytes = Buffer.from(square().buffers[0].uri.split(',')[1], 'base64');
    const asked: string[] = [];
    const beside = async (name: string): Promise<Uint8Array | null> => {
      asked.push(name);
      return name === 'parts/my shell.bin' ? new Uint8Array(bytes) : null;
    };
    const at = (uri: string): Promise<PolygonSoup> =>
      read(
        square((j) => (j.buffers[0].uri = uri)),
        { beside },
      );
    expect((await at('parts/my%20shell.bin')).corners).toHaveLength(6);
    await expect(at('gone.bin')).rejects.toThrow(/needs the file “gone.bin” beside it/);
    for (const uri of [
      '../secret.bin',
      '/etc/passwd',
      'file:///etc/passwd',
      'https://a.example/x.bin',
      'a/%2e%2e/%2e%2e/b',
      'C:\\x.bin',
      'a\0b',
    ])
      // prettier-ignore
      await expect(at(uri)).rejects.toThrow(/only files beside the glTF are read/);
    expect(asked).toEqual(['parts/my shell.bin', 'gone.bin']);
  });

  it.each<[string, (j: Gltf) => void, RegExp]>([
    ['a count of billions', (j) => (j.accessors[0].count = 4e9), /accessors\[0\] has 4000000000 values/],
    ['billions of zeros', (j) => (j.accessors[0] = { componentType: 5126, count: 4e9, type: 'VEC3' }), /claim 48000000000 bytes/], // prettier-ignore
    ['a point beyond the last', (j) => (j.accessors[0].count = 3), /names point 3, but there are 3/],
    ['a view beyond its buffer', (j) => (j.bufferViews[1].byteOffset = 50), /bufferViews\[1\] ends at byte 62/],
    ['a buffer longer than its bytes', (j) => (j.buffers[0].byteLength = 1e12), /buffers\[0\].byteLength is 1000000000000, but there are 60/], // prettier-ignore
    ['a node below itself', (j) => (j.nodes[0].children = [0]), /nodes\[0\] contains itself/],
    ['two parents', (j) => (j.nodes = [{ children: [2] }, { children: [2] }, {}]), /nodes\[2\] hangs in two places/],
    ['a mesh that is not there', (j) => (j.nodes[0].mesh = 7), /nodes\[0\].mesh is 7, but there are 1/],
    ['an unknown type', (j) => (j.accessors[0].type = 'constructor'), /accessors\[0\] is of an unknown type/],
    ['a required extension', (j) => (j.extensionsRequired = ['EXT_mesh_gpu_instancing']), /needs “EXT_mesh_gpu_instancing”/], // prettier-ignore
    ['an old version', (j) => (j.asset.version = '1.0'), /version/],
    ['nodes that are no list', (j) => (j.nodes = 'x'), /nodes is not a list/],
  ])('refuses %s, with the place', async (_, change, message) => {
    const error = await read(square(change)).catch((e: unknown) => e);
    expect(error).toMatchObject({ code: 'BAD_FILE' });
    expect((error as Error).message).toMatch(message);
  });

  it('does not look for pictures, nor for what only changes looks', async () => {
    const soup = await read(
      square((j) => {
        j.images = [{ uri: 'skin.png' }];
        j.textures = [{ source: 0 }];
        j.materials = [{ pbrMetallicRoughness: { baseColorTexture: { index: 0 } } }];
        j.meshes[0].primitives[0].material = 0;
        j.extensionsRequired = ['KHR_materials_unlit', 'KHR_texture_transform'];
        j.extensionsUsed = j.extensionsRequired;
      }),
    );
    expect(soup.corners).toHaveLength(6);
  });
});

function sculptFromSoupAsSoup(soup: PolygonSoup): PolygonSoup {
  const { positions, indices } = sculptFromSoup(soup);
  return {
    positions: Float64Array.from(positions),
    faceStarts: Uint32Array.from({ length: indices.length / 3 + 1 }, (_, f) => 3 * f),
    corners: indices,
  };
}
