import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { edgeLoop } from '../../mesh';
import { operator, plural } from '../operator';
import { count } from '../params';
import { only, pickedEdges } from '../picked';
import { loopStops, stopWords, type LoopStop } from './loopStops';
import { perform, routesOn, type Route } from './routes';

/**
 * Leads the loop of the picked edge on through where it stops, by the shortest chain of edits that keeps quads quads. The ways
 * are numbered from the cheapest in poles; each says what it costs. Refuses (NO_WAY) a loop that stops nowhere inside.
 */
export const routeOn = operator({
  name: 'route-on',
  title: 'Route on',
  params: z.object({
    way: count('Which way', { min: 1, max: 9, start: 1, hint: 'From the cheapest in poles on' }),
    end: count('Which end', { min: 1, max: 2, start: 1 }),
  }),
  run(mesh, selection, { way, end }, ground) {
    const [e] = pickedEdges(mesh, selection, 'Pick an edge of the loop that stops.');
    const stops = loopStops(mesh, e, ground);
    if (stops.length === 0)
      throw new TopologyError('NO_WAY', 'This loop stops nowhere inside the mesh: it closes, or ends at borders.', {
        edges: [e],
      });
    const stop = stops[Math.min(end, stops.length) - 1];
    const routes = routesOn(mesh, stop);
    if (routes.length === 0)
      throw new TopologyError('NO_WAY', noWayWords(stop), { vertices: [stop.vertex] }); // prettier-ignore
    const index = Math.min(way, routes.length);
    const route = routes[index - 1];
    const { edits, poles, faces } = route;
    const from = mesh.origin(stop.half);
    for (const edit of edits) perform(mesh, edit);
    const on = edgeLoop(mesh, mesh.findHalf(from, stop.vertex));
    return {
      selection: only({ edges: on.halves.map((h) => h >> 1) }),
      report: {
        sentence: `Way ${index} of ${routes.length}: ${routeWords(route)}; the loop has ${plural(on.halves.length, 'edge')}${on.closed ? ' and closes' : ''}`,
        counts: { way: index, ways: routes.length, edits: edits.length, poles, faces, edges: on.halves.length },
      },
    };
  },
});

/** Why a loop is not led on. */
export const noWayWords = (stop: LoopStop): string =>
  `The loop ${stopWords(stop)}, and no chain of four edits leads it on; insert or dissolve a loop beside it first.`;

/** What a way costs, in words. */
export function routeWords({ edits, poles, faces }: Route): string {
  const costs = [
    poles !== 0 && `${plural(Math.abs(poles), 'pole')} ${poles > 0 ? 'more' : 'fewer'}`,
    faces !== 0 && `${plural(faces, 'face')} more`,
  ].filter(Boolean);
  return `${plural(edits.length, 'edit')}, ${costs.length > 0 ? costs.join(', ') : 'as many poles and faces'}`;
}
