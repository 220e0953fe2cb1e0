import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { add, addScaled, axisVector, cross, distance, dot, length, lerp, meanPoint, normalize, ontoPlane, pathThrough, planeDistance, scale, sub, turned, type MirrorPlane, type Path, type Vec3 } from '../../math'; // prettier-ignore
import { addEdge, addVertex, borderLoops, chainsOf, type PolyMesh } from '../../mesh';
import { isSeam, keptSide, onMidline, type Ground } from '../ground';
import { operator, plural } from '../operator';
import { count, degrees, Point, proposedLength, toggle } from '../params';
import { only } from '../picked';
import { openingAt } from './openings';
import { rowsBetween } from './strips';

const Params = z.object({
  count: count('Points round it', { min: 3, max: 256, start: 8 }),
  repeat: count('How many rings', { min: 1, max: 128, start: 1 }),
  step: proposedLength('Step along the limb', 'From one ring to the next; empty: as wide as its quads are'),
  slide: proposedLength('Slid along it'),
  tilt: degrees('Tilted', { min: -80, max: 80, start: 0 }),
  lean: degrees('Leaning', { min: -80, max: 80, start: 0 }),
  joins: toggle('Joined to the ring before', true, 'Quads from the last ring on the same limb'),
  /** a point on the limb, and the way that the first ring's plane faces */
  at: Point,
  normal: Point,
});
type Params = z.infer<typeof Params>;

/** A ring farther away than this many of its own lengths is on another limb. */
const NEAR = 1.5;

/**
 * Lays rings round a limb: where a plane cuts the form, in the loop nearest to a point, points evenly by length, begun where the ring before
 * begins; further ones follow the limb. Rings are joined by quads into a tube, to each other and to the open ring of the
 * same count that is nearest. Refuses (NO_WAY) where there is no surface, or its section does not close. Cost: the sections.
 */
export const layRing = operator({
  name: 'lay-ring',
  title: 'Ring',
  params: Params,
  run(mesh, _selection, p, ground) {
    const side = ground.plane ? (keptSide(mesh, ground.plane) ?? (planeDistance(p.at, ground.plane) < 0 ? -1 : 1)) : 1;
    const start = sectionAt(
      addScaled(p.at, p.normal, (p.slide ?? 0) / (length(p.normal) || 1)),
      tilted(p),
      ground,
      side,
    );
    // with symmetry half a ring is laid, from midline to midline
    const edges = start.half ? Math.max(1, Math.round(p.count / 2)) : p.count;
    const before = p.joins ? ringBefore(mesh, start, edges, ground) : null;
    const sections = alongLimb(start, before && mesh.point(before[0]), p, ground, side);
    const turn = before && orderBefore(mesh, before, sections[0].normal);
    const lines: number[][] = turn ? [turn.ring] : [];
    let last = turn?.ring.map((v) => mesh.point(v)) ?? null;
    for (const section of sections) {
      const points = evenRing(section, edges, last, turn?.runsRight ?? false);
      lines.push(points.map((q) => addVertex(mesh, q)));
      last = points;
    }
    const like = (before ?? []).flatMap((v) => mesh.vertexHalves(v));
    const faces = lines.length > 1 ? rowsBetween(mesh, lines, start.half === null, like) : [];
    const end = lines[lines.length - 1];
    const pairs = end.slice(start.half ? 1 : 0).map((v, i): [number, number] => start.half ? [end[i], v] : [v, end[(i + 1) % edges]]); // prettier-ignore
    // a ring that nothing joins yet is a chain of edges
    if (lines.length === 1) for (const [u, v] of pairs) addEdge(mesh, u, v);
    const words = [
      `${plural(sections.length, start.half ? 'half ring' : 'ring')} of ${edges} laid`,
      faces.length > 0 && plural(faces.length, 'quad'),
      before && 'joined to the ring before',
    ];
    return {
      selection: only({ edges: pairs.map(([u, v]) => mesh.findHalf(u, v) >> 1) }),
      report: {
        sentence: words.filter(Boolean).join(', '),
        counts: { rings: sections.length, faces: faces.length, round: start.path.length, step: p.step ?? start.path.length / p.count }, // prettier-ignore
      },
    };
  },
});

function tilted({ normal, tilt, lean }: Params): Vec3 {
  const n = normalize(normal);
  const side = normalize(cross(n, Math.abs(n[1]) < 0.9 ? [0, 1, 0] : [1, 0, 0]));
  const once = turned(n, [0, 0, 0], side, (tilt * Math.PI) / 180);
  return turned(once, [0, 0, 0], cross(once, side), (lean * Math.PI) / 180);
}

/** A closed line round a limb, run counter-clockwise seen against the way that the rings go. */
interface RingSection {
  path: Path;
  centre: Vec3;
  normal: Vec3;
  /** its ends, exactly in the midline, where the mirrored half has the rest; null where it closes */
  half: readonly [Vec3, Vec3] | null;
}

function sectionAt(at: Vec3, normal: Vec3, ground: Ground, side: number): RingSection {
  const { plane } = ground;
  const whole = loopAt(at, normal, ground);
  const crosses = plane !== null && whole.some((q) => planeDistance(q, plane) > 0) && whole.some((q) => planeDistance(q, plane) < 0); // prettier-ignore
  if (!plane || !crosses) return sectionOf(whole, true, normal);
  // square to the mirror, so that both halves are one ring
  const flat = normalize(sub(normal, scale(axisVector(`+${plane.axis}`), dot(normal, axisVector(`+${plane.axis}`)))));
  if (length(flat) === 0) throw new TopologyError('OFF_MIDLINE', 'This ring would lie in the mirror itself; draw across the limb.'); // prettier-ignore
  return sectionOf(halfOf(loopAt(at, flat, ground), plane, side), false, flat);
}

/** The loop nearest to a point, counter-clockwise seen against the limb's direction. */
function loopAt(at: Vec3, normal: Vec3, { form }: Ground): Vec3[] {
  if (!form?.section)
    throw new TopologyError('NO_WAY', 'Rings are laid round a sculpt, a guide body or another piece; choose what points stick to.'); // prettier-ignore
  const section = form.section(at, normal);
  if (!section) throw new TopologyError('NO_WAY', 'The surface ends here: there is nothing to lay a ring round.');
  if (!section.closed)
    throw new TopologyError('NO_WAY', 'The surface is open here, so the ring does not close; draw a row along it instead.'); // prettier-ignore
  return leftTurning(section.points, normal);
}

function sectionOf(points: readonly Vec3[], closed: boolean, normal: Vec3): RingSection {
  const path = pathThrough(points, closed);
  if (!path) throw new TopologyError('NO_WAY', 'The surface is too thin here for a ring.');
  return {
    path,
    centre: meanPoint(evenly(path, 32)),
    normal,
    half: closed ? null : [points[0], points[points.length - 1]],
  };
}

/** The longest stretch of a loop on one side of the mirror, its ends exactly in it. */
function halfOf(loop: readonly Vec3[], plane: MirrorPlane, side: number): Vec3[] {
  const n = loop.length;
  const isOn = (p: Vec3): boolean => planeDistance(p, plane) * side > 0;
  let best: Vec3[] = [];
  for (let i = 0; i < n; i++) {
    if (isOn(loop[i]) || !isOn(loop[(i + 1) % n])) continue;
    const run = [crossingOf(loop[i], loop[(i + 1) % n], plane)];
    let k = i + 1;
    for (; isOn(loop[k % n]); k++) run.push(loop[k % n]);
    run.push(crossingOf(loop[(k + n - 1) % n], loop[k % n], plane));
    if (run.length > best.length) best = run;
  }
  return best;
}
function crossingOf(a: Vec3, b: Vec3, plane: MirrorPlane): Vec3 {
  const [da, db] = [planeDistance(a, plane), planeDistance(b, plane)];
  return ontoPlane(lerp(a, b, da === db ? 0.5 : da / (da - db)), plane);
}

const evenly = (path: Path, n: number, from = 0): Vec3[] =>
  Array.from({ length: n }, (_, i) => path.at(from + (path.length * i) / n).point);

/** Which way round a loop runs, seen against a direction: positive for counter-clockwise. */
function turnOf(points: readonly Vec3[], normal: Vec3): number {
  let sum: Vec3 = [0, 0, 0];
  for (let i = 1; i + 1 < points.length; i++) sum = add(sum, cross(sub(points[i], points[0]), sub(points[i + 1], points[0]))); // prettier-ignore
  return dot(sum, normal);
}
const leftTurning = (points: readonly Vec3[], normal: Vec3): Vec3[] =>
  turnOf(points, normal) > 0 ? [...points] : [...points].reverse();

/** The first section and those after it, away from the ring before; each plane faces as the limb goes on. */
function alongLimb(start: RingSection, before: Vec3 | null, p: Params, ground: Ground, side: number): RingSection[] {
  const isBack = before !== null && dot(sub(start.centre, before), start.normal) < 0;
  const first = isBack ? sectionAt(start.path.at(0).point, scale(start.normal, -1), ground, side) : start;
  const found = [first];
  const step = p.step ?? first.path.length / p.count;
  while (found.length < p.repeat) {
    const here = found[found.length - 1];
    const guess = sectionAt(addScaled(here.centre, here.normal, step), here.normal, ground, side);
    const way = normalize(sub(guess.centre, here.centre));
    const normal = normalize(add(way, here.normal));
    found.push(sectionAt(addScaled(here.centre, way, step), normal, ground, side));
  }
  return found;
}

/** Points evenly round a section, begun where they lie nearest to those of the ring before, and run as it runs. */
function evenRing({ path, half }: RingSection, n: number, before: readonly Vec3[] | null, runsRight: boolean): Vec3[] {
  const run = (points: Vec3[]): Vec3[] => (runsRight ? points.reverse() : points);
  if (half) return run(Array.from({ length: n + 1 }, (_, i) => (i === 0 ? half[0] : i === n ? half[1] : path.at((path.length * i) / n).point))); // prettier-ignore
  const at = (from: number): Vec3[] => run(evenly(path, n, from));
  if (!before) return at(0);
  const off = (from: number): number => at(from).reduce((sum, q, i) => sum + distance(q, before[i]), 0);
  const best = (starts: number[]): number => starts.reduce((a, b) => (off(b) < off(a) ? b : a));
  const coarse = best(Array.from({ length: n }, (_, k) => (path.length * k) / n));
  return at(best(Array.from({ length: 17 }, (_, k) => coarse + ((k - 8) / 16) * (path.length / n))));
}

/** The open ring of a count nearest to a section, if it is on the same limb: its vertices, the open side on their left. */
function ringBefore(mesh: PolyMesh, { path, centre, half }: RingSection, n: number, ground: Ground): number[] | null {
  const rings = half ? halfRings(mesh, ground) : [...borderLoops(mesh).map(({ halves }) => halves), ...looseLoops(mesh)].map((halves) => halves.map((h) => mesh.origin(h))); // prettier-ignore
  let best: number[] | null = null,
    least = (NEAR * path.length * (half ? 2 : 1)) / Math.PI;
  for (const own of rings) {
    if (own.length !== n + (half ? 1 : 0)) continue;
    const far = distance(meanPoint(own.map((v) => mesh.point(v))), centre);
    if (far < least) [best, least] = [own, far];
  }
  return best;
}

/** Open runs from midline to midline: of borders, and of edges without faces. */
function halfRings(mesh: PolyMesh, ground: Ground): number[][] {
  const found: number[][] = [];
  const seen = new Set<number>();
  for (const e of mesh.edges()) {
    if (seen.has(e) || !mesh.isBorderEdge(e) || mesh.isLooseEdge(e) || isSeam(mesh, 2 * e, ground)) continue;
    try {
      const { vertices, halves, half } = openingAt(mesh, e, ground);
      for (const h of halves) seen.add(h >> 1);
      if (half) found.push(vertices);
    } catch (error) {
      // a border that cannot be filled is no ring either
      if (!(error instanceof TopologyError)) throw error;
      seen.add(e);
    }
  }
  const loose = chainsOf(mesh, [...mesh.edges()].filter((e) => mesh.isLooseEdge(e))); // prettier-ignore
  const ends = (vertices: readonly number[]): number[] => [vertices[0], vertices[vertices.length - 1]];
  for (const { vertices, closed } of loose)
    if (!closed && ends(vertices).every((v) => onMidline(mesh, v, ground))) found.push(vertices);
  return found;
}

/** Loose edges that close. */
function looseLoops(mesh: PolyMesh): number[][] {
  const seen = new Set<number>();
  const found: number[][] = [];
  for (const e of mesh.edges()) {
    if (!mesh.isLooseEdge(e) || seen.has(e)) continue;
    const halves: number[] = [];
    for (let h = 2 * e; !seen.has(h >> 1) && mesh.isLooseEdge(h >> 1); h = mesh.next(h)) {
      seen.add(h >> 1);
      halves.push(h);
    }
    const last = halves[halves.length - 1];
    if (halves.length > 2 && mesh.target(last) === mesh.origin(halves[0])) found.push(halves);
  }
  return found;
}

/** The ring before as the next one must run; a ring without faces may be run either way, so that the quads look outward. */
function orderBefore(mesh: PolyMesh, ring: readonly number[], normal: Vec3): { ring: number[]; runsRight: boolean } {
  const left = turnOf(ring.map((v) => mesh.point(v)), normal) > 0; // prettier-ignore
  if (left) return { ring: [...ring], runsRight: false };
  const isLoose = mesh.vertexFaces(ring[0]).length === 0;
  return isLoose ? { ring: [...ring].reverse(), runsRight: false } : { ring: [...ring], runsRight: true };
}
