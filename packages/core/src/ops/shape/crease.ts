import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { dot } from '../../math';
import { faceNormal, NONE, type ChannelSpec, type PolyMesh, type Selection } from '../../mesh';
import { operator, plural } from '../operator';
import { choice, degrees, plain } from '../params';
import { only, pickedEdges } from '../picked';

export const CREASE_CHANNEL = {
  domain: 'edge',
  name: 'crease',
  type: 'f32',
  stride: 1,
  fill: 0,
} as const satisfies ChannelSpec;
/** Sharp for so many levels of subdivision: more than anyone looks at. */
const MOST = 10;

/**
 * Creases edges for subdivision: the picked ones, all that bend more than an angle, all hard edges, or the borders
 * between regions. The weight is the number of levels that an edge stays sharp; 0 clears.
 */
export const crease = operator({
  name: 'crease',
  title: 'Crease',
  params: z.object({
    which: choice('Which edges', [['picked', 'picked'], ['angle', 'by angle'], ['hard', 'hard edges'], ['region', 'region borders']], 'picked'), // prettier-ignore
    weight: plain('Weight', { min: 0, max: MOST, start: 2, hint: 'Levels that it stays sharp; 0 clears' }),
    angle: degrees('Bends over', { min: 1, max: 180, start: 40 }),
  }),
  run(mesh, selection, { which, weight, angle }) {
    const edges = edgesFor(mesh, selection, which, Math.cos((angle * Math.PI) / 180));
    const column = mesh.channel(CREASE_CHANNEL);
    for (const e of edges) column.set(e, weight);
    const what = weight === 0 ? 'cleared' : `creased by ${weight}`;
    return {
      selection: which === 'picked' ? selection : only({ edges }),
      report: { sentence: `${plural(edges.length, 'edge')} ${what}`, counts: { edges: edges.length, weight } },
    };
  },
});

function edgesFor(mesh: PolyMesh, selection: Selection, which: string, leastCosine: number): number[] {
  if (which === 'picked') return pickedEdges(mesh, selection, 'Pick the edges to crease.');
  const hard = mesh.findChannel('edge', 'hard'),
    region = mesh.findChannel('face', 'region');
  const found = [...mesh.edges()].filter((e) => {
    const [f, g] = [mesh.face(2 * e), mesh.face(2 * e + 1)];
    if (f === NONE || g === NONE) return false;
    if (which === 'hard') return Boolean(hard?.get(e));
    if (which === 'region') return region !== undefined && region.get(f) !== region.get(g);
    return dot(faceNormal(mesh, f), faceNormal(mesh, g)) < leastCosine;
  });
  if (found.length === 0) throw new TopologyError('NOTHING_PICKED', 'There are no such edges here.');
  return found;
}
