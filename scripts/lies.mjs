// Files that claim more than they hold, and how much memory the command line takes to refuse each. Part of `npm run fuzz`.
import { spawnSync } from 'node:child_process';
import { closeSync, mkdtempSync, openSync, rmSync, statSync, writeFileSync, writeSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { pathToFileURL } from 'node:url';
import { root, say } from './machine.mjs';

const MB = 1e6;
/** most memory to refuse a file: twice its size and this much */
const FREE_MB = 300;

const ply = (head, body) =>
  Buffer.concat([Buffer.from(`ply\nformat binary_little_endian 1.0\n${head}end_header\n`), body]);
const XYZ = 'property float x\nproperty float y\nproperty float z\n';
const billions = Buffer.from([255, 255, 255, 255]);

/** Each file by name: its bytes, or a stretch of bytes repeated up to a size. */
const LIES = {
  'points.ply': ply(`element vertex 4000000000\n${XYZ}`, Buffer.alloc(100_000)),
  'corners.ply': ply(`element vertex 3\n${XYZ}element face 1\nproperty list uint int vertex_indices\n`, Buffer.concat([Buffer.alloc(36), billions])), // prettier-ignore
  'counts.off': Buffer.from('OFF\n4000000000 4000000000 0\n'),
  'triangles.stl': Buffer.concat([Buffer.alloc(80), billions, Buffer.alloc(50)]),
  'zeros.gltf': Buffer.from('{"asset":{"version":"2.0"},"accessors":[{"componentType":5126,"count":50000000,"type":"VEC3"}],"meshes":[{"primitives":[{"attributes":{"POSITION":0}}]}],"nodes":[{"mesh":0}]}'), // prettier-ignore
  'nothing.obj': { repeat: '\0', size: 100 * MB },
  'one word.obj': { repeat: '1', size: 100 * MB },
  'one line.obj': { first: 'v 0 0 0\n', repeat: ' ', size: 100 * MB },
  'points only.obj': { repeat: 'v 0.123456 0.234567 0.345678\n', size: 100 * MB },
  'text.stl': { repeat: 'solid of nothing much\n', size: 100 * MB },
  'text.glb': { repeat: 'glTF', size: 50 * MB },
};

function write(file, lie) {
  if (Buffer.isBuffer(lie)) return writeFileSync(file, lie);
  const handle = openSync(file, 'w');
  if (lie.first) writeSync(handle, lie.first);
  const stretch = Buffer.from(lie.repeat.repeat(Math.floor(MB / lie.repeat.length)));
  for (let at = 0; at < lie.size; at += stretch.length) writeSync(handle, stretch);
  closeSync(handle);
}

/** Reads every lie by the command line; returns how many were not refused as they should be. */
export function readLies() {
  const folder = mkdtempSync(path.join(os.tmpdir(), 'hl-lies-'));
  const meter = path.join(folder, 'meter.mjs');
  writeFileSync(meter, "process.on('exit', () => process._rawDebug(`peak ${process.resourceUsage().maxRSS}`));\n");
  let wrong = 0;
  for (const [name, lie] of Object.entries(LIES)) {
    const file = path.join(folder, name);
    write(file, lie);
    const size = statSync(file).size;
    const began = performance.now();
    const { status, stderr } = spawnSync(process.execPath, [`--import=${pathToFileURL(meter).href}`, path.join(root, 'apps/cli/bin/half-loop.mjs'), 'info', file], { encoding: 'utf8' }); // prettier-ignore
    const peak = Number(/peak (\d+)/.exec(stderr)?.[1] ?? Infinity) * 1024;
    const sentence = stderr.split('\n')[0];
    const holds = status === 1 && sentence.startsWith('half-loop: ') && peak <= 2 * size + FREE_MB * MB;
    if (!holds) wrong++;
    say(`  ${holds ? 'ok ' : 'NOT'} ${name.padEnd(16)} ${(size / MB).toFixed(0).padStart(4)} MB  peak ${(peak / MB).toFixed(0).padStart(4)} MB  ${((performance.now() - began) / 1000).toFixed(1)} s  ${sentence.slice(11, 110)}`); // prettier-ignore
    rmSync(file);
  }
  rmSync(folder, { recursive: true });
  return wrong;
}
