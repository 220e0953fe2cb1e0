import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { writeMesh } from '@half-loop/core/formats';
import { ballSoup, CUBE_SOUP } from '@half-loop/core/testing';

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
  execFileSync(process.execPath, [path.join(root, 'scripts/build.mjs'), 'cli']);
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
