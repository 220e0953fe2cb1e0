import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { add, boxOf, pathThrough, scale, type Axis, type Box, type Path, type Vec3 } from '../../math';
import { settledPlace } from '../ground';
import { operator, plural } from '../operator';
import { choice, curve, degrees, share, shownWhen, toggle } from '../params';
import { only, verticesOf } from '../picked';

const AXIS = [['x', 'x'], ['y', 'y'], ['z', 'z']] as const; // prettier-ignore
const Params = z.object({
  kind: choice('Do', [['bend', 'bend'], ['twist', 'twist'], ['taper', 'taper'], ['curve', 'lay along a curve']], 'bend'), // prettier-ignore
  axis: choice('Along', AXIS, 'y'),
  towards: shownWhen(choice('Towards', [['first', 'the next axis'], ['second', 'the one after']], 'first'), 'kind', 'bend'), // prettier-ignore
  angle: shownWhen(degrees('By', { min: -720, max: 720, start: 45 }), 'kind', 'bend', 'twist'),
  end: shownWhen(share('Size at the far end', { min: 0, max: 4, start: 0.5 }), 'kind', 'taper'),
  curve: shownWhen(curve('Which curve', 'Draw one with Guide'), 'kind', 'curve'),
  stretch: shownWhen(toggle('Stretched to its length', true), 'kind', 'curve'),
  from: share('From', { min: 0, max: 1, start: 0 }),
  to: share('To', { min: 0, max: 1, start: 1 }),
});

/**
 * Bends, twists or tapers what is picked, or everything, along an axis of the file, between two shares of its extent: before the first
 * nothing moves, past the second the rest goes along stiffly. A bend keeps lengths along its middle line (Barr 1984). Or lays
 * it along a drawn curve, its middle line on the curve, with no more twist than the curve has. Refuses (NO_WAY) a missing curve.
 */
export const deform = operator({
  name: 'deform',
  title: 'Bend, twist, taper',
  params: Params,
  run(mesh, selection, p, ground) {
    const picked = verticesOf(mesh, selection);
    const vertices = picked.size > 0 ? [...picked] : [...mesh.vertices()];
    const box = boxOf(vertices.flatMap((v) => [...mesh.point(v)]));
    const place = deformedPlaces(box, p);
    for (const v of vertices) mesh.setPoint(v, settledPlace(mesh.point(v), place(mesh.point(v)), { ...ground, form: null })); // prettier-ignore
    const amount = { taper: `to ${Math.round(p.end * 100)} %`, curve: 'along the curve' }[p.kind as string] ?? `by ${Number(p.angle.toFixed(1))}°`; // prettier-ignore
    const done = { bend: 'bent', twist: 'twisted', taper: 'tapered', curve: 'laid' }[p.kind];
    return {
      selection: picked.size > 0 ? selection : only({}),
      report: {
        sentence: `${plural(vertices.length, 'point')} ${done} ${amount}`,
        counts: { vertices: vertices.length },
      },
    };
  },
});

/** The place of each point when the box's middle line along the axis is laid on a curve. */
function alongCurve(box: Box, { axis, curve: drawn, stretch, from, to }: z.infer<typeof Params>): (p: Vec3) => Vec3 {
  const k = ['x', 'y', 'z'].indexOf(axis as Axis);
  const [u, v] = [(k + 1) % 3, (k + 2) % 3];
  const up = [0, 0, 0].map((_, i) => (i === u ? 1 : 0)) as unknown as Vec3;
  const path: Path | null = drawn && pathThrough(drawn.points, drawn.closed, up);
  if (!path) throw new TopologyError('NO_WAY', 'Choose the curve to lay it along; a guide can be drawn with Guide.');
  const size = box.max[k] - box.min[k];
  const start = box.min[k] + size * Math.min(from, to), span = size * Math.abs(to - from); // prettier-ignore
  const centre = [0, 1, 2].map((i) => (box.min[i] + box.max[i]) / 2);
  const step = stretch && span > 0 ? path.length / span : 1;
  return (p) => {
    const along = p[k] - start;
    // what lies before and beyond keeps its own length
    const s = along < 0 ? along : along > span ? span * step + along - span : along * step;
    const frame = path.at(s);
    return add(frame.point, add(scale(frame.up, p[u] - centre[u]), scale(frame.side, p[v] - centre[v])));
  };
}

/** Where points go that lie in a box, with some settings: what handles are drawn by. Throws NO_WAY without a curve to follow. */
export const deformedPlaces = (box: Box, params: z.infer<typeof Params>): ((p: Vec3) => Vec3) =>
  params.kind === 'curve' ? alongCurve(box, params) : deformation(box, params);

/** The place of each point; the extent is that of the box, its middle line the axis through the box's middle. */
function deformation(
  box: Box,
  { kind, axis, towards, angle, end, from, to }: z.infer<typeof Params>,
): (p: Vec3) => Vec3 {
  const k = ['x', 'y', 'z'].indexOf(axis as Axis);
  const [u, v] = towards === 'first' ? [(k + 1) % 3, (k + 2) % 3] : [(k + 2) % 3, (k + 1) % 3];
  const low = box.min[k], size = box.max[k] - low; // prettier-ignore
  const start = low + size * Math.min(from, to), span = size * Math.abs(to - from); // prettier-ignore
  const centre = [0, 1, 2].map((i) => (box.min[i] + box.max[i]) / 2);
  const radians = (angle * Math.PI) / 180;
  return (p) => {
    const q: [number, number, number] = [p[0], p[1], p[2]];
    if (span <= 0) return p;
    const t = Math.max(0, Math.min(1, (p[k] - start) / span));
    const a = p[u] - centre[u], b = p[v] - centre[v]; // prettier-ignore
    if (kind === 'taper') {
      const s = 1 + (end - 1) * t;
      q[u] = centre[u] + a * s;
      q[v] = centre[v] + b * s;
    } else if (kind === 'twist') {
      const [c, s] = [Math.cos(radians * t), Math.sin(radians * t)];
      q[u] = centre[u] + a * c - b * s;
      q[v] = centre[v] + a * s + b * c;
    } else if (Math.abs(radians) > 1e-9) {
      // round a centre that lies `r` away from the middle line, so that the line keeps its length
      const r = span / radians, turn = radians * t; // prettier-ignore
      const beyond = p[k] < start ? p[k] - start : Math.max(0, p[k] - start - span);
      q[k] = start + (r - a) * Math.sin(turn) + beyond * Math.cos(turn);
      q[u] = centre[u] + r - (r - a) * Math.cos(turn) + beyond * Math.sin(turn);
    }
    return q;
  };
}
