import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { add, addScaled, axisVector, cross, distance, dot, length, normalize, ontoPlane, planeDistance, scale, turned, type Vec3 } from '../../math'; // prettier-ignore
import { addVertex, NONE } from '../../mesh';
import { keptSide, type Ground } from '../ground';
import { operator, plural } from '../operator';
import { count, degrees, plain, Point, proposedLength } from '../params';
import { only } from '../picked';
import { rowsBetween } from './strips';

const Params = z.object({
  spokes: count('Spokes', { min: 3, max: 256, start: 12 }),
  rings: count('Rings', { min: 1, max: 64, start: 2 }),
  radius: proposedLength('Radius of the opening'),
  width: proposedLength('Width of the rings', 'Empty: as wide as the opening’s edges are long'),
  stretch: plain('Longer than high', { min: 0.1, max: 10, start: 1, step: 0.05 }),
  turn: degrees('Turned by', { min: -90, max: 90, start: 0 }),
  /** the middle of the opening on the form, which way the form faces there, and which way is its length */
  at: Point,
  facing: Point,
  along: z._default(Point, [1, 0, 0]),
});
type Params = z.infer<typeof Params>;

/**
 * Rings of quads round an opening: spokes from its middle, as many loops as rings and one more, on the form; round, or longer one way. The
 * opening itself stays open. With symmetry an opening over the midline is laid as its half. Cost: the quads.
 */
export const ringOpening = operator({
  name: 'ring-opening',
  title: 'Ring an opening',
  params: Params,
  run(mesh, _selection, p, ground) {
    const radius = p.radius ?? 1;
    if (!(radius > 0)) throw new TopologyError('BAD_SIZE', 'The radius of the opening must be more than 0.');
    const outermost = radius * Math.max(1, p.stretch);
    const { plane } = ground;
    const half = plane !== null && Math.abs(planeDistance(p.at, plane)) < outermost * 0.5;
    const at = half ? ontoPlane(p.at, plane) : p.at;
    const edges = half ? Math.max(2, Math.round(p.spokes / 2)) : p.spokes;
    const width = p.width ?? (2 * Math.PI * radius) / p.spokes;
    const above = scale(normalize(p.facing), outermost + width * p.rings);
    const [x, y] = axesOf(p, half ? ground : null);
    const side = half && plane ? (keptSide(mesh, plane) ?? (planeDistance(p.at, plane) < 0 ? -1 : 1)) : 0;
    const start = half && plane ? halfStart(x, axisVector(`+${plane.axis}`), side) : 0;
    const lines = Array.from({ length: p.rings + 1 }, (_, r) =>
      Array.from({ length: edges + (half ? 1 : 0) }, (_s, k) => {
        const a = start + ((half ? Math.PI : 2 * Math.PI) * k) / edges;
        const c = radius + width * r;
        const q = add(
          at,
          add(scale(x, c * p.stretch ** 0.5 * Math.cos(a)), scale(y, (c / p.stretch ** 0.5) * Math.sin(a))),
        );
        return addVertex(mesh, placed(q, half && (k === 0 || k === edges), side, ground, above));
      }),
    );
    // outward loops run so that faces look as the form does: from the inner loop out, counter-clockwise
    const faces = rowsBetween(mesh, lines.map((line) => [...line].reverse()), !half, []); // prettier-ignore
    const inner = lines[0];
    const pairs = inner
      .slice(half ? 1 : 0)
      .map((v, i): [number, number] => (half ? [inner[i], v] : [v, inner[(i + 1) % edges]]));
    return {
      selection: only({ edges: pairs.map(([u, v]) => mesh.findHalf(u, v)).filter((h) => h !== NONE).map((h) => h >> 1) }), // prettier-ignore
      report: {
        sentence: `${plural(p.rings, 'ring')} of ${edges} quads laid round ${half ? 'half an' : 'an'} opening`,
        counts: { faces: faces.length, radius, width },
      },
    };
  },
});

/** Two directions along the form at the opening, unit and square; with the midline, one of them lies in it. */
function axesOf({ facing, along, turn }: Params, ground: Ground | null): [Vec3, Vec3] {
  const n = normalize(facing);
  const wanted = ground?.plane ? axisVector(`+${ground.plane.axis}`) : along;
  const flat = addScaled(wanted, n, -dot(wanted, n));
  const x = normalize(length(flat) > 1e-9 ? flat : cross(n, Math.abs(n[1]) < 0.9 ? [0, 1, 0] : [1, 0, 0]));
  const turnedX = ground ? x : turned(x, [0, 0, 0], n, (turn * Math.PI) / 180);
  return [turnedX, cross(n, turnedX)];
}

/** The angle where half a turn on the kept side of the mirror begins. */
const halfStart = (x: Vec3, axis: Vec3, side: number): number => (dot(x, axis) * side > 0 ? -Math.PI / 2 : Math.PI / 2);

/** Dropped onto the form from above the opening, so that a rim or a lid does not draw points to its side; nearest where that misses. */
function placed(q: Vec3, isMiddle: boolean, side: number, { plane, form }: Ground, above: Vec3): Vec3 {
  const most = 2 * length(above);
  const fallen = form?.ray?.(add(q, above), scale(above, -1)) ?? null;
  const near = fallen && distance(fallen, q) <= most ? fallen : null;
  if (plane && isMiddle) {
    let p = ontoPlane(near ?? q, plane);
    for (let i = 0; form && i < 3; i++) p = ontoPlane(form.closest(p).point, plane);
    return p;
  }
  const p = near ?? (form ? form.closest(q).point : q);
  if (plane && side !== 0 && planeDistance(p, plane) * side <= 0)
    throw new TopologyError(
      'OFF_MIDLINE',
      'The rings would lie across the midline; move their middle onto it, or further away.',
    );
  return p;
}
