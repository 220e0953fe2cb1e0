import * as z from 'zod/mini';
import { addScaled, axisVector, boxOf, turned, type Axis, type Vec3 } from '../../math';
import { operator, plural } from '../operator';
import { choice, count, degrees, Point, proposedLength, shownWhen, toggle } from '../params';
import { only, pickedFaces } from '../picked';
import { copyPatch, wholeParts } from './copyPatch';

const AXIS = [['x', 'x'], ['y', 'y'], ['z', 'z']] as const; // prettier-ignore
const Params = z.object({
  arranged: choice('Arranged', [['line', 'in a line'], ['ring', 'in a ring'], ['mirror', 'mirrored']], 'line'), // prettier-ignore
  count: shownWhen(count('How many in all', { min: 2, max: 512, start: 4 }), 'arranged', 'line', 'ring'),
  axis: choice('Along or round', AXIS, 'x'),
  step: shownWhen(proposedLength('Step', 'From one to the next; empty: side by side'), 'arranged', 'line'),
  sweep: shownWhen(degrees('All round', { min: 1, max: 360, start: 360 }), 'arranged', 'ring'),
  whole: toggle('The whole part', true, 'Else only the faces that are picked'),
  /** what a ring turns about and a mirror stands at, file units; zero by default */
  about: z._default(Point, [0, 0, 0]),
});

/**
 * Copies of picked faces or of the parts they belong to: in a line, in a ring about an axis, or across a plane. A full ring spaces them
 * evenly over the turn, a part of one from end to end. All attributes come along.
 */
export const copies = operator({
  name: 'copies',
  title: 'Copies',
  params: Params,
  run(mesh, selection, p, ground) {
    const picked = pickedFaces(mesh, selection, 'Pick the part, or the faces, to copy.');
    const faces = p.whole ? wholeParts(mesh, picked) : picked;
    const box = boxOf(faces.flatMap((f) => mesh.faceVertices(f).flatMap((v) => [...mesh.point(v)])));
    const made: number[] = [];
    const axis = p.axis as Axis;
    const along = axisVector(`+${axis}`);
    const k = ['x', 'y', 'z'].indexOf(axis);
    const step = p.step ?? (box.max[k] - box.min[k]) * 1.1;
    if (p.arranged === 'mirror') {
      const flip = (q: Vec3): Vec3 => q.map((x, i) => (i === k ? 2 * p.about[k] - x : x)) as unknown as Vec3;
      for (const f of copyPatch(mesh, faces, flip, ground, true)) made.push(f);
    } else
      for (let i = 1; i < p.count; i++) {
        const angle = ((p.sweep / (p.sweep === 360 ? p.count : p.count - 1)) * i * Math.PI) / 180;
        const place = (q: Vec3): Vec3 => (p.arranged === 'line' ? addScaled(q, along, step * i) : turned(q, p.about, along, angle)); // prettier-ignore
        for (const f of copyPatch(mesh, faces, place, ground)) made.push(f);
      }
    const n = made.length / faces.length;
    return {
      selection: only({ faces: [...faces, ...made] }),
      report: {
        sentence: `${plural(n, 'copy', 'copies')} of ${plural(faces.length, 'face')}, ${plural(made.length, 'face')} more`,
        counts: { copies: n, faces: made.length, ...(p.arranged === 'line' ? { step } : {}) },
      },
    };
  },
});
