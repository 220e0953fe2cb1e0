import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { writeMesh } from '@half-loop/core/formats';
import { ballSoup, CUBE_SOUP } from '@half-loop/core/testing';
import { encodeGltf, withBufferBeside } from '@half-loop/core/testing/gltf';

const root = path.join(import.meta.dirname, '../../..');
const folder = mkdtempSync(path.join(os.tmpdir(), 'hl-cli-'));
const at = (name: string): string => path.join(folder, name);

function halfLoop(...args: string[]): { status: number | null; out: string; err: string } {
  const { status, stdout, stderr } = spawnSync(
    process.execPath,
    [path.join(root, 'apps/cli/bin/half-loop.mjs'), ...args],
    {
      encoding: 'utf8',
    },
  );
  return { status, out: stdout, err: stderr };
}

beforeAll(async () => {
  writeFileSync(at('cube.obj'), (await writeMesh(CUBE_SOUP, 'obj', { name: 'cube' })).bytes);
  writeFileSync(at('ball.ply'), (await writeMesh(ballSoup(24), 'ply', { name: 'ball' })).bytes);
  writeFileSync(at('big.stl'), (await writeMesh(ballSoup(24, 1.1), 'stl', { name: 'ball' })).bytes);
  writeFileSync(at('torn.obj'), 'v 0 0 0\nv 1 0 0\nf 1 2 3\n');
});

describe('half-loop', () => {
  it('info counts a cube, as JSON and for people', () => {
    const { status, out } = halfLoop('info', at('cube.obj'), '--json');
    expect(status).toBe(0);
    expect(JSON.parse(out)).toMatchObject({
      vertices: 8,
      edges: 12,
      faces: 6,
      quads: 6,
      triangles: 0,
      ngons: 0,
      trianglesDrawn: 12,
      components: 1,
      borderLoops: 0,
      nonManifoldEdges: 0,
      nonManifoldVertices: 0,
      genus: 0,
      min: [-1, -1, -1],
      max: [1, 1, 1],
      size: [2, 2, 2],
      poles: { 3: 8 },
    });
    expect(halfLoop('info', at('cube.obj')).out).toMatch(/^vertices +8$/m);
  });

  it('info welds STL unless told not to', () => {
    const points = (...flags: string[]): number =>
      JSON.parse(halfLoop('info', at('big.stl'), '--json', ...flags).out).vertices;
    expect(points()).toBe(23 * 48 + 2);
    expect(points('--no-weld')).toBe(3 * 48 * 2 * 23);
  });

  it('convert goes through every format and keeps the quads where it can', () => {
    for (const ending of ['ply', 'off', 'glb', 'obj']) {
      expect(halfLoop('convert', at('cube.obj'), at(`out.${ending}`)).status).toBe(0);
      expect(JSON.parse(halfLoop('info', at(`out.${ending}`), '--json').out)).toMatchObject({ vertices: 8, quads: 6 });
    }
    const { out } = halfLoop('convert', at('cube.obj'), at('out.stl'), '--json');
    expect(JSON.parse(out).notes).toHaveLength(1);
    expect(readFileSync(at('out.stl')).length).toBe(84 + 50 * 12);
  });

  it('compare measures the gap between two balls', () => {
    const data = JSON.parse(halfLoop('compare', at('ball.ply'), at('big.stl'), '--json').out);
    for (const way of [data.lowToHigh, data.highToLow, data]) {
      expect(way.mean).toBeCloseTo(0.1, 2);
      expect(way.max).toBeLessThan(0.115);
      expect(way.rms).toBeGreaterThanOrEqual(way.mean);
    }
    expect(data.diagonal).toBeCloseTo(2 * 1.1 * Math.sqrt(3), 1);
  });

  it('check gives findings and measures, and the distance to a sculpt', () => {
    writeFileSync(at('box.obj'), 'v -1 -1 0\nv 1 -1 0\nv 1 1 0\nv -1 1 0\nv 9 9 9\nf 1 2 3 4\n');
    const data = JSON.parse(halfLoop('check', at('box.obj'), '--json').out);
    expect(data).toMatchObject({ faces: 1, quads: 1, borderLoops: 1, measures: { quadShare: 1 } });
    expect(data.findings.map((f: { kind: string }) => f.kind)).toEqual(['open-border', 'unused-point']);
    expect(data.findings[0].elements.edges).toHaveLength(4);
    const near = JSON.parse(halfLoop('check', at('ball.ply'), '--sculpt', at('big.stl'), '--json').out);
    expect(near.deviation.mean).toBeCloseTo(0.1, 2);
    expect(halfLoop('check', at('cube.obj')).out).toMatch(/100.0 % quads\nnothing found/);
  });

  it('edit runs queries and operators in order, carries what the file says, and refuses without writing', () => {
    const ops = (steps: unknown): string => {
      writeFileSync(at('ops.json'), typeof steps === 'string' ? steps : JSON.stringify(steps));
      return at('ops.json');
    };
    writeFileSync(
      at('roof.obj'),
      'g left\nv 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nv 2 0 0\nv 2 1 0\nvt 0 0\nvt 1 0\nvt 1 1\nvt 0 1\nf 1/1 2/2 3/3 4/4\ng right\nf 2/1 5/2 6/3 3/4\n',
    );
    const steps = [
      { pick: { edges: [[1, 4]] } },
      { select: 'border' },
      { select: 'connected' },
      { pick: { faces: [0] } },
      { run: 'delete' },
      { run: 'make-real', params: { axis: 'x', offset: 2 } },
    ];
    const { status, out } = halfLoop('edit', at('roof.obj'), '--ops', ops(steps), '-o', at('edited.obj'), '--json');
    expect(status).toBe(0);
    const data = JSON.parse(out);
    expect(data.steps.map((s: { counts: object }) => s.counts)).toMatchObject([
      { edges: 1 },
      { edges: 6 },
      { faces: 2 },
      { faces: 1 },
      { faces: 1 },
      { faces: 1 },
    ]);
    const text = readFileSync(at('edited.obj'), 'utf8');
    expect(text).toMatch(/^g right$/m);
    expect(text).not.toMatch(/^g left$/m);
    expect(text.match(/^vt /gm)?.length).toBeGreaterThanOrEqual(4);
    for (const [bad, message] of [
      [[{ run: 'melt' }], /Step 1: there is no operator “melt”/],
      [[{ select: 'all' }, { run: 'weld', params: { pairs: [] } }], /Step 2: Weld: pairs/],
      [[{ pick: { edges: [[0, 5]] } }], /no edge joins the points 0 and 5/],
      [[{ pick: { faces: [7] } }], /no element 7/],
      [{ run: 'delete' }, /must hold a list/],
      [[{ dance: 1 }], /Step 1 of .* is none/],
      ['{torn', /is not JSON/],
    ] as const) {
      const refused = halfLoop('edit', at('roof.obj'), '--ops', ops(bad), '-o', at('never.obj'));
      expect([refused.status, refused.err.trim().split('\n').length]).toEqual([1, 1]);
      expect(refused.err).toMatch(message);
      expect(existsSync(at('never.obj'))).toBe(false);
    }
    expect(halfLoop('edit', at('roof.obj'), '--ops', at('ops.json')).status).toBe(2);
  });

  it('retopo lays the half and mirrors it, tells measures and seconds, and refuses what it cannot write or mirror', () => {
    const { status, out, err } = halfLoop('retopo', at('ball.ply'), '-o', at('laid.obj'), '--faces', '200', '--symmetry', 'x', '--json'); // prettier-ignore
    expect([status, err]).toEqual([0, '']);
    const told = JSON.parse(out) as { faces: number; countError: number; cornerQuality: { least: number }; seconds: Record<string, number> }; // prettier-ignore
    expect(told.countError).toBeLessThan(0.15);
    expect(told.cornerQuality.least).toBeGreaterThan(0.3);
    expect(Object.keys(told.seconds)).toContain('Grid');
    const info = JSON.parse(halfLoop('info', at('laid.obj'), '--json').out) as object;
    expect(info).toMatchObject({ faces: told.faces, quads: told.faces, components: 1, borderLoops: 0, genus: 0 });
    const again = halfLoop('retopo', at('laid.obj'), '-o', at('again.obj'), '--faces', '150', '--levels', '1', '--smooth', '4', '--loops'); // prettier-ignore
    expect([again.status, again.err]).toEqual([0, '']);
    expect(halfLoop('retopo', at('ball.ply'), '-o', at('laid.obj'), '--faces', '200', '--levels', '4').err).toMatch(/0, 1, 2 or 3/); // prettier-ignore
    expect(halfLoop('retopo', at('ball.ply'), '-o', at('laid.txt'), '--faces', '200').status).toBe(2);
    expect(halfLoop('retopo', at('ball.ply'), '-o', at('laid.obj')).status).toBe(2);
    expect(halfLoop('retopo', at('ball.ply'), '-o', at('laid.obj'), '--faces', '200', '--symmetry', 'w').status).toBe(
      2,
    );
  });

  it('retopo follows guides and the borders of groups, and lays more quads where the colour is lighter', () => {
    const { positions, faceStarts, corners } = ballSoup(24);
    const rows: string[] = [];
    // white above the middle, black below
    for (let i = 0; i < positions.length; i += 3) {
      const grey = positions[i + 1] > 0 ? 1 : 0;
      rows.push(`v ${positions[i]} ${positions[i + 1]} ${positions[i + 2]} ${grey} ${grey} ${grey}`);
    }
    const faces = (isIn: (x: number) => boolean): void => {
      for (let f = 0; f + 1 < faceStarts.length; f++) {
        const own = [...corners.subarray(faceStarts[f], faceStarts[f + 1])];
        if (isIn(own.reduce((sum, v) => sum + positions[3 * v], 0))) rows.push(`f ${own.map((v) => v + 1).join(' ')}`);
      }
    };
    rows.push('g left');
    faces((x) => x < 0);
    rows.push('g right');
    faces((x) => x >= 0);
    writeFileSync(at('halves.obj'), rows.join('\n'));
    const n = 40;
    const ring = Array.from({ length: n }, (_, i) => `v ${Math.cos((2 * Math.PI * i) / n)} 0 ${Math.sin((2 * Math.PI * i) / n)}`); // prettier-ignore
    writeFileSync(at('ring.obj'), [...ring, `l ${Array.from({ length: n }, (_, i) => i + 1).join(' ')} 1`].join('\n'));
    const { status, out, err } = halfLoop('retopo', at('halves.obj'), '-o', at('laid.obj'), '--faces', '300', '--guides', at('ring.obj'), '--regions', '--density', '--json'); // prettier-ignore
    expect([status, err]).toEqual([0, '']);
    const { mended } = JSON.parse(out) as { mended: string[] };
    // every line is followed; few counts are possible with so many of them
    expect(mended.filter((line) => !line.endsWith('than were asked for'))).toEqual([]);
    const laid = readFileSync(at('laid.obj'), 'utf8').split('\n');
    const points = laid.filter((row) => row.startsWith('v ')).map((row) => row.split(' ').slice(1).map(Number));
    const quads = laid.filter((row) => row.startsWith('f ')).map((row) => row.split(' ').slice(1).map((w) => parseInt(w) - 1)); // prettier-ignore
    for (const k of [0, 1])
      for (const quad of quads) {
        const sides = new Set(quad.map((v) => points[v][k]).filter((x) => Math.abs(x) > 0.06).map(Math.sign)); // prettier-ignore
        expect(sides.size).toBeLessThanOrEqual(1);
      }
    const above = quads.filter((quad) => quad.reduce((sum, v) => sum + points[v][1], 0) > 0).length;
    expect(above / (quads.length - above)).toBeGreaterThan(2);
    expect(halfLoop('retopo', at('ball.ply'), '-o', at('laid.obj'), '--faces', '200', '--regions').status).toBe(2);
    expect(halfLoop('retopo', at('ball.ply'), '-o', at('laid.obj'), '--faces', '200', '--guides', at('cube.obj')).status).toBe(2); // prettier-ignore
  });

  it('reads a glTF with its buffer beside it, and one that Draco compressed', async () => {
    const { json, bin } = await withBufferBeside(ballSoup(6));
    writeFileSync(at('shell.gltf'), json);
    writeFileSync(at('shell.bin'), bin);
    writeFileSync(at('packed.glb'), await encodeGltf(ballSoup(6), 'draco'));
    for (const file of ['shell.gltf', 'packed.glb'])
      expect(JSON.parse(halfLoop('info', at(file), '--json').out)).toMatchObject({
        triangles: 120,
        components: 1,
        borderLoops: 0,
      });
    writeFileSync(at('lone.gltf'), json.replace('shell.bin', 'gone.bin'));
    expect(halfLoop('info', at('lone.gltf')).err).toMatch(/needs the file “gone.bin” beside it/);
  });

  it('runs every example of the README and of --help', () => {
    const readme = readFileSync(path.join(root, 'README.md'), 'utf8');
    const examples = [...readme.matchAll(/^npx half-loop (.+)$/gm)].map((m) => m[1]);
    for (const command of ['info', 'check', 'convert', 'compare', 'edit', 'retopo']) {
      const { status, out } = halfLoop(command, '--help');
      expect([status, out.startsWith(`half-loop ${command} `)]).toEqual([0, true]);
      examples.push(...[...out.matchAll(/^ {2}half-loop (.+)$/gm)].map((m) => m[1]));
    }
    expect(examples.length).toBeGreaterThanOrEqual(8);
    for (const example of examples) {
      const words = example.replace(/\s+#.*$/, '').split(' ').map((w) => (w.startsWith('docs/') ? path.join(root, w) : /\.\w+$/.test(w) ? at(w) : w)); // prettier-ignore
      const { status, err } = halfLoop(...words);
      expect([example, status, err]).toEqual([example, 0, '']);
    }
    expect(halfLoop('--help').out).toMatch(/edit FILE --ops/);
    // a score of processes, some of which lay a sculpt anew: a minute on an idle machine
  }, 600_000);

  it('refuses in one line with exit 1, and wrong usage with exit 2', () => {
    const torn = halfLoop('info', at('torn.obj'));
    expect([torn.status, torn.err.trim().split('\n').length, torn.out]).toEqual([1, 1, '']);
    expect(torn.err).toContain('line 3');
    expect(halfLoop('info', at('nothing.obj'))).toMatchObject({ status: 1, out: '' });
    expect(halfLoop('info').status).toBe(2);
    expect(halfLoop('shrink', 'x').status).toBe(2);
    expect(halfLoop('convert', at('cube.obj'), at('cube.doc')).status).toBe(2);
    expect(halfLoop('compare', at('cube.obj'), at('cube.obj'), '--seed', 'x').status).toBe(2);
  });
});
