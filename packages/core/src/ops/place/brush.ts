import * as z from 'zod/mini';
import { add, distance, scale, sub, type Vec3 } from '../../math';
import { vertexNormal, type PolyMesh } from '../../mesh';
import { settle } from '../ground';
import { relaxStep } from '../loops/relaxing';
import { operator, plural } from '../operator';
import { choice, Point, share, toggle, VertexId } from '../params';
import { only } from '../picked';
import { falloff } from './reach';

const Dab = z.object({
  at: Point,
  /** a vertex near by: the brush works on the faces that hang together with it */
  near: VertexId,
  /** share of the strength, such as a pen's pressure */
  pressure: z._default(z.number().check(z.minimum(0), z.maximum(1)), 1),
  /** where the pointer came from, for pushing */
  from: z.optional(Point),
});

const Params = z.object({
  kind: choice('Brush', [['relax', 'relax'], ['push', 'push'], ['smooth', 'smooth'], ['even', 'even out']], 'relax'), // prettier-ignore
  strength: share('Strength', { min: 0, max: 1, start: 0.5 }),
  radius: z.number().check(z.positive()),
  hold: toggle('Hold borders and hard edges', true),
  dabs: z.array(Dab).check(z.minLength(1)),
});

/**
 * Brushes points by dabs along a stroke, those that hang together with the nearest point within the radius (file
 * units): relax on the surface, push along the stroke, smooth, or even the edge lengths out. Cost: the points in reach.
 */
export const brush = operator({
  name: 'brush',
  title: 'Brush',
  params: Params,
  run(mesh, selection, { kind, strength, radius, hold, dabs }, ground) {
    const touched = new Set<number>();
    for (const dab of dabs) {
      if (!mesh.hasVertex(dab.near)) continue;
      const weights = weightsIn(mesh, dab.near, dab.at, radius, strength * dab.pressure);
      for (const v of weights.keys()) touched.add(v);
      if (kind === 'push') {
        const by = dab.from ? sub(dab.at, dab.from) : scale(vertexNormal(mesh, dab.near), radius * 0.05);
        for (const [v, w] of weights) settle(mesh, v, add(mesh.point(v), scale(by, Math.min(1, 2 * w))), ground);
      } else {
        const options = {
          density: kind === 'even' ? 'even' : 'keep',
          tangential: kind !== 'smooth',
          holdLines: hold,
        } as const;
        relaxStep(mesh, weights, options, ground);
      }
    }
    const done = { relax: 'relaxed', push: 'pushed', smooth: 'smoothed', even: 'evened out' }[kind as string];
    return {
      selection: only(selection),
      report: {
        sentence: `${plural(touched.size, 'point')} ${done}`,
        counts: { vertices: touched.size, dabs: dabs.length },
      },
    };
  },
});

/** The points that hang together with `near` within the radius of a place, weighted by nearness. */
export function weightsIn(
  mesh: PolyMesh,
  near: number,
  at: Vec3,
  radius: number,
  strength: number,
): Map<number, number> {
  const weights = new Map<number, number>();
  const queue = [near];
  const seen = new Set(queue);
  for (const v of queue) {
    const d = distance(mesh.point(v), at);
    if (d < radius) weights.set(v, strength * falloff(d / radius));
    else if (v !== near) continue;
    for (const h of mesh.vertexHalves(v)) {
      const w = mesh.target(h);
      if (seen.has(w)) continue;
      seen.add(w);
      queue.push(w);
    }
  }
  return weights;
}
