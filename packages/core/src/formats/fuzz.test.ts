import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { beforeAll, describe, expect, it } from 'vitest';
import { HalfLoopError } from '../errors';
import { seededRng, type Rng } from '../math';
import { cornerNormals, type PolygonSoup } from '../mesh';
import { ballSoup } from '../testing';
import { encodeGltf } from '../testing/gltfFixtures';
import { readMesh, writeMesh, type WriteFormat } from '.';

/** damaged files of each kind; `npm run fuzz -- --count N` asks for more */
const COUNT = Number(process.env.HALF_LOOP_FUZZ_COUNT ?? 150);
const SEED = Number(process.env.HALF_LOOP_FUZZ_SEED ?? 1);
/** a file of a few kilobytes that takes longer hangs */
const MOST_MS = 5000;

/** Damages a file as disks, networks and editors do: cut, bytes changed, a stretch doubled, dropped or zeroed. */
function damage(bytes: Uint8Array, rng: Rng): Uint8Array {
  const at = (): number => Math.floor(rng() * bytes.length);
  const out = bytes.slice();
  const [a, b] = [at(), at()].sort((x, y) => x - y);
  switch (Math.floor(rng() * 7)) {
    case 0:
      return out.slice(0, at());
    case 1:
      for (let i = 0; i < 1 + rng() * 8; i++) out[at()] = Math.floor(rng() * 256);
      return out;
    case 2:
      return Uint8Array.from([...out.subarray(0, b), ...out.subarray(a)]);
    case 3:
      return Uint8Array.from([...out.subarray(0, a), ...out.subarray(b)]);
    case 4:
      return out.fill(0, at(), at());
    case 5: {
      // a word put where another was: keywords, nothing, numbers no field expects
      const words = ['nan', '-1', '1e999', '', '0', 'f', 'end_header', '{', '"', '\\\n', '4294967295', 'null'];
      const word = new TextEncoder().encode(words[Math.floor(rng() * words.length)]);
      return Uint8Array.from([...out.subarray(0, a), ...word, ...out.subarray(Math.min(out.length, a + 3))]);
    }
    default: {
      // header numbers blown up, the classic way to make a reader take all the memory there is
      const text = new TextDecoder('latin1').decode(out).replace(/\d+/g, (n) => (rng() < 0.1 ? `${n}999999` : n));
      return Uint8Array.from(text, (c) => c.charCodeAt(0));
    }
  }
}

const text = (s: string): Uint8Array => new TextEncoder().encode(s);
const ball = ballSoup(5);
const dressed: PolygonSoup = {
  ...ball,
  attributes: {
    normals: cornerNormals(ball),
    uvs: new Float32Array(2 * ball.corners.length).fill(0.25),
    pointColours: new Float32Array((4 * ball.positions.length) / 3).fill(0.5),
    groups: { names: ['a', 'b'], ofFace: new Uint32Array(ball.faceStarts.length - 1).map((_, f) => f % 2) },
    hardEdges: Uint32Array.of(0, 1, 1, 2),
  },
};
const written = async (format: WriteFormat): Promise<Uint8Array> => (await writeMesh(dressed, format, { name: 'ball' })).bytes; // prettier-ignore
const plyText = (): string =>
  `ply\nformat ascii 1.0\nelement vertex 4\nproperty float x\nproperty float y\nproperty float z\nproperty uchar red\nproperty uchar green\nproperty uchar blue\nelement face 2\nproperty list uchar int vertex_indices\nend_header\n0 0 0 1 2 3\n1 0 0 4 5 6\n1 1 0 7 8 9\n0 1 0 1 1 1\n3 0 1 2\n3 0 2 3\n`;
const stlText = (): string =>
  `solid a\n${'facet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 0\nendloop\nendfacet\n'.repeat(8)}endsolid\n`;
const utf16 = (bytes: Uint8Array): Uint8Array => Uint8Array.from([255, 254, ...[...bytes].flatMap((b) => [b, 0])]);

const KINDS: Record<string, () => Promise<Uint8Array>> = {
  'written.obj': () => written('obj'),
  'utf16.obj': async () => utf16(await written('obj')),
  'written.ply': () => written('ply'),
  'text.ply': async () => text(plyText()),
  'written.off': () => written('off'),
  'written.stl': () => written('stl'),
  'text.stl': async () => text(stlText()),
  'written.glb': () => written('glb'),
  'draco.glb': () => encodeGltf(ball, 'draco'),
  'meshopt.glb': () => encodeGltf(ball, 'meshopt'),
  'sparse.glb': () => encodeGltf(ball, 'sparse'),
  'quantised.glb': () => encodeGltf(ball, 'quantised'),
};

let wasm: ArrayBuffer;
beforeAll(async () => {
  const bytes = await readFile(createRequire(import.meta.url).resolve('draco3dgltf/draco_decoder_gltf.wasm'));
  wasm = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer;
});

/** Reads a damaged file; it must give a sound mesh or one clear sentence. Returns whether it was sound. */
async function survives(file: Uint8Array, name: string): Promise<boolean> {
  const start = performance.now();
  try {
    const { soup } = await readMesh(file, name, { attributes: true, dracoWasm: async () => wasm });
    const points = soup.positions.length / 3;
    expect(soup.faceStarts.at(-1)).toBe(soup.corners.length);
    expect(soup.corners.every((v) => v < points)).toBe(true);
    expect(soup.positions.every(Number.isFinite)).toBe(true);
    for (let f = 1; f < soup.faceStarts.length; f++)
      expect(soup.faceStarts[f] - soup.faceStarts[f - 1]).toBeGreaterThanOrEqual(3);
    const { uvs, normals, pointColours, groups, hardEdges } = soup.attributes ?? {};
    for (const [rows, length] of [
      [uvs, 2 * soup.corners.length],
      [normals, 3 * soup.corners.length],
      [pointColours, 4 * points],
      [groups?.ofFace, soup.faceStarts.length - 1],
    ] as const)
      // prettier-ignore
      if (rows) expect(rows).toHaveLength(length);
    if (groups) expect(groups.ofFace.every((g) => g < groups.names.length)).toBe(true);
    if (hardEdges) expect(hardEdges.every((v) => v < points)).toBe(true);
    return true;
  } catch (error) {
    expect(error).toBeInstanceOf(HalfLoopError);
    expect((error as HalfLoopError).code).toBe('BAD_FILE');
    expect((error as HalfLoopError).message.length).toBeLessThan(320);
    expect((error as HalfLoopError).message).not.toMatch(/\n|undefined|\[object/);
    return false;
  } finally {
    expect(performance.now() - start).toBeLessThan(MOST_MS);
  }
}

describe('damaged files', () => {
  it.each(Object.entries(KINDS))(
    '%s: each gives a sound mesh or one clear sentence',
    async (name, make) => {
      const bytes = await make();
      expect(await survives(bytes, name)).toBe(true);
      const rng = seededRng(SEED * 1000 + name.length * 7 + name.charCodeAt(0));
      let [sound, refused] = [0, 0];
      for (let i = 0; i < COUNT; i++) {
        if (await survives(damage(bytes, rng), name)) sound++;
        else refused++;
      }
      expect(sound + refused).toBe(COUNT);
      expect(refused).toBeGreaterThan(COUNT / 10);
    },
    60_000 + COUNT * 200,
  );

  it('nonsense is refused', async () => {
    const rng = seededRng(77);
    for (const ending of ['obj', 'ply', 'off', 'stl', 'glb', 'gltf'])
      for (let i = 0; i < 40; i++) {
        const bytes = Uint8Array.from({ length: 1 + Math.floor(rng() * 400) }, () => Math.floor(rng() * 256));
        await expect(readMesh(bytes, `a.${ending}`)).rejects.toMatchObject({ code: 'BAD_FILE' });
      }
  });
});
