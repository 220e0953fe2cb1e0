import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { add, axisVector, boxOf, cross, distance, dot, length, lerp, normalize, scale, SIGNED_AXES, sub, turned, type Vec3 } from '../../math'; // prettier-ignore
import { chainsOf, vertexNormal, type Chain, type PolyMesh } from '../../mesh';
import type { Ground } from '../ground';
import { operator, plural } from '../operator';
import { choice, count, curve, degrees, plain, proposedLength, shownWhen, type Curve } from '../params';
import { only, pickedEdges, pickedFaces } from '../picked';
import { copyPatch, wholeParts } from './copyPatch';

const Params = z.object({
  by: choice('Set', [['count', 'by count'], ['spacing', 'by spacing']], 'count'), // prettier-ignore
  count: shownWhen(count('On each run', { min: 1, max: 1024, start: 8 }), 'by', 'count'),
  spacing: shownWhen(proposedLength('Spacing', 'At most this far apart'), 'by', 'spacing'),
  curve: curve('Along a guide', 'Instead of picked edges'),
  size: plain('Size', { min: 0.01, max: 100, start: 1, step: 0.05 }),
  turn: degrees('Turned by', { min: -180, max: 180, start: 0 }),
  facing: choice('Stand', [['out', 'out of the surface'], ['up', 'upright']], 'out'), // prettier-ignore
  sink: proposedLength('Sunk by', 'Into the surface'),
  up: z._default(z.enum(SIGNED_AXES), '+y'),
  /** places along the runs, from 0, that stay empty */
  without: z._default(z.array(z.int().check(z.minimum(0))), []),
});

/**
 * Sets copies of a small part along picked edges or a drawn curve: by a count or a spacing, out of the surface or upright, each turned along the run. The
 * part is what the picked faces belong to; its foot is the middle of its lowest end. Closed runs are filled evenly all
 * round, open ones from end to end. The part itself stays where it is.
 */
export const studs = operator({
  name: 'studs',
  title: 'Studs',
  params: Params,
  run(mesh, selection, p, ground) {
    const edges = selection.edges.filter((e) => mesh.hasEdge(e));
    if ((edges.length === 0 && !p.curve) || selection.faces.length === 0)
      throw new TopologyError('NOTHING_PICKED', 'Pick a face of the small part, and the edges along which it shall be set, or choose a guide.'); // prettier-ignore
    const part = wholeParts(mesh, pickedFaces(mesh, selection));
    const own = new Set(part.flatMap((f) => mesh.faceVertices(f)));
    const runs = p.curve ? [] : chainsOf(mesh, pickedEdges(mesh, { ...selection, edges }));
    if (runs.some((run) => run.vertices.some((v) => own.has(v))))
      throw new TopologyError('NOTHING_PICKED', 'The edges belong to the part that shall be set along them; pick edges of another part.'); // prettier-ignore
    const foot = footOf([...own].map((v) => mesh.point(v)), p.up); // prettier-ignore
    const lines = p.curve ? [onCurve(p.curve, p, ground)] : runs.map((run) => onRun(mesh, run, p));
    const spots = lines.flatMap((line) => spotsOn(line, p)).filter((_, i) => !p.without.includes(i)); // prettier-ignore
    const made = spots.flatMap((spot) => copyPatch(mesh, part, placing(foot, spot, p), ground));
    const apart = spots.length > 1 ? distance(spots[0].at, spots[1].at) : 0;
    return {
      selection: only({ faces: made }),
      report: {
        sentence: `${plural(spots.length, 'stud')} set on ${plural(lines.length, 'run')}, ${plural(made.length, 'face')} more`,
        counts: { studs: spots.length, faces: made.length, apart },
      },
    };
  },
});

interface Spot {
  at: Vec3;
  out: Vec3;
  along: Vec3;
}
interface Foot {
  at: Vec3;
  up: Vec3;
  ahead: Vec3;
}

/** The middle of the lowest end of a part, and its own upright and forward directions. */
function footOf(points: Vec3[], upAxis: (typeof SIGNED_AXES)[number]): Foot {
  const up = axisVector(upAxis);
  const lowest = points.reduce((least, q) => Math.min(least, dot(q, up)), Infinity);
  const box = boxOf(points.flat());
  const middle: Vec3 = lerp(box.min, box.max, 0.5);
  const ahead = Math.abs(up[0]) > 0.5 ? axisVector('+y') : axisVector('+x');
  return { at: add(middle, scale(up, lowest - dot(middle, up))), up, ahead };
}

/** A line that studs stand on: its points, and which way is out at each. */
interface Line {
  points: Vec3[];
  outs: Vec3[];
}
function onRun(mesh: PolyMesh, { vertices, closed }: Chain, p: z.infer<typeof Params>): Line & { closed: boolean } {
  const ring = closed ? [...vertices, vertices[0]] : vertices;
  return {
    closed,
    points: ring.map((v) => mesh.point(v)),
    outs: ring.map((v) => (p.facing === 'up' ? axisVector(p.up) : vertexNormal(mesh, v))),
  };
}
/** Out of a drawn curve is out of the form that it was drawn on; without one it is upright. */
function onCurve({ points, closed }: Curve, p: z.infer<typeof Params>, { form }: Ground): Line & { closed: boolean } {
  const ring = closed ? [...points, points[0]] : points;
  return { closed, points: ring, outs: ring.map((q) => (form && p.facing === 'out' ? form.closest(q).normal : axisVector(p.up))) }; // prettier-ignore
}

/** Even places along a line by length, with the way out and the line's own direction. */
function spotsOn({ points, outs, closed }: Line & { closed: boolean }, p: z.infer<typeof Params>): Spot[] {
  const at = [0];
  for (let i = 1; i < points.length; i++) at.push(at[i - 1] + distance(points[i - 1], points[i]));
  const total = at[at.length - 1];
  const most = p.spacing !== null && p.spacing > 0 ? p.spacing : total / 8;
  const n = p.by === 'count' ? p.count : Math.min(4096, Math.max(1, Math.ceil(total / most - 1e-9) + (closed ? 0 : 1)));
  return Array.from({ length: n }, (_, i) => {
    const s = closed ? (total * i) / n : n === 1 ? total / 2 : (total * i) / (n - 1);
    let k = 0;
    while (k < at.length - 2 && at[k + 1] < s) k++;
    const t = at[k + 1] > at[k] ? (s - at[k]) / (at[k + 1] - at[k]) : 0;
    return {
      at: lerp(points[k], points[k + 1], t),
      out: normalize(lerp(outs[k], outs[k + 1], t)),
      along: normalize(sub(points[k + 1], points[k])),
    };
  });
}

/** The rigid move that stands a part's foot on a spot. */
function placing(
  foot: Foot,
  { at, out, along }: Spot,
  { size, turn, sink }: z.infer<typeof Params>,
): (q: Vec3) => Vec3 {
  const up = length(out) > 0 ? out : foot.up;
  const flat = sub(along, scale(up, dot(along, up)));
  const ahead = length(flat) > 1e-9 ? normalize(flat) : normalize(cross(up, Math.abs(up[0]) < 0.9 ? [1, 0, 0] : [0, 1, 0])); // prettier-ignore
  const to = turned(ahead, [0, 0, 0], up, (turn * Math.PI) / 180);
  const [side, ownSide] = [cross(up, to), cross(foot.up, foot.ahead)];
  const base = sub(at, scale(up, sink ?? 0));
  return (q) => {
    const d = sub(q, foot.at);
    const [a, b, c] = [dot(d, foot.ahead) * size, dot(d, foot.up) * size, dot(d, ownSide) * size];
    return add(base, add(add(scale(to, a), scale(up, b)), scale(side, c)));
  };
}
