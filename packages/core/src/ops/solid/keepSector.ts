import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { axisIndex, meanPoint, type Axis } from '../../math';
import { removeFaces } from '../../mesh';
import { operator, plural } from '../operator';
import { choice, count, degrees, Point } from '../params';
import { only } from '../picked';

const Params = z.object({
  count: count('How many sectors', { min: 2, max: 128, start: 6 }),
  axis: choice('Round', [['x', 'x'], ['y', 'y'], ['z', 'z']], 'y'), // prettier-ignore
  from: degrees('Begins at', { min: 0, max: 360, start: 0 }),
  /** a point of the axis, file units */
  about: z._default(Point, [0, 0, 0]),
});

/** Middles as near a sector's side as this lie in the sector beyond it, whatever rounding says; radians. */
const HAIR = 1e-6;

/**
 * One sector of a whole piece stays: the faces whose middles lie between two half planes through an axis. Of a piece that turns onto itself
 * both sides of what stays are alike, so that it can be joined again (`joinSectors`), copied over all others. Refuses (NO_WAY) where
 * nothing would go, or nothing stay. Cost: the mesh.
 */
export const keepSector = operator({
  name: 'keep-sector',
  title: 'Keep one sector',
  params: Params,
  run(mesh, _selection, p) {
    const [u, v] = [1, 2].map((k) => (axisIndex(p.axis as Axis) + k) % 3);
    const begins = (p.from * Math.PI) / 180;
    const turn = 2 * Math.PI;
    const isKept = (f: number): boolean => {
      const m = meanPoint(mesh.faceVertices(f).map((w) => mesh.point(w)));
      const angle = Math.atan2(m[v] - p.about[v], m[u] - p.about[u]) - begins + HAIR;
      return ((angle % turn) + turn) % turn < turn / p.count;
    };
    const before = mesh.faceCount;
    const gone = [...mesh.faces()].filter((f) => !isKept(f));
    if (gone.length === 0 || gone.length === before)
      throw new TopologyError('NO_WAY', `${gone.length === 0 ? 'All' : 'No'} faces lie in this one sector; turn where it begins, or choose another axis.`); // prettier-ignore
    removeFaces(mesh, gone);
    const kept = before - gone.length;
    return {
      selection: only({}),
      report: { sentence: `${plural(kept, 'face')} of one sector kept, ${gone.length} of the others gone`, counts: { kept, gone: gone.length } }, // prettier-ignore
    };
  },
});
