import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { isOnPlane, ontoPlane, placementOf, planeDistance, SIGNED_AXES, type MirrorPlane, type Vec3, fromPlaced } from '../../math'; // prettier-ignore
import { addFace, addVertex, NONE, type PolyMesh } from '../../mesh';
import type { Shape } from '../../shapes';
import type { Ground } from '../ground';
import { plural, type Outcome } from '../operator';
import { choice, count, plain, Point, proposedLength, shownWhen, toggle } from '../params';
import { only } from '../picked';
import { sidesByOutline, sidesByWidth, widthOfSide } from '../../shapes';

/** Where a shape goes: what every one of them asks for besides its own sizes. */
export const PLACE = {
  /** its foot, file units */
  at: z._default(Point, [0, 0, 0]),
  up: z._default(z.enum(SIGNED_AXES), '+y'),
  /** the size that is proposed where none is given, file units */
  about: z._default(z.number().check(z.positive()), 2),
};

/** How many sides a round form has: a count, or what the count shall come from. */
export const SIDES = {
  sidesBy: choice('Sides', [['count', 'by count'], ['width', 'by face width'], ['outline', 'by outline error'], ['rhythm', 'by a rhythm']], 'count'), // prettier-ignore
  sides: shownWhen(count('How many', { min: 3, max: 512, start: 12 }), 'sidesBy', 'count'),
  sideWidth: shownWhen(proposedLength('Face width'), 'sidesBy', 'width'),
  outline: shownWhen(plain('Outline error, pixels', { min: 0.1, max: 20, start: 0.5, hint: 'At the size it is seen' }), 'sidesBy', 'outline'), // prettier-ignore
  take: shownWhen(count('Take', { min: 1, max: 64, start: 2 }), 'sidesBy', 'rhythm'),
  skip: shownWhen(count('Skip', { min: 0, max: 64, start: 1 }), 'sidesBy', 'rhythm'),
  times: shownWhen(count('Times', { min: 1, max: 256, start: 6 }), 'sidesBy', 'rhythm'),
  flat: toggle('A flat faces the front', false, 'Turned by half a side'),
  pixelsPerUnit: z._default(z.number().check(z.positive()), 40),
};
type Sides = z.infer<z.ZodMiniObject<typeof SIDES>>;

/** The sides asked for, the turn of the first point, and what is told about them. */
export function roundOf(
  p: Sides,
  radius: number,
): { sides: number; turn: number; words: string; counts: Record<string, number> } {
  const sides = Math.min(512, sidesOf(p, radius));
  const angle = 360 / sides;
  const width = widthOfSide(radius, sides);
  const words = `${plural(sides, 'side')} of ${Number(angle.toFixed(2))}° each`;
  return { sides, turn: p.flat ? Math.PI / sides : 0, words, counts: { sides, angle, sideWidth: width } };
}

function sidesOf(p: Sides, radius: number): number {
  switch (p.sidesBy) {
    case 'width':
      return p.sideWidth ? sidesByWidth(radius, p.sideWidth) : p.sides;
    case 'outline':
      return sidesByOutline(radius, p.outline / p.pixelsPerUnit);
    case 'rhythm':
      return Math.max(3, p.times * (p.take + p.skip));
    default:
      return p.sides;
  }
}

/** Said at once where an even count will be needed. */
export const oddWords = (sides: number): string =>
  sides % 2 === 1
    ? `; ${sides} is odd: its ends cannot be closed by quads alone, and no loop divides it in halves`
    : '';

/**
 * Puts a shape into the mesh, standing at `at` with its y axis along `up`. With symmetry on only the half on the plane's upper side is
 * kept, so that the shape is its own mirror image; refuses (OFF_MIDLINE) a shape with a face that would have to be cut there.
 */
export function placeShape(
  mesh: PolyMesh,
  shape: Shape,
  { at, up }: { at: Vec3; up: (typeof SIGNED_AXES)[number] },
  { plane }: Ground,
  words: string,
  counts: Record<string, number> = {},
): Outcome {
  const placement = placementOf(up, '+z', { min: [0, 0, 0], max: [0, 0, 0] }, false);
  const points = shape.points.map((p): Vec3 => {
    const q = fromPlaced(p, placement);
    return [q[0] + at[0], q[1] + at[1], q[2] + at[2]];
  });
  const faces = plane ? halfOf(shape.faces, points, plane) : shape.faces;
  const ids = new Array<number>(points.length).fill(NONE);
  const made = faces.map((face) => addFace(mesh, face.map((i) => (ids[i] === NONE ? (ids[i] = addVertex(mesh, points[i])) : ids[i])))); // prettier-ignore
  const half = faces.length < shape.faces.length ? ', half of it across the midline' : '';
  return {
    selection: only({ faces: made }),
    report: { sentence: `${words}; ${plural(made.length, 'face')}${half}`, counts: { faces: made.length, ...counts } },
  };
}

/** The faces on the upper side of the plane; points next to it go exactly onto it. Throws OFF_MIDLINE. */
function halfOf(faces: number[][], points: Vec3[], plane: MirrorPlane): number[][] {
  const size = points.reduce((most, p) => Math.max(most, Math.abs(planeDistance(p, plane))), 0);
  points.forEach((p, i) => Math.abs(planeDistance(p, plane)) < 1e-9 * size && (points[i] = ontoPlane(p, plane)));
  const sideOf = (i: number): number => (isOnPlane(points[i], plane) ? 0 : Math.sign(planeDistance(points[i], plane)));
  return faces.filter((face) => {
    const sides = face.map(sideOf);
    if (sides.includes(1) && sides.includes(-1))
      throw new TopologyError('OFF_MIDLINE', 'With symmetry on, this shape has faces across the midline: take an even count, turn it by half a side, or put it beside the midline.'); // prettier-ignore
    return !sides.includes(-1);
  });
}
