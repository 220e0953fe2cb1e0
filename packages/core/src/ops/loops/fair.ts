import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { alongCurve, distance, lerp, type Vec3 } from '../../math';
import { chainsOf, NONE } from '../../mesh';
import { settle } from '../ground';
import { operator, plural } from '../operator';
import { count, share } from '../params';
import { pickedEdges } from '../picked';
import { beyond, railsOf } from './rails';

const Params = z.object({
  strength: share('Strength', { min: 0, max: 1, start: 1 }),
  passes: count('Passes', { min: 1, max: 50, start: 4 }),
});

/** The span from neighbour to neighbour is two rungs long, so that it may bend further than one; degrees. */
const SHARPEST = 115;

/**
 * Bends loops so that they follow the curvature of their neighbours: each point goes to the curve through the two
 * points beside it and the two beyond, across the loop, and keeps its fraction of the way. Loops picked together
 * converge in passes. Cost: the picked points, times the passes.
 */
export const fair = operator({
  name: 'fair',
  title: 'Fair',
  params: Params,
  run(mesh, selection, { strength, passes }, ground) {
    const chains = chainsOf(mesh, pickedEdges(mesh, selection, 'Pick the loop to fair.'));
    const sides = chains.flatMap((c) => railsOf(mesh, c)).filter((r) => r.left !== NONE && r.right !== NONE);
    if (sides.length === 0)
      throw new TopologyError('NOTHING_PICKED', 'These edges have faces on one side only; there is no curve across them to follow.'); // prettier-ignore
    const starts = sides.map(({ vertex }) => mesh.point(vertex));
    for (let i = 0; i < passes; i++) {
      const places = sides.map(({ vertex, left, right }): Vec3 => {
        const p = mesh.point(vertex),
          a = mesh.point(mesh.target(left)),
          b = mesh.point(mesh.target(right));
        const [da, db] = [distance(p, a), distance(p, b)];
        if (da + db === 0) return p;
        return alongCurve(beyond(mesh, left, ground), a, b, beyond(mesh, right, ground), da / (da + db), SHARPEST);
      });
      sides.forEach(({ vertex }, k) => settle(mesh, vertex, lerp(mesh.point(vertex), places[k], strength), ground));
    }
    const moved = sides.reduce((most, { vertex }, k) => Math.max(most, distance(mesh.point(vertex), starts[k])), 0);
    return {
      selection,
      report: {
        sentence: `${plural(sides.length, 'point')} faired`,
        counts: { vertices: sides.length, loops: chains.length, distance: moved },
      },
    };
  },
});
