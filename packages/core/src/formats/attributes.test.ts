import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { USDLoader } from 'three/examples/jsm/loaders/USDLoader.js';
import { validateBytes } from 'gltf-validator';
import type { BufferGeometry, Mesh } from 'three';
import { cornerNormals, meshFromSoup, soupFromMesh, soupOf, type PolygonSoup, type SoupAttributes } from '../mesh';
import { CUBE_SOUP } from '../testing';
import { readMesh, writeMesh, type WriteFormat } from '.';
import { decimal } from './decimal';
import { TextScanner } from './TextScanner';

const utf8 = (s: string): Uint8Array => new TextEncoder().encode(s);
const read = async (name: string, bytes: Uint8Array | string): Promise<PolygonSoup> =>
  (await readMesh(typeof bytes === 'string' ? utf8(bytes) : bytes, name, { attributes: true })).soup;

/** A roof of two quads and a gable with everything a file can say: the ridge is hard. */
const roof: PolygonSoup = {
  ...soupOf([[0, 0, 0], [2, 0, 0], [2, 1, 1], [0, 1, 1], [0, 0, 2], [2, 0, 2]], [[0, 1, 2, 3], [3, 2, 5, 4], [1, 5, 2]]), // prettier-ignore
  attributes: {
    uvs: Float32Array.of(0, 0, 1, 0, 1, 0.5, 0, 0.5, 0, 0.5, 1, 0.5, 1, 1, 0, 1, 0.25, 0.25, 0.5, 0.25, 0.75, 0.125),
    pointColours: Float32Array.from({ length: 24 }, (_, i) => (i % 4 === 3 ? 1 : Math.fround(((i * 37) % 256) / 255))),
    groups: { names: ['tiles', 'gable'], ofFace: Uint32Array.of(0, 0, 1) },
    hardEdges: Uint32Array.of(1, 2, 5, 2, 2, 3),
  },
};
const sameEdges = (a?: Uint32Array, b?: Uint32Array): void => {
  const pairs = (e: Uint32Array = new Uint32Array()): string[] =>
    Array.from({ length: e.length / 2 }, (_, i) => [e[2 * i], e[2 * i + 1]].sort().join('-')).sort();
  expect(pairs(a)).toEqual(pairs(b));
};
const near = (a: Float32Array | undefined, b: Float32Array | undefined, within = 0.002): void => {
  expect(a?.length).toBe(b?.length);
  a?.forEach((x, i) => expect(Math.abs(x - (b as Float32Array)[i])).toBeLessThan(within));
};
/** The roof with normals as its hard edges make them. */
const whole = (): PolygonSoup => ({ ...roof, attributes: { ...roof.attributes, normals: cornerNormals(roof) } });

describe('what a file says beside points and polygons', () => {
  it('OBJ carries all of it', async () => {
    const { bytes, notes } = await writeMesh(whole(), 'obj', { name: 'roof' });
    const { attributes = {} } = await read('a.obj', bytes);
    expect(notes).toEqual([]);
    expect(attributes.uvs).toEqual(roof.attributes?.uvs);
    near(attributes.normals, whole().attributes?.normals, 1e-6);
    near(attributes.pointColours, roof.attributes?.pointColours, 1e-6);
    expect(attributes.groups).toEqual(roof.attributes?.groups);
    sameEdges(attributes.hardEdges, roof.attributes?.hardEdges);
  });

  it('PLY carries texture coordinates, colours and normals, and says what it cannot', async () => {
    const { bytes, notes } = await writeMesh(whole(), 'ply', { name: 'roof' });
    const { attributes = {} } = await read('a.ply', bytes);
    expect(notes).toEqual(['PLY holds no groups, hard edges.']);
    expect(attributes.uvs).toEqual(roof.attributes?.uvs);
    near(attributes.pointColours, roof.attributes?.pointColours, 1 / 255);
    expect(attributes.normals).toHaveLength(3 * roof.corners.length);
  });

  it('GLB carries texture coordinates, normals, colours and groups, valid to the last warning', async () => {
    const { bytes, notes } = await writeMesh(whole(), 'glb', { name: 'roof <é"' });
    const soup = await read('a.glb', bytes);
    expect(notes).toEqual(['GLB holds no hard edges.']);
    expect((await validateBytes(bytes)).issues.messages.filter((m) => m.severity < 2)).toEqual([]);
    expect([...soup.faceStarts]).toEqual([0, 4, 8, 11]);
    expect(soup.attributes?.groups?.ofFace).toEqual(roof.attributes?.groups?.ofFace);
    expect(soup.attributes?.groups?.names.map((n) => n.split(' ').at(-1))).toEqual(['tiles', 'gable']);
    // the order of corners may begin elsewhere in a face: compare by point
    const byPoint = (s: PolygonSoup, rows: Float32Array | undefined, stride: number): Map<string, number[]> =>
      new Map([...s.corners].map((v, c) => [[...s.positions.subarray(3 * v, 3 * v + 3), faceOf(s, c)].join(), [...(rows ?? []).slice(stride * c, stride * c + stride)]])); // prettier-ignore
    for (const [part, stride] of [
      ['uvs', 2],
      ['normals', 3],
    ] as const) {
      // prettier-ignore
      const [a, b] = [byPoint(soup, soup.attributes?.[part], stride), byPoint(roof, whole().attributes?.[part], stride)];
      for (const [key, row] of b) near(Float32Array.from(a.get(key) ?? []), Float32Array.from(row), 1e-6);
    }
  });

  it('OFF carries the colours of points or faces', async () => {
    const faceColours = Float32Array.of(1, 0, 0, 1, 0, 1, 0, 1, 0, 0, 1, 1);
    const { bytes } = await writeMesh({ ...roof, attributes: { faceColours } }, 'off', { name: '' });
    expect((await read('a.off', bytes)).attributes).toEqual({ faceColours });
    const coloured = await writeMesh({ ...roof, attributes: { pointColours: roof.attributes?.pointColours } }, 'off', { name: '' }); // prettier-ignore
    near((await read('a.off', coloured.bytes)).attributes?.pointColours, roof.attributes?.pointColours);
  });

  it('STL text keeps its solids apart', async () => {
    const facet = 'facet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 0\nendloop\nendfacet\n';
    const soup = await read(
      'a.stl',
      `solid shell one\n${facet}endsolid shell one\nSOLID lid\n${facet}${facet}endsolid\n`,
    );
    expect(soup.attributes?.groups).toEqual({ names: ['shell one', 'lid'], ofFace: Uint32Array.of(0, 1, 1) });
  });

  it('USDA is read by another program as the same mesh', async () => {
    const { bytes, notes } = await writeMesh(whole(), 'usda', { name: '7 "roofs"\n\\ of <slate>' });
    expect(notes).toEqual([]);
    const text = new TextDecoder().decode(bytes);
    expect(text).toContain('def Mesh "_7_roofs_of_slate_"');
    expect(text).toContain(String.raw`displayName = "7 \"roofs\"\n\\ of <slate>"`);
    expect(text).toMatch(/creaseIndices = \[1, 2, 5, 2, 2, 3\]/);
    expect(text.match(/def GeomSubset/g)).toHaveLength(2);
    const group = new USDLoader().parse(text) as unknown as { traverse(f: (o: Mesh) => void): void };
    const found: BufferGeometry[] = [];
    group.traverse((o) => o.geometry && found.push(o.geometry));
    expect(found).toHaveLength(1);
    // five triangles: two a quad and the gable
    expect((found[0].index ?? found[0].attributes.position).count).toBe(15);
  });

  it('becomes channels of a mesh and comes back, whatever was there', async () => {
    const { mesh, groupNames } = meshFromSoup(whole());
    const all = soupFromMesh(mesh, groupNames).attributes;
    sameEdges(all?.hardEdges, roof.attributes?.hardEdges);
    expect({ ...all, hardEdges: roof.attributes?.hardEdges }).toEqual(whole().attributes);
    const some = fc.subarray(['uvs', 'normals', 'pointColours', 'groups'] as (keyof SoupAttributes)[]);
    fc.assert(
      fc.property(some, (parts) => {
        const attributes = Object.fromEntries(parts.map((p) => [p, whole().attributes?.[p]]));
        const back = soupFromMesh(meshFromSoup({ ...roof, attributes }).mesh, ['tiles', 'gable']);
        expect(back.attributes ?? {}).toEqual(attributes);
      }),
    );
  });

  it('normals bend over soft edges and break at hard ones', () => {
    const edges = [0, 1, 1, 2, 2, 3, 3, 0, 4, 5, 5, 6, 6, 7, 7, 4, 0, 4, 1, 5, 2, 6, 3, 7];
    const box = { ...CUBE_SOUP, attributes: { hardEdges: Uint32Array.from(edges) } };
    const n = cornerNormals(box);
    for (let c = 0; c < box.corners.length; c++)
      expect([...n.subarray(3 * c, 3 * c + 3)].map(Math.abs).sort()).toEqual([0, 0, 1]);
    const soft = cornerNormals(CUBE_SOUP);
    for (const x of soft) expect(Math.abs(x)).toBeCloseTo(1 / Math.sqrt(3), 5);
  });
});

const faceOf = (s: PolygonSoup, corner: number): number => s.faceStarts.findIndex((start) => start > corner) - 1;

describe('text as programs write it', () => {
  const square = 'v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nf 1 2 3 4\n';
  it('reads UTF-16 of either order and UTF-8 with a mark, with names in any script', async () => {
    const obj = `o Größe\ng Ebbe und Flut\n${square}`;
    const wide = (little: boolean, mark: boolean): Uint8Array => {
      const units = [...(mark ? '\ufeff' : ''), ...obj].map((c) => c.charCodeAt(0));
      return Uint8Array.from(units.flatMap((u) => (little ? [u & 255, u >> 8] : [u >> 8, u & 255])));
    };
    for (const bytes of [
      wide(true, true),
      wide(false, true),
      wide(true, false),
      wide(false, false),
      utf8(`\ufeff${obj}`),
    ]) {
      // prettier-ignore
      const soup = await read('a.obj', bytes);
      expect([soup.corners.length, soup.attributes?.groups?.names]).toEqual([4, ['Ebbe und Flut']]);
    }
    const off = Uint8Array.from([...'OFF\n3 1 0\n0 0 0\n1 0 0\n0 1 0\n3 0 1 2\n'].flatMap((c) => [c.charCodeAt(0), 0]));
    expect((await read('a.off', off)).corners).toHaveLength(3);
  });

  it('reads OBJ lines of any length, tabs, comments behind faces and every kind of corner', async () => {
    const many = Array.from({ length: 30_000 }, (_, i) => `v ${i} ${i * i} 0`).join('\n');
    const ids = Array.from({ length: 30_000 }, (_, i) => i + 1).join('\t');
    expect((await read('a.obj', `${many}\nf ${ids} # all of them`)).corners).toHaveLength(30_000);
    const soup = await read(
      'a.obj',
      `mtllib x.mtl\n${square}vt 0 0.5\nvt 1\nvn 0 0 1\nusemtl wet sand\ns off\nf 1/1/1 2/-1 3//1 4\nf -4/1/1 -3/2/1 -1/2/-1\nl 1 2\np 1\n`,
    );
    expect(soup.attributes?.groups).toEqual({ names: ['ungrouped', 'wet sand'], ofFace: Uint32Array.of(0, 1, 1) });
    expect([...(soup.attributes?.uvs ?? [])].slice(8)).toEqual([0, 0.5, 1, 0, NaN, NaN, NaN, NaN, 0, 0.5, 1, 0, 1, 0]);
    expect([...(soup.attributes?.normals ?? [])].slice(12, 18)).toEqual([0, 0, 1, 0, 0, 0]);
    await expect(read('a.obj', `${square}vt 0 0\nf 1/2 2/1 3/1`)).rejects.toThrow(/texture coordinate 2, but 1 are defined so far \(line 7\)/); // prettier-ignore
  });

  it('reads a concave polygon whole', async () => {
    const arrow = 'v 0 0 0\nv 4 0 0\nv 1 1 0\nv 0 4 0\nf 1 2 3 4';
    expect((await read('a.obj', arrow)).faceStarts).toEqual(Uint32Array.of(0, 4));
  });

  it('reads PLY strips, colours of any type, and texture coordinates however they are called', async () => {
    const head = (vertex: string, rest: string): string =>
      `ply\r\nformat ascii 1.0\r\nobj_info made by hand\r\nelement vertex 4\r\n${vertex}${rest}end_header\r\n`;
    const xyz = 'property float x\nproperty float y\nproperty float z\n';
    const strips = `${head(xyz, 'element tristrips 1\nproperty list int int vertex_indices\n')}0 0 0\n1 0 0\n0 1 0\n1 1 0\n8 0 1 2 3 -1 3 2 1\n`;
    expect([...(await read('a.ply', strips)).corners]).toEqual([0, 1, 2, 2, 1, 3, 3, 2, 1]);
    const coloured = `${head(`${xyz}property ushort red\nproperty ushort green\nproperty ushort blue\nproperty double texture_u\nproperty double texture_v\n`, 'element face 1\nproperty list uchar int vertex_index\nproperty uchar red\nproperty uchar green\nproperty uchar blue\nelement edge 1\nproperty int vertex1\nproperty int vertex2\n')}0 0 0 65535 0 0 0 0\n1 0 0 0 65535 0 1 0\n0 1 0 0 0 65535 0 1\n1 1 0 0 0 0 1 1\n3 0 1 2 255 0 51\n0 1\n`;
    const { attributes } = await read('a.ply', coloured);
    expect([...(attributes?.pointColours ?? [])].slice(0, 8)).toEqual([1, 0, 0, 1, 0, 1, 0, 1]);
    expect([...(attributes?.uvs ?? [])]).toEqual([0, 0, 1, 0, 0, 1]);
    near(attributes?.faceColours, Float32Array.of(1, 0, 0.2, 1), 1e-6);
  });

  it('reads OFF by the letters of its header', async () => {
    const soup = await read('a.off', 'STCNOFF # texture coordinates, colours and normals\n3 1 0\n0 0 0 0 0 1 255 0 0 255 0.25 0\n1 0 0 0 0 1 0 255 0 255 1 0\n0 1 0 0 0 1 0 0 255 255 0 1\n3 0 1 2 0.5 0.5 0.5\n'); // prettier-ignore
    expect([...(soup.attributes?.pointColours ?? [])]).toEqual([1, 0, 0, 1, 0, 1, 0, 1, 0, 0, 1, 1]);
    near(soup.attributes?.faceColours, Float32Array.of(0.5, 0.5, 0.5, 1), 1e-6);
    expect([...(soup.attributes?.uvs ?? [])]).toEqual([0.25, 0, 1, 0, 0, 1]);
    expect([...(soup.attributes?.normals ?? [])]).toEqual([0, 0, 1, 0, 0, 1, 0, 0, 1]);
    expect([...(await read('a.off', '4OFF\n3 1 0\n2 4 6 2\n1 0 0 1\n0 1 0 1\n3 0 1 2')).positions.subarray(0, 3)]).toEqual([1, 2, 3]); // prettier-ignore
    await expect(read('a.off', 'OFF BINARY\n\0\0')).rejects.toThrow(/Binary OFF/);
  });

  it('rounds every number as the language does', () => {
    const number = (t: string): number => new TextScanner(utf8(`${t} `)).number('a number');
    for (const t of [
      '0',
      '-0',
      '.5',
      '5.',
      '1e5',
      '1E-5',
      '+3',
      '0.1',
      '9007199254740993',
      '9007199254740992.5',
      '1e22',
      '1e23',
      '1.7976931348623157e308',
      '5e-324',
      '000.1250',
      '123456789012345678',
      '0.000000000000000000000012345',
    ])
      // prettier-ignore
      expect(number(t)).toBe(Number(t));
    fc.assert(
      fc.property(fc.double({ noNaN: true, noDefaultInfinity: true }), fc.integer({ min: 1, max: 21 }), (x, digits) => {
        for (const t of [String(x), x.toPrecision(digits), String(Math.fround(x))])
          if (Number.isFinite(Number(t))) expect(number(t)).toBe(Number(t));
      }),
      { numRuns: 2000 },
    );
    expect(decimal(123456789, 987654321, 9, -17)).toBe(1.23456789987654321);
  });
});

describe('names from users', () => {
  const nasty = ['../../etc/passwd', 'a\nv 9 9 9\nend_header', '"</script>\u2028\\x', '\0\u0007', '', '  ', 'é'.repeat(300)]; // prettier-ignore
  it.each<WriteFormat>(['obj', 'ply', 'stl', 'off', 'glb'])('%s stays whole whatever the name is', async (format) => {
    for (const name of nasty) {
      const groups = { names: [name, `${name}2`], ofFace: Uint32Array.of(0, 1, 0) };
      const { bytes } = await writeMesh({ ...roof, attributes: { groups } }, format, { name });
      const soup = await read(`a.${format}`, bytes);
      const polygons = format === 'stl' ? 5 : 3;
      expect(soup.faceStarts).toHaveLength(polygons + 1);
      if (format === 'glb') expect((await validateBytes(bytes)).issues.messages.filter((m) => m.severity < 2)).toEqual([]); // prettier-ignore
    }
  });
  it('USDA too', async () => {
    for (const name of nasty) {
      const text = new TextDecoder().decode((await writeMesh(roof, 'usda', { name })).bytes);
      expect(text.split('\n').filter((l) => l.startsWith('def '))).toHaveLength(1);
      expect(text).toMatch(/^def Mesh "[A-Za-z_][A-Za-z0-9_]*" \($/m);
    }
  });
});
