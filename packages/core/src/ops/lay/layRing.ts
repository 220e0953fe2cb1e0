import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { add, addScaled, cross, distance, dot, length, meanPoint, normalize, planeDistance, scale, sub, turned, type Vec3 } from '../../math'; // prettier-ignore
import { addEdge, addVertex, borderLoops, chainsOf, NONE, type PolyMesh } from '../../mesh';
import { isSeam, keptSide, onMidline, type Ground, type SectorGround } from '../ground';
import { operator, plural } from '../operator';
import { count, degrees, Point, proposedLength, toggle } from '../params';
import { only } from '../picked';
import { onAxis, seamOf } from '../solid/sectors';
import { bandBetween } from './band';
import { openingAt } from './openings';
import { evenly, sectionAt, turnOf, type RingPart, type RingSection } from './ringSection';
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

/** A ring of another count is joined where it is at most so many times as long, or as short. */
const ALIKE = 2;
/** A ring farther away than this many of its own lengths is on another limb. */
const NEAR = 1.5;

/**
 * Lays rings round a limb: where a plane cuts the form, in the loop nearest to a point, points evenly by length, begun where the ring before
 * begins; further ones follow the limb. Rings are joined by quads into a tube, to each other and to the
 * nearest open ring: by rows where it has as many points, by a band with poles where it has an even number more or fewer. Refuses (NO_WAY) where there is no surface, or its section does not close. Cost: the sections.
 */
export const layRing = operator({
  name: 'lay-ring',
  title: 'Ring',
  params: Params,
  run(mesh, _selection, p, ground) {
    const side = ground.plane ? (keptSide(mesh, ground.plane) ?? (planeDistance(p.at, ground.plane) < 0 ? -1 : 1)) : 1;
    const at = addScaled(p.at, p.normal, (p.slide ?? 0) / (length(p.normal) || 1));
    const asked = sectionAt(at, tilted(p), ground, { side, from: null });
    // with symmetry half a ring is laid, from midline to midline; with sectors one of its parts
    const edges = Math.max(1, Math.round(p.count / asked.parts));
    const found = p.joins ? ringBefore(mesh, asked, edges, ground) : null;
    const more = found ? edgesOf(found, asked.ends === null) - edges : 0;
    const isEqual = found !== null && more === 0;
    const before = isEqual || (!ground.sectors && more % 2 === 0) ? found : null;
    const from = before && partStart(mesh, before, asked, ground);
    const start = from ? sectionAt(at, tilted(p), ground, { side, from }) : asked;
    const sections = alongLimb(start, before && mesh.point(before[0]), p, edges, ground, { side, from: from ?? startOf(start, ground) }); // prettier-ignore
    const turn = before && orderBefore(mesh, before, sections[0].normal);
    const lines: number[][] = turn && isEqual ? [turn.ring] : [];
    let last = turn?.ring.map((v) => mesh.point(v)) ?? null;
    for (const section of sections) {
      const points = evenRing(section, edges, last, turn?.runsRight ?? false);
      lines.push(points.map((q) => addVertex(mesh, q)));
      last = points;
    }
    const like = (before ?? []).flatMap((v) => mesh.vertexHalves(v));
    const isClosed = start.ends === null;
    const band = turn && !isEqual ? (bandBetween(mesh, turn.ring, lines[0], isClosed, 1, like, ground) ?? []) : []; // prettier-ignore
    const faces = [...band, ...(lines.length > 1 ? rowsBetween(mesh, lines, isClosed, like) : [])];
    const end = lines[lines.length - 1];
    const pairs = end.slice(start.ends ? 1 : 0).map((v, i): [number, number] => start.ends ? [end[i], v] : [v, end[(i + 1) % edges]]); // prettier-ignore
    // a ring that nothing joins yet is a chain of edges
    if (lines.length === 1 && band.length === 0) for (const [u, v] of pairs) addEdge(mesh, u, v);
    const words = [
      laidWords(start, sections.length, edges),
      faces.length > 0 && plural(faces.length, 'quad'),
      before && (isEqual ? 'joined to the ring before' : `joined to the ring of ${edgesOf(before, isClosed)} before by a band with poles`), // prettier-ignore
      found && !before && `not joined to the ring of ${edgesOf(found, isClosed)} before: their counts are odd together`,
    ];
    return {
      selection: only({ edges: pairs.map(([u, v]) => mesh.findHalf(u, v) >> 1) }),
      report: {
        sentence: words.filter(Boolean).join(', '),
        counts: { rings: sections.length, faces: faces.length, round: start.path.length, step: p.step ?? start.path.length / edges }, // prettier-ignore
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

const laidWords = ({ parts }: RingSection, rings: number, edges: number): string =>
  parts <= 2
    ? `${plural(rings, parts === 2 ? 'half ring' : 'ring')} of ${edges} laid`
    : `${plural(rings, 'ring')} of ${edges * parts} laid, one sector of ${parts}`;

/** Where the part of a ring that a sector has begins, seen from the axis; null without sectors. */
const startOf = ({ ends }: RingSection, { sectors }: Ground): Vec3 | null =>
  sectors && ends ? sub(ends[0], onAxis(sectors.sectors, ends[0])) : null;

/** The same for the ring before, whose first point may be either end. */
function partStart(
  mesh: PolyMesh,
  before: readonly number[],
  { normal, ends }: RingSection,
  { sectors }: Ground,
): Vec3 | null {
  if (!sectors || !ends) return null;
  const points = before.map((v) => mesh.point(v));
  const first = turnOf(points, normal) > 0 ? points[0] : points[points.length - 1];
  return sub(first, onAxis(sectors.sectors, first));
}

/** The first section and those after it, away from the ring before; each plane faces as the limb goes on. */
function alongLimb(
  start: RingSection,
  before: Vec3 | null,
  p: Params,
  edges: number,
  ground: Ground,
  part: RingPart,
): RingSection[] {
  const isBack = before !== null && dot(sub(start.centre, before), start.normal) < 0;
  const first = isBack ? sectionAt(start.path.at(0).point, scale(start.normal, -1), ground, backwards(part, start, ground)) : start; // prettier-ignore
  const on = isBack ? backwards(part, start, ground) : part;
  const found = [first];
  const step = p.step ?? first.path.length / edges;
  while (found.length < p.repeat) {
    const here = found[found.length - 1];
    const guess = sectionAt(addScaled(here.centre, here.normal, step), here.normal, ground, on);
    const way = normalize(sub(guess.centre, here.centre));
    const normal = normalize(add(way, here.normal));
    found.push(sectionAt(addScaled(here.centre, way, step), normal, ground, on));
  }
  return found;
}

/** A sector's part seen from the other side begins where it ended. */
const backwards = (part: RingPart, { ends }: RingSection, { sectors }: Ground): RingPart =>
  sectors && ends ? { ...part, from: sub(ends[1], onAxis(sectors.sectors, ends[1])) } : part;

/** Points evenly round a section, begun where they lie nearest to those of the ring before, and run as it runs. */
function evenRing({ path, ends }: RingSection, n: number, before: readonly Vec3[] | null, runsRight: boolean): Vec3[] {
  const run = (points: Vec3[]): Vec3[] => (runsRight ? points.reverse() : points);
  if (ends) return run(Array.from({ length: n + 1 }, (_, i) => (i === 0 ? ends[0] : i === n ? ends[1] : path.at((path.length * i) / n).point))); // prettier-ignore
  const at = (from: number): Vec3[] => run(evenly(path, n, from));
  if (!before) return at(0);
  const off = (from: number): number =>
    at(from).reduce((sum, q, i) => sum + distance(q, before[Math.round((i * before.length) / n) % before.length]), 0);
  const best = (starts: number[]): number => starts.reduce((a, b) => (off(b) < off(a) ? b : a));
  const coarse = best(Array.from({ length: n }, (_, k) => (path.length * k) / n));
  return at(best(Array.from({ length: 17 }, (_, k) => coarse + ((k - 8) / 16) * (path.length / n))));
}

/** The open ring nearest to a section, if it is on the same limb: its vertices, the open side on their left. */
function ringBefore(mesh: PolyMesh, section: RingSection, n: number, ground: Ground): number[] | null {
  const { path, centre, parts, ends } = section;
  const whole = (): number[][] => [...borderLoops(mesh).map(({ halves }) => halves), ...looseLoops(mesh)].map((halves) => halves.map((h) => mesh.origin(h))); // prettier-ignore
  const rings = !ends ? whole() : ground.sectors ? sectorRings(mesh, n, ground.sectors) : halfRings(mesh, ground);
  let best: number[] | null = null,
    least = (NEAR * path.length * parts) / Math.PI;
  for (const own of rings) {
    const points = own.map((v) => mesh.point(v));
    const far = distance(meanPoint(points), centre);
    if (far < least && (edgesOf(own, !ends) === n || goesRound(points, section))) [best, least] = [own, far];
  }
  return best;
}

/** Whether a border goes round the same limb as a section does: about as long, and one over the other. An eye beside a limb does not. */
function goesRound(points: readonly Vec3[], { path, centre, normal, ends }: RingSection): boolean {
  const length = points.reduce((sum, q, i) => sum + (i > 0 || !ends ? distance(q, points[(i + points.length - 1) % points.length]) : 0), 0); // prettier-ignore
  const off = sub(meanPoint(points), centre);
  const beside = addScaled(off, normal, -dot(off, normal) / (dot(normal, normal) || 1));
  return length > path.length / ALIKE && length < ALIKE * path.length && Math.hypot(...beside) < path.length / 16;
}
const edgesOf = (ring: readonly number[], isClosed: boolean): number => ring.length - (isClosed ? 0 : 1);

/** Runs of so many open edges whose last point is the image of the first in a sector beside, the open side on their left. */
function sectorRings(mesh: PolyMesh, n: number, { sectors, within }: SectorGround): number[][] {
  const pairs = seamOf(mesh, sectors, within).pairs;
  const onto = new Map(pairs.flatMap(([v, w]): [number, number][] => [[v, w], [w, v]])); // prettier-ignore
  const found: number[][] = [];
  for (const e of mesh.edges())
    for (const h of [2 * e, 2 * e + 1]) {
      if (mesh.face(h) !== NONE || !onto.has(mesh.origin(h))) continue;
      const run = [mesh.origin(h)];
      for (let g = h; run.length <= n; g = mesh.next(g)) run.push(mesh.target(g));
      if (onto.get(run[0]) === run[n] && new Set(run).size === run.length) found.push(run);
    }
  return found;
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
