import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { addScaled, axisVector, boxCentre, carried, pathThrough, turned, type Axis, type Path, type PathFrame, type Vec3 } from '../../math'; // prettier-ignore
import { boxOfFaces, chainsOf, type PolyMesh, type Selection } from '../../mesh';
import { operator, plural } from '../operator';
import { choice, count, curve, degrees, Point, proposedLength, shownWhen, toggle } from '../params';
import { only, pickedFaces } from '../picked';
import { copyPatch, wholeParts } from './copyPatch';

const AXIS = [['x', 'x'], ['y', 'y'], ['z', 'z']] as const; // prettier-ignore
const Params = z.object({
  arranged: choice('Arranged', [['line', 'in a line'], ['ring', 'in a ring'], ['along', 'along a loop or curve'], ['mirror', 'mirrored']], 'line'), // prettier-ignore
  count: shownWhen(count('How many in all', { min: 2, max: 512, start: 4 }), 'arranged', 'line', 'ring', 'along'),
  axis: choice('Along or round', AXIS, 'x'),
  step: shownWhen(proposedLength('Step', 'From one to the next; empty: side by side'), 'arranged', 'line'),
  sweep: shownWhen(degrees('All round', { min: 1, max: 360, start: 360 }), 'arranged', 'ring'),
  curve: shownWhen(curve('Which curve', 'Empty: the edges that are picked'), 'arranged', 'along'),
  whole: toggle('The whole part', true, 'Else only the faces that are picked'),
  /** what a ring turns about and a mirror stands at, file units; zero by default */
  about: z._default(Point, [0, 0, 0]),
});

/**
 * Copies of picked faces or of the parts they belong to: in a line, in a ring about an axis, along picked edges or a drawn curve, or across
 * a plane. A full ring and a closed loop space them evenly all round, a part of one from end to end. Along a line each
 * is turned as the line turns from its start. All attributes come along.
 */
export const copies = operator({
  name: 'copies',
  title: 'Copies',
  params: Params,
  run(mesh, selection, p, ground) {
    const picked = pickedFaces(mesh, selection, 'Pick the part, or the faces, to copy.');
    const faces = p.whole ? wholeParts(mesh, picked) : picked;
    const box = boxOfFaces(mesh, faces);
    const made: number[] = [];
    const axis = p.axis as Axis;
    const along = axisVector(`+${axis}`);
    const k = ['x', 'y', 'z'].indexOf(axis);
    const step = p.step ?? (box.max[k] - box.min[k]) * 1.1;
    if (p.arranged === 'mirror') {
      const flip = (q: Vec3): Vec3 => q.map((x, i) => (i === k ? 2 * p.about[k] - x : x)) as unknown as Vec3;
      for (const f of copyPatch(mesh, faces, flip, ground, true)) made.push(f);
    } else if (p.arranged === 'along') {
      const path = pathOf(mesh, selection, p.curve);
      // the part stands on the path's start as it stands now: its middle there, its directions those of the file
      const own: PathFrame = { ...path.at(0), point: boxCentre(box) };
      const places = path.closed ? p.count : p.count - 1;
      for (let i = 0; i < p.count; i++)
        for (const f of copyPatch(mesh, faces, (q) => carried(q, own, path.at((path.length * i) / places)), ground)) made.push(f); // prettier-ignore
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

function pathOf(mesh: PolyMesh, selection: Selection, drawn: z.infer<typeof Params>['curve']): Path {
  const [chain] = drawn
    ? []
    : chainsOf(
        mesh,
        selection.edges.filter((e) => mesh.hasEdge(e)),
      );
  const path = drawn ? pathThrough(drawn.points, drawn.closed) : chain && pathThrough(chain.vertices.map((v) => mesh.point(v)), chain.closed); // prettier-ignore
  if (!path) throw new TopologyError('NOTHING_PICKED', 'Pick the edges to copy along, besides a face of the part, or choose a drawn curve.'); // prettier-ignore
  return path;
}
