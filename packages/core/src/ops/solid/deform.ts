import * as z from 'zod/mini';
import { boxOf, type Axis, type Box, type Vec3 } from '../../math';
import { settledPlace } from '../ground';
import { operator, plural } from '../operator';
import { choice, degrees, share, shownWhen } from '../params';
import { only, verticesOf } from '../picked';

const AXIS = [['x', 'x'], ['y', 'y'], ['z', 'z']] as const; // prettier-ignore
const Params = z.object({
  kind: choice('Do', [['bend', 'bend'], ['twist', 'twist'], ['taper', 'taper']], 'bend'), // prettier-ignore
  axis: choice('Along', AXIS, 'y'),
  towards: shownWhen(choice('Towards', [['first', 'the next axis'], ['second', 'the one after']], 'first'), 'kind', 'bend'), // prettier-ignore
  angle: shownWhen(degrees('By', { min: -720, max: 720, start: 45 }), 'kind', 'bend', 'twist'),
  end: shownWhen(share('Size at the far end', { min: 0, max: 4, start: 0.5 }), 'kind', 'taper'),
  from: share('From', { min: 0, max: 1, start: 0 }),
  to: share('To', { min: 0, max: 1, start: 1 }),
});

/**
 * Bends, twists or tapers what is picked, or everything, along an axis of the file, between two shares of its extent: before the first
 * nothing moves, past the second the rest goes along stiffly. A bend keeps lengths along its middle line (Barr 1984).
 */
export const deform = operator({
  name: 'deform',
  title: 'Bend, twist, taper',
  params: Params,
  run(mesh, selection, p, ground) {
    const picked = verticesOf(mesh, selection);
    const vertices = picked.size > 0 ? [...picked] : [...mesh.vertices()];
    const box = boxOf(vertices.flatMap((v) => [...mesh.point(v)]));
    const place = deformation(box, p);
    for (const v of vertices) mesh.setPoint(v, settledPlace(mesh.point(v), place(mesh.point(v)), { ...ground, form: null })); // prettier-ignore
    const amount = p.kind === 'taper' ? `to ${Math.round(p.end * 100)} %` : `by ${Number(p.angle.toFixed(1))}°`;
    const done = { bend: 'bent', twist: 'twisted', taper: 'tapered' }[p.kind];
    return {
      selection: picked.size > 0 ? selection : only({}),
      report: {
        sentence: `${plural(vertices.length, 'point')} ${done} ${amount}`,
        counts: { vertices: vertices.length },
      },
    };
  },
});

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
