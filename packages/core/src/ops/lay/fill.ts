import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { fillLed, type Lead, type LedFilling, type Onto } from '../../fill';
import { distance, lerp, type Vec3 } from '../../math';
import { addFace, addVertex, between, edgeRing, NONE, Rebuild, type PolyMesh, type Selection } from '../../mesh';
import type { Ground } from '../ground';
import { insertLoops } from '../loops/insertLoops';
import { operator, plural } from '../operator';
import { choice, count, degrees, plain } from '../params';
import { only, pickedEdges } from '../picked';
import { carryFrom } from './carry';
import { leadsOfForm, leadsOfRegions } from './leads';
import { cornersOf, midlineCount, midlinePoints, openingAt, type Opening } from './openings';

const Params = z.object({
  way: count('Which way', { min: 1, max: 12, start: 1 }),
  slide: plain('Poles further along', { min: -1, max: 1, start: 0 }),
  angle: degrees('Corners from', { min: 10, max: 120, start: 40 }),
  odd: choice('An odd border', [['refuse', 'say so'], ['loop', 'insert a loop'], ['split', 'split its longest edge']], 'refuse'), // prettier-ignore
});
type Params = z.infer<typeof Params>;

/** The ways that a person can step through. */
const MOST_WAYS = 6;
/** Longer borders than this are refused: most ways are cells of some hundred quads. */
const LONGEST = 400;

/**
 * Closes the opening that a picked edge belongs to with quads: two to six sides, corners where the border turns or at picked points, in the
 * way with the fewest irregular points, or another one; poles slid along. Points lie on the form. Refuses (COUNTS_DIFFER) an odd border, or
 * makes it even by the loop across the shortest strip, or by splitting its longest edge. With symmetry half an opening
 * goes on along the midline. Cost: the quads, some 100 rounds of placing.
 */
export const fill = operator({
  name: 'fill',
  title: 'Fill',
  params: Params,
  run(mesh, selection, p, ground) {
    const { opening, repair } = evenOpening(mesh, selection, p.odd, ground);
    const { border, corners, along } = borderOf(mesh, opening, selection, p.angle, ground);
    const leads = leadsAcross(mesh, opening, border, ground);
    const ways = fillLed(border, corners, leads, ontoForm(ground), p.way === 1 ? 1 : MOST_WAYS, p.slide);
    const way = ways[Math.min(p.way, ways.length) - 1] as LedFilling | undefined;
    if (!way) throw new TopologyError('NO_WAY', 'This border cannot be filled with quads; pick other corners.', { vertices: opening.vertices }); // prettier-ignore
    const faces = laid(mesh, opening, along, way);
    const follows = leads.length > 0 ? ` along ${wordsOf(way.followed, leads.length)}` : '';
    return {
      selection: only({ faces }),
      report: {
        sentence: `${repair}Filled with ${plural(faces.length, 'quad')}${follows}: ${planWords(way)}`,
        counts: { faces: faces.length, irregular: way.irregular, sides: corners.length, quality: Math.min(...way.parts.map((part) => part.way.least)), followed: way.followed }, // prettier-ignore
      },
    };
  },
});

/** The ways to fill the opening at an edge, in words; and its counts a side. Throws what the operator refuses. */
export function waysToFill(
  mesh: PolyMesh,
  selection: Selection,
  angle: number,
  ground: Ground,
): { ways: string[]; sides: number[] } {
  const opening = openingAt(mesh, pickedEdges(mesh, selection)[0], ground);
  const { border, corners } = borderOf(mesh, opening, selection, angle, ground);
  const sides = corners.map((c, i) => (((corners[(i + 1) % corners.length] - c) % border.length) + border.length) % border.length || border.length); // prettier-ignore
  const ways = fillLed(border, corners, leadsAcross(mesh, opening, border, ground), null, MOST_WAYS);
  return { ways: ways.map((way) => `${planWords(way)}: ${plural(way.irregular, 'irregular point')}`), sides };
}

/** The lines that the filling keeps to: borders of the form's regions, or where it has none there, of the low-poly's. */
function leadsAcross(mesh: PolyMesh, opening: Opening, border: readonly Vec3[], { form }: Ground): Lead[] {
  const drawn = form ? leadsOfForm(border, form) : [];
  return drawn.length > 0 ? drawn : leadsOfRegions(mesh, opening, border, form);
}
const wordsOf = (followed: number, all: number): string =>
  followed === all ? plural(all, 'region border') : `${followed} of ${plural(all, 'region border')}`;

const planWords = ({ parts }: LedFilling): string => [...new Set(parts.map(({ way }) => way.plan.words))].join(' · ');

const ontoForm = ({ form }: Ground): Onto | null => form && ((q, key) => form.closest(q, FRESH + key).point);
/** Points that are not yet vertices are asked for by numbers that no vertex has. */
const FRESH = 1e9;

/** The points of the whole border in order, where its sides begin, and the points that lie along the midline. */
function borderOf(
  mesh: PolyMesh,
  opening: Opening,
  selection: Selection,
  angle: number,
  ground: Ground,
): { border: Vec3[]; corners: number[]; along: Vec3[] } {
  const own = opening.vertices.map((v) => mesh.point(v));
  const along = opening.half ? midlinePoints(mesh, opening, midlineCount(mesh, opening), ground) : [];
  const border = [...own, ...along];
  const fixed = opening.half ? [0, own.length - 1] : [];
  return { border, along, corners: cornersOf(border, opening.vertices, selection, angle, fixed) };
}

function evenOpening(
  mesh: PolyMesh,
  selection: Selection,
  odd: Params['odd'],
  ground: Ground,
): { opening: Opening; repair: string } {
  const [edge] = pickedEdges(mesh, selection, 'Pick an edge of the opening that shall be closed.');
  const opening = openingAt(mesh, edge, ground);
  const n = opening.halves.length;
  if (n > LONGEST) throw new TopologyError('TOO_MANY_FACES', `This border has ${n} edges; up to ${LONGEST} can be filled at once. Bridge it into smaller openings first.`); // prettier-ignore
  if (opening.half || n % 2 === 0) {
    if (n < 3 && !opening.half) throw new TopologyError('TOO_FEW_CORNERS', 'An opening needs at least four edges to be filled with quads.'); // prettier-ignore
    return { opening, repair: '' };
  }
  const long = opening.halves.reduce((a, b) => (spanOf(mesh, b) > spanOf(mesh, a) ? b : a));
  if (odd === 'refuse')
    throw new TopologyError('COUNTS_DIFFER', `This border has ${n} edges, and an odd one has no fill of quads: insert a loop across it, split its longest edge, or weld two of its points.`, { edges: [long >> 1] }); // prettier-ignore
  const anchor = odd === 'loop' ? withLoop(mesh, opening, ground) : withSplit(mesh, long);
  const again = openingAt(mesh, anchor, ground);
  if (again.halves.length % 2 !== 0)
    throw new TopologyError('COUNTS_DIFFER', 'The loop across this border meets it twice, so that it stays odd; split its longest edge instead.'); // prettier-ignore
  return { opening: again, repair: odd === 'loop' ? 'A loop inserted. ' : 'Its longest edge split. ' };
}

const spanOf = (mesh: PolyMesh, h: number): number => distance(mesh.point(mesh.origin(h)), mesh.point(mesh.target(h)));

/** Inserts a loop across the shortest strip that begins at the border and does not come back to it; an edge of the border that is left alone. */
function withLoop(mesh: PolyMesh, { halves }: Opening, ground: Ground): number {
  const own = new Set(halves.map((h) => h >> 1));
  const strips = halves
    .map((h) => ({ h, ring: edgeRing(mesh, h).halves }))
    .filter(({ h, ring }) => mesh.face(h ^ 1) !== NONE && ring.filter((g) => own.has(g >> 1)).length === 1)
    .sort((a, b) => a.ring.length - b.ring.length);
  if (strips.length === 0)
    throw new TopologyError('COUNTS_DIFFER', 'Every loop across this border comes back to it, so that it stays odd; split its longest edge instead.'); // prettier-ignore
  const [{ h, ring }] = strips;
  insertLoops.run(mesh, only({ edges: [h >> 1] }), insertLoops.params.parse({}), ground);
  const touched = new Set(ring.map((g) => g >> 1));
  return (halves.find((g) => g !== h && !touched.has(g >> 1)) as number) >> 1;
}

/** Puts a point in the middle of a border edge; the face beside gets a corner more. Returns the edge to one side of it. */
function withSplit(mesh: PolyMesh, h: number): number {
  const [u, v] = [mesh.origin(h), mesh.target(h)];
  const f = mesh.face(h ^ 1);
  if (f === NONE) throw new TopologyError('NO_WAY', 'This edge has no face beside it; draw the border anew with one point more.'); // prettier-ignore
  const rebuild = new Rebuild(mesh, []);
  const middle = rebuild.vertex(lerp(mesh.point(u), mesh.point(v), 0.5), between(u, v, 0.5));
  const corners = mesh.faceVertices(f).flatMap((w) => (w === v ? [v, middle] : [w]));
  rebuild.takeOut(f);
  rebuild.face(corners, f);
  rebuild.finish();
  return mesh.findHalf(u, middle) >> 1;
}

/** The quads of a filling put into the mesh; attributes come from the faces beside, in each part from those along its own border. */
function laid(
  mesh: PolyMesh,
  { vertices, halves }: Opening,
  along: readonly Vec3[],
  { points, parts }: LedFilling,
): number[] {
  const ids = [...vertices, ...along.map((q) => addVertex(mesh, q))];
  const all = carryFrom(mesh, halves.map((h) => h ^ 1)); // prettier-ignore
  for (let i = ids.length; i < points.length; i++) ids.push(all.vertex(points[i]));
  return parts.flatMap(({ quads, loop }) => {
    const own = parts.length > 1 ? halves.filter((_, i) => runsIn(loop, i, (i + 1) % vertices.length)) : halves;
    const carry = own.length === 0 || own.length === halves.length ? all : carryFrom(mesh, own.map((h) => h ^ 1)); // prettier-ignore
    return quads.map((quad) => carry.face(addFace(mesh, quad.map((i) => ids[i])))); // prettier-ignore
  });
}
const runsIn = (loop: readonly number[], u: number, v: number): boolean => {
  const i = loop.indexOf(u);
  return i >= 0 && loop[(i + 1) % loop.length] === v;
};
