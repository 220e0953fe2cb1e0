import { soupInfo } from '@half-loop/core/inspect';
import type { Command } from './arguments';
import { load } from './load';

export const info: Command = {
  files: ['FILE'],
  flags: ['json', 'no-weld'],
  numbers: {},
  help: `half-loop info FILE [--json] [--no-weld]

Vertices, edges, faces by number of sides, components, borders, non-manifold places, genus (null where open or not manifold),
the box, and poles by number of edges.

  half-loop info docs/sample/limpet.obj --json`,
  async run({ files: [file], flags }) {
    const data = soupInfo(await load(file, !flags.has('no-weld')));
    const show = (value: unknown): string =>
      Array.isArray(value)
        ? value.map(String).join(' × ')
        : typeof value === 'object' && value
          ? JSON.stringify(value)
          : String(value);
    return { data, lines: Object.entries(data).map(([key, value]) => `${key.padEnd(20)} ${show(value)}`) };
  },
};
