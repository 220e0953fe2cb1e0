import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { HalfLoopError } from '../errors';
import { cornerNormals, soupOf, type PolygonSoup } from '../mesh';
import { soupInfo } from '../inspect';
import { sculptFromSoup } from '../surface';
import { ballSoup, CUBE_SOUP } from '../testing';
import { validateBytes } from 'gltf-validator';
import { readMesh, writeMesh, type WriteFormat } from '.';
import { decodeNgons, encodeNgons } from './gltf/ngonEncoding';

const text = (s: string): Uint8Array => new TextEncoder().encode(s);
const withNormals = (soup: PolygonSoup): PolygonSoup => ({ ...soup, attributes: { normals: cornerNormals(soup) } });
const read = async (name: string, bytes: Uint8Array | string): Promise<PolygonSoup> =>
  (await readMesh(typeof bytes === 'string' ? text(bytes) : bytes, name)).soup;

/** A flat fan-shaped sheet of polygons with 3 to 7 sides, some concave. */
const mixed = soupOf(
  [[0, 0, 0], [4, 0, 0], [4, 4, 0], [0, 4, 0], [2, 1, 0], [8, 0, 0], [8, 4, 0], [6, 5, 1], [12, 2, 0], [0.1, 1 / 3, -7e-9], [5, 9, 2]],
  [[0, 1, 4], [1, 2, 3, 0, 4], [1, 5, 6, 7, 2], [5, 8, 6], [2, 7, 10, 3], [9, 0, 3]],
); // prettier-ignore

describe('round trips', () => {
  const exact: WriteFormat[] = ['obj', 'ply', 'off'];
  it.each(exact)('%s keeps polygons and every bit of the coordinates', async (format) => {
    const { bytes } = await writeMesh(withNormals(mixed), format, { name: 'Blenny bust' });
    expect(await read(`a.${format}`, bytes)).toEqual(mixed);
  });
  it('glb keeps polygons where a flat fan exists and says where not', async () => {
    const { bytes, notes } = await writeMesh(withNormals(mixed), 'glb', { name: 'Blenny <bust>' });
    const back = await read('a.glb', bytes);
    const sizes = (s: PolygonSoup): number[] => [...s.faceStarts].slice(1).map((x, i) => x - s.faceStarts[i]);
    expect(sizes(back)).toEqual(sizes(mixed));
    expect(notes).toEqual([]);
    const arms = soupOf([[0, 0, 0], [6, 0, 0], [6, 4, 0], [5, 4, 0], [5, 1, 0], [1, 1, 0], [1, 4, 0], [0, 4, 0]], [[0, 1, 2, 3, 4, 5, 6, 7]]); // prettier-ignore
    const cut = await writeMesh(arms, 'glb', { name: 's' });
    expect(cut.notes[0]).toMatch(/^1 face is stored as triangles/);
    expect(soupInfo(await read('s.glb', cut.bytes))).toMatchObject({ faces: 6, triangles: 6 });
  });
  it('stl keeps the surface, loose, and welding brings the points back', async () => {
    const { bytes, notes } = await writeMesh(CUBE_SOUP, 'stl', { name: 'c' });
    const back = await read('a.stl', bytes);
    expect([back.positions.length / 3, notes.length]).toEqual([36, 1]);
    expect(sculptFromSoup(back)).toMatchObject({ welded: 28, dropped: 0 });
  });
  it('holds for any mesh of quads and triangles', async () => {
    const point = fc
      .tuple(
        fc.double({ min: -1e6, max: 1e6, noNaN: true }),
        fc.float({ noNaN: true, noDefaultInfinity: true }),
        fc.integer(),
      )
      .map((p) => p.map((x) => x + 0));
    await fc.assert(
      fc.asyncProperty(fc.array(point, { minLength: 4, maxLength: 12 }), async (points) => {
        const soup = soupOf(points, [[0, 1, 2], [3, 2, 1, 0]]); // prettier-ignore
        for (const format of exact)
          expect(await read(`a.${format}`, (await writeMesh(soup, format, { name: '' })).bytes)).toEqual(soup);
      }),
      { numRuns: 40 },
    );
  });
});

describe('a written GLB', () => {
  it('passes the registered validator with no error and no warning, whatever it is called', async () => {
    for (const [soup, name] of [
      [mixed, 'Blenny bust'],
      [CUBE_SOUP, '../"é\\u0000<script>'],
      [ballSoup(8), ''],
    ] as const) {
      // prettier-ignore
      const { bytes } = await writeMesh(withNormals(soup), 'glb', { name });
      const { issues } = await validateBytes(bytes);
      expect(issues.messages.filter((m) => m.severity < 2)).toEqual([]);
    }
  });
});

describe('polygons in triangle order', () => {
  it('never lets two neighbours begin with the same point', () => {
    const { indices, lost } = encodeNgons(CUBE_SOUP);
    expect(lost).toBe(0);
    expect([...decodeNgons(indices).faceStarts]).toEqual([0, 4, 8, 12, 16, 20, 24]);
    expect(decodeNgons(encodeNgons(ballSoup(6)).indices).faceStarts).toEqual(ballSoup(6).faceStarts);
  });
});

describe('readers', () => {
  it('reads OBJ with every corner form, negative numbers, continuation, CRLF and no last line end', async () => {
    const soup = await read(
      'a.obj',
      'o x\r\nv 0 0 0\r\nv 1 0 0 0.5 0.5 0.5\r\nvn 0 0 1\r\nv 1 1e0 0\r\nv 0 1 -0.5E-1\r\ns 1\r\nf 1//1 2/1 \\\r\n 3/1/1\r\nf -4 -2 -1',
    );
    expect(soup).toEqual(soupOf([[0, 0, 0], [1, 0, 0], [1, 1, 0], [0, 1, -0.05]], [[0, 1, 2], [0, 2, 3]])); // prettier-ignore
  });
  it('reads text PLY, text STL and OFF with comments', async () => {
    const ply =
      'ply\nformat ascii 1.0\ncomment hi\nelement vertex 3\nproperty float z\nproperty uchar red\nproperty float x\nproperty float y\nelement face 1\nproperty list uchar int vertex_index\nend_header\n5 255 1 2\n6 0 3 4\n7 9 5 6.5\n3 0 1 2\n';
    expect([...(await read('a.ply', ply)).positions]).toEqual([1, 2, 5, 3, 4, 6, 5, 6.5, 7]);
    const stl =
      'solid kelp\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 0\nendloop\nendfacet\nendsolid kelp\n';
    expect((await read('a.stl', stl)).positions).toHaveLength(9);
    expect(
      (await read('a.off', 'OFF 3 1 0 # all on one line\n0 0 0\n\n1 0 0\n0 1 0\n3 0 1 2 255 0 0\n')).corners,
    ).toHaveLength(3);
  });
  it('reads binary PLY in either byte order, packed or with properties of every kind between', async () => {
    for (const little of [true, false])
      for (const extra of [true, false]) {
        const head = `ply\nformat binary_${little ? 'little' : 'big'}_endian 1.0\nelement vertex 3\n${extra ? 'property list uchar short tags\n' : ''}property float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uchar uint vertex_indices\n${extra ? 'property uchar red\n' : ''}end_header\n`;
        const view = new DataView(new ArrayBuffer(200));
        let at = 0;
        for (let v = 0; v < 3; v++) {
          if (extra) {
            view.setUint8(at, 2);
            at += 5;
          }
          for (let k = 0; k < 3; k++, at += 4) view.setFloat32(at, v === k ? 1.5 : 0, little);
        }
        view.setUint8(at++, 3);
        for (const v of [2, 0, 1]) {
          view.setUint32(at, v, little);
          at += 4;
        }
        if (extra) at++;
        const bytes = Uint8Array.from([...text(head), ...new Uint8Array(view.buffer, 0, at)]);
        const soup = await read('a.ply', bytes);
        expect({ ...soup, positions: Float64Array.from(soup.positions) }).toEqual(soupOf([[1.5, 0, 0], [0, 1.5, 0], [0, 0, 1.5]], [[2, 0, 1]])); // prettier-ignore
        await expect(read('a.ply', bytes.slice(0, -3))).rejects.toThrow(/ends too early/);
      }
  });
  it.each([
    ['a.obj', 'v 0 0 0\nv 1 0\nf 1 2 3', /Expected a coordinate, found the end of the line \(line 2\)/],
    ['a.obj', 'v 0 0 0\nv 1 0 0\nf 1 2 3', /names point 3, but 2 are defined so far \(line 3\)/],
    ['a.obj', 'v 0 0 nan\n', /“nan” \(line 1\)/],
    ['a.obj', '# nothing\n', /holds no faces/],
    ['a.obj', new Uint8Array([1, 2, 200, 255]), /not OBJ text/],
    [
      'a.ply',
      'ply\nformat ascii 1.0\nelement vertex 9999999999\nproperty float x\nend_header\n',
      /only 0 bytes follow/,
    ],
    ['a.ply', 'plot', /begins with ply|no end_header/],
    ['a.stl', new Uint8Array(84).fill(1), /header says/],
    ['a.stl', 'solid x\nfacet\nouter loop\nvertex 1 2\n', /line 4/],
    ['a.off', 'OFF\n3 1 0\n0 0 0\n1 0 0\n0 1 0\n3 0 1 7\n', /names point 7/],
    ['a.off', 'OFF\n999999999 1 0\n', /too short/],
    ['a.glb', 'glTF nonsense', /shorter than its header/],
    ['a.gltf', '{"asset":{"version":"2.0"},"buffers":[{"uri":"x.bin","byteLength":4}]}', /beside it/],
    ['a.xyz', 'hello', /not a mesh file I can read/],
    ['a.obj', '', /is empty/],
  ] as [string, string | Uint8Array, RegExp][])('refuses a broken %s in one sentence', async (name, bytes, message) => {
    const error = await read(name, bytes).catch((e: unknown) => e);
    expect(error).toBeInstanceOf(HalfLoopError);
    expect((error as HalfLoopError).code).toBe('BAD_FILE');
    expect((error as HalfLoopError).message).toMatch(message);
  });
  it('counts what a file holds', () => {
    expect(soupInfo(CUBE_SOUP)).toMatchObject({
      vertices: 8,
      edges: 12,
      faces: 6,
      quads: 6,
      components: 1,
      borderLoops: 0,
      genus: 0,
      nonManifoldEdges: 0,
      trianglesDrawn: 12,
      size: [2, 2, 2],
      poles: { 3: 8 },
    });
    const bow = soupOf([[0, 0, 0], [1, 0, 0], [0, 1, 0], [-1, 0, 0], [0, -1, 0]], [[0, 1, 2], [0, 3, 4]]); // prettier-ignore
    expect(soupInfo(bow)).toMatchObject({ nonManifoldVertices: 1, components: 1, borderLoops: 1, genus: null });
  });
});
