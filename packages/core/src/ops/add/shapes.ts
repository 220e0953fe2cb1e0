import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import * as make from '../../shapes';
import { operator, plural } from '../operator';
import { choice, count, proposedLength } from '../params';
import { oddWords, PLACE, placeShape, roundOf, SIDES } from './placeShape';

const ENDS = [['ngon', 'an n-gon'], ['fan', 'a fan'], ['quads', 'quads'], ['open', 'nothing']] as const; // prettier-ignore
const ROUND_ENDS = [
  ['quads', 'quads'],
  ['fan', 'a fan'],
] as const;
const rings = (label: string, start: number) => count(label, { min: 1, max: 128, start });

/** A size that was given, or the proposed one. Refuses (BAD_SIZE) what has none. */
function sized(value: number | null, proposed: number, what: string): number {
  const size = value ?? proposed;
  if (size > 0) return size;
  throw new TopologyError('BAD_SIZE', `${what} must be more than 0.`);
}
/** Quads cannot close an odd ring: a fan stands in, and the sentence says so. */
const endsFor = <T extends make.Ends>(ends: T, sides: number): T =>
  ends === 'quads' && sides % 2 === 1 ? ('fan' as T) : ends;

/** A box of quads on the floor. */
export const addBox = operator({
  name: 'box',
  title: 'Box',
  params: z.object({
    width: proposedLength('Width'),
    height: proposedLength('Height'),
    depth: proposedLength('Depth'),
    columns: rings('Quads along the width', 2),
    floors: rings('Along the height', 2),
    rows: rings('Along the depth', 2),
    ...PLACE,
  }),
  run(mesh, _selection, p, ground) {
    const size = [p.width, p.height, p.depth].map((s, k) => sized(s, p.about, ['Width', 'Height', 'Depth'][k]));
    const shape = make.box([size[0], size[1], size[2]], [p.columns, p.floors, p.rows]);
    return placeShape(mesh, shape, p, ground, `Box of ${size.map((s) => Number(s.toPrecision(4))).join(' × ')}`, { width: size[0], height: size[1], depth: size[2] }); // prettier-ignore
  },
});

/** A flat grid on the floor. */
export const addSheet = operator({
  name: 'plane-grid',
  title: 'Plane grid',
  params: z.object({
    width: proposedLength('Width'),
    depth: proposedLength('Depth'),
    columns: rings('Quads along the width', 4),
    rows: rings('Along the depth', 4),
    ...PLACE,
  }),
  run(mesh, _selection, p, ground) {
    const [width, depth] = [sized(p.width, p.about, 'Width'), sized(p.depth, p.about, 'Depth')];
    return placeShape(mesh, make.sheet(width, depth, p.columns, p.rows), p, ground, `Grid of ${p.columns} × ${p.rows} quads`, { width, depth }); // prettier-ignore
  },
});

export const addCylinder = operator({
  name: 'cylinder',
  title: 'Cylinder',
  params: z.object({
    radius: proposedLength('Radius'),
    height: proposedLength('Height'),
    ...SIDES,
    rings: rings('Rows of faces', 1),
    ends: choice('Ends closed by', ENDS, 'quads'),
    ...PLACE,
  }),
  run(mesh, _selection, p, ground) {
    const radius = sized(p.radius, p.about / 2, 'The radius'), height = sized(p.height, p.about, 'The height'); // prettier-ignore
    const round = roundOf(p, radius);
    const shape = make.cylinder({ ...round, radius, top: radius, height, rings: p.rings, ends: endsFor(p.ends, round.sides) }); // prettier-ignore
    return placeShape(mesh, shape, p, ground, `Cylinder, ${round.words}${oddWords(round.sides)}`, { ...round.counts, radius, height }); // prettier-ignore
  },
});

export const addCone = operator({
  name: 'cone',
  title: 'Cone',
  params: z.object({
    radius: proposedLength('Radius'),
    top: proposedLength('Radius above', 'None: a tip'),
    height: proposedLength('Height'),
    ...SIDES,
    rings: rings('Rows of faces', 2),
    ends: choice('Ends closed by', ENDS, 'quads'),
    ...PLACE,
  }),
  run(mesh, _selection, p, ground) {
    const radius = sized(p.radius, p.about / 2, 'The radius'), height = sized(p.height, p.about, 'The height'); // prettier-ignore
    const round = roundOf(p, radius);
    const top = Math.max(0, p.top ?? 0);
    const shape = make.cylinder({ ...round, radius, top, height, rings: p.rings, ends: endsFor(p.ends, round.sides) });
    return placeShape(mesh, shape, p, ground, `Cone, ${round.words}${oddWords(round.sides)}`, { ...round.counts, radius, top, height }); // prettier-ignore
  },
});

export const addTube = operator({
  name: 'tube',
  title: 'Tube',
  params: z.object({
    radius: proposedLength('Radius outside'),
    inner: proposedLength('Radius inside'),
    height: proposedLength('Height'),
    ...SIDES,
    rings: rings('Rows of faces', 1),
    ...PLACE,
  }),
  run(mesh, _selection, p, ground) {
    const radius = sized(p.radius, p.about / 2, 'The radius'), height = sized(p.height, p.about, 'The height'); // prettier-ignore
    const inner = sized(p.inner, radius * 0.8, 'The radius inside');
    if (inner >= radius) throw new TopologyError('BAD_SIZE', 'The radius inside must be less than the one outside.');
    const round = roundOf(p, radius);
    const shape = make.tube(radius, inner, height, { ...round, rings: p.rings });
    return placeShape(mesh, shape, p, ground, `Tube, ${round.words}, wall ${Number((radius - inner).toPrecision(4))}`, { ...round.counts, radius, inner, height }); // prettier-ignore
  },
});

export const addCapsule = operator({
  name: 'capsule',
  title: 'Capsule',
  params: z.object({
    radius: proposedLength('Radius'),
    height: proposedLength('Height', 'Of the whole'),
    ...SIDES,
    rings: rings('Rows of each half ball', 2),
    belts: rings('Rows between', 1),
    ends: choice('Ends closed by', ROUND_ENDS, 'quads'),
    ...PLACE,
  }),
  run(mesh, _selection, p, ground) {
    const radius = sized(p.radius, p.about / 2, 'The radius'), height = sized(p.height, p.about * 2, 'The height'); // prettier-ignore
    if (height < 2 * radius) throw new TopologyError('BAD_SIZE', 'A capsule is at least as high as it is wide.');
    const round = roundOf(p, radius);
    const shape = make.capsule(radius, height, { ...round, rings: p.rings, belts: p.belts, ends: endsFor(p.ends, round.sides) }); // prettier-ignore
    return placeShape(mesh, shape, p, ground, `Capsule, ${round.words}${oddWords(round.sides)}`, { ...round.counts, radius, height }); // prettier-ignore
  },
});

export const addTorus = operator({
  name: 'torus',
  title: 'Torus',
  params: z.object({
    radius: proposedLength('Radius', 'To the middle of the ring'),
    thickness: proposedLength('Thickness', 'Across the ring'),
    ...SIDES,
    around: count('Sides of the ring', { min: 3, max: 128, start: 8 }),
    ...PLACE,
  }),
  run(mesh, _selection, p, ground) {
    const radius = sized(p.radius, p.about / 2, 'The radius');
    const thickness = sized(p.thickness, radius / 2, 'The thickness');
    if (thickness >= 2 * radius) throw new TopologyError('BAD_SIZE', 'A ring thicker than twice its radius crosses itself.'); // prettier-ignore
    const round = roundOf(p, radius + thickness / 2);
    const shape = make.torus(radius, thickness / 2, { ...round, around: p.around });
    return placeShape(mesh, shape, p, ground, `Torus, ${round.words}, ${p.around} round the ring`, { ...round.counts, radius, thickness }); // prettier-ignore
  },
});

/** A ball without poles of many edges. */
export const addBall = operator({
  name: 'ball',
  title: 'Ball',
  params: z.object({ radius: proposedLength('Radius'), cells: count('Quads along a side', { min: 1, max: 128, start: 4 }), ...PLACE }), // prettier-ignore
  run(mesh, _selection, p, ground) {
    const radius = sized(p.radius, p.about / 2, 'The radius');
    return placeShape(mesh, make.ball(radius, p.cells), p, ground, `Ball of ${plural(p.cells, 'quad')} along each side`, { radius }); // prettier-ignore
  },
});

export const addRingedBall = operator({
  name: 'ball-by-rings',
  title: 'Ball by rings',
  params: z.object({
    radius: proposedLength('Radius'),
    ...SIDES,
    rings: count('Rows of faces', { min: 3, max: 128, start: 6 }),
    ends: choice('Ends closed by', ROUND_ENDS, 'fan'),
    ...PLACE,
  }),
  run(mesh, _selection, p, ground) {
    const radius = sized(p.radius, p.about / 2, 'The radius');
    const round = roundOf(p, radius);
    const shape = make.ringedBall(radius, { ...round, rings: p.rings, ends: endsFor(p.ends, round.sides) });
    return placeShape(mesh, shape, p, ground, `Ball by rings, ${round.words}${oddWords(round.sides)}`, { ...round.counts, radius }); // prettier-ignore
  },
});

export const addGeodesicBall = operator({
  name: 'geodesic-ball',
  title: 'Geodesic ball',
  params: z.object({ radius: proposedLength('Radius'), parts: count('Parts of each side', { min: 1, max: 64, start: 3 }), ...PLACE }), // prettier-ignore
  run(mesh, _selection, p, ground) {
    const radius = sized(p.radius, p.about / 2, 'The radius');
    return placeShape(mesh, make.geodesicBall(radius, p.parts), p, ground, `Geodesic ball of ${plural(20 * p.parts ** 2, 'triangle')}`, { radius }); // prettier-ignore
  },
});

export const SHAPES = [addBox, addSheet, addCylinder, addCone, addTube, addCapsule, addTorus, addBall, addRingedBall, addGeodesicBall]; // prettier-ignore
