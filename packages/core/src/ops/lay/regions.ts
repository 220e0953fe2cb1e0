import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { FILE_CHANNELS, NONE, type ChannelSpec, type PolyMesh } from '../../mesh';
import { operator, plural } from '../operator';
import { choice, plain, shownWhen } from '../params';
import { only, pickedFaces } from '../picked';
import { CREASE_CHANNEL } from '../shape/crease';

/** Which region a face is in; 0: none. */
export const REGION_CHANNEL = { domain: 'face', name: 'region', type: 'i32', stride: 1, fill: 0 } as const satisfies ChannelSpec; // prettier-ignore

/** Puts picked faces into a region, by its number; 0 takes them out of any. Cost: the faces. */
export const setRegion = operator({
  name: 'set-region',
  title: 'Region',
  params: z.object({ region: z.int().check(z.minimum(0), z.maximum(1_000_000)) }),
  run(mesh, selection, { region }) {
    const faces = pickedFaces(mesh, selection, 'Pick the faces of the region.');
    const column = mesh.channel(REGION_CHANNEL);
    for (const f of faces) column.set(f, region);
    return {
      selection,
      report: { sentence: region === 0 ? `${plural(faces.length, 'face')} in no region` : `${plural(faces.length, 'face')} in one region`, counts: { faces: faces.length, region } }, // prettier-ignore
    };
  },
});

/** Edges between a region and what is not in it; of all regions for 0. Open borders of the mesh are none. Cost: the mesh. */
export function regionBorder(mesh: PolyMesh, region: number): number[] {
  const column = mesh.findChannel('face', REGION_CHANNEL.name);
  if (!column) return [];
  return [...mesh.edges()].filter((e) => {
    const [f, g] = [mesh.face(2 * e), mesh.face(2 * e + 1)];
    if (f === NONE || g === NONE || column.get(f) === column.get(g)) return false;
    return region === 0 || column.get(f) === region || column.get(g) === region;
  });
}

/** Faces of each region, by its number. Cost: the faces. */
export function regionFaces(mesh: PolyMesh): Map<number, number[]> {
  const column = mesh.findChannel('face', REGION_CHANNEL.name);
  const found = new Map<number, number[]>();
  if (column) for (const f of mesh.faces()) found.set(column.get(f), [...(found.get(column.get(f)) ?? []), f]);
  return found;
}

/** The region of each face, in their order; 0 for none. Cost: the faces. */
export function regionOfFaces(mesh: PolyMesh): Int32Array {
  const column = mesh.findChannel('face', REGION_CHANNEL.name);
  return Int32Array.from(mesh.faces(), (f) => column?.get(f) ?? 0);
}

/** Makes the border of a region, or of all, hard or creased, or soft again. Refuses (NOTHING_PICKED) a region without a border. Cost: the mesh. */
export const markBorder = operator({
  name: 'mark-border',
  title: 'Region border',
  params: z.object({
    region: z._default(z.int().check(z.minimum(0)), 0),
    becomes: choice('Its border becomes', [['hard', 'hard'], ['crease', 'creased'], ['soft', 'soft again']], 'hard'), // prettier-ignore
    weight: shownWhen(plain('Weight', { min: 0, max: 10, start: 2 }), 'becomes', 'crease'),
  }),
  run(mesh, _selection, { region, becomes, weight }) {
    const edges = regionBorder(mesh, region);
    if (edges.length === 0)
      throw new TopologyError(
        'NOTHING_PICKED',
        'This region has no border inside the mesh; put some faces into it first.',
      );
    if (becomes !== 'crease') {
      const hard = mesh.channel(FILE_CHANNELS.hardEdges);
      for (const e of edges) hard.set(e, becomes === 'hard' ? 1 : 0);
    }
    if (becomes !== 'hard') {
      const column = mesh.channel(CREASE_CHANNEL);
      for (const e of edges) column.set(e, becomes === 'crease' ? weight : 0);
    }
    const word = { hard: 'hard', crease: `creased by ${weight}`, soft: 'soft' }[becomes];
    return { selection: only({ edges }), report: { sentence: `${plural(edges.length, 'border edge')} ${word}`, counts: { edges: edges.length } } }; // prettier-ignore
  },
});
