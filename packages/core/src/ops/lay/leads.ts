import { areaNormal, NONE, type PolyMesh } from '../../mesh';
import { addScaled, cross, distance, dot, lerp, meanPoint, normalize, sub, type Vec3 } from '../../math';
import type { Lead } from '../../fill';
import type { Form } from '../ground';
import type { Opening } from './openings';

/** A line crosses a border edge where it passes no further off the surface than this share of the edge's length. */
const HEIGHT = 0.5;
/** A line that keeps nearer to the border than this share of an edge has nothing to lead inside it. */
const INSIDE = 0.6;

interface Crossing {
  /** where along the line: the segment and the share of it */
  at: number;
  enters: boolean;
  vertex: number;
}

/**
 * Where the lines of the form run through a closed border (its inside on the left): from the border point nearest to where each comes in to the one where it leaves, and
 * those that close inside. Cost: the lines' points times the border's.
 */
export function leadsOfForm(border: readonly Vec3[], form: Form): Lead[] {
  const edge = border.reduce((sum, p, i) => sum + distance(p, border[(i + 1) % border.length]), 0) / border.length;
  const isWithin = insideOf(border);
  const near = sidesNear(border, form);
  return (form.lines?.lines ?? []).flatMap(({ points, closed }): Lead[] => {
    const crossings = crossingsOf(near, border.length, points, closed);
    if (crossings.length === 0) {
      const isLong = points.length * distance(points[0], points[1]) > edge;
      return closed && isLong && points.every(isWithin) ? [{ from: 0, to: 0, line: turnedLeft(points, border) }] : [];
    }
    const leads = crossings.flatMap((start, i): Lead[] => {
      const end = crossings[(i + 1) % crossings.length];
      if (!start.enters || end.enters || (i + 1 === crossings.length && !closed)) return [];
      return [{ from: start.vertex, to: end.vertex, line: stretch(points, start.at, end.at) }];
    });
    const far = (p: Vec3): number => Math.min(...border.map((q) => distance(p, q)));
    return leads.filter(({ from, to, line }) => from !== to && line.some((p) => far(p) > INSIDE * edge));
  });
}

/** An edge of the border that some line of the form comes near. */
interface NearSide {
  i: number;
  a: Vec3;
  d: Vec3;
  length: number;
  middle: Vec3;
  normal: Vec3;
  inwards: Vec3;
}
function sidesNear(border: readonly Vec3[], form: Form): NearSide[] {
  return border.flatMap((a, i): NearSide[] => {
    const b = border[(i + 1) % border.length];
    const middle = lerp(a, b, 0.5);
    const length = distance(a, b);
    if (!form.lines?.nearest(middle, length)) return [];
    const d = sub(b, a);
    const { normal } = form.closest(middle);
    return [{ i, a, d, length, middle, normal, inwards: normalize(cross(normal, d)) }];
  });
}

function crossingsOf(near: readonly NearSide[], n: number, points: readonly Vec3[], closed: boolean): Crossing[] {
  const found: Crossing[] = [];
  for (const { i, a, d, length, middle, normal, inwards } of near)
    for (let k = 0; k + (closed ? 0 : 1) < points.length; k++) {
      const [p, q] = [points[k], points[(k + 1) % points.length]];
      if (distance(p, middle) > length + distance(p, q)) continue;
      const [sp, sq] = [dot(sub(p, a), inwards), dot(sub(q, a), inwards)];
      if (sp < 0 === sq < 0) continue;
      const t = sp / (sp - sq);
      const off = sub(lerp(p, q, t), a);
      const u = dot(off, d) / length ** 2;
      if (u < 0 || u >= 1 || Math.abs(dot(off, normal)) > HEIGHT * length) continue;
      found.push({ at: k + t, enters: sq >= 0, vertex: u < 0.5 ? i : (i + 1) % n });
    }
  return found.sort((x, y) => x.at - y.at);
}

/** The points of a line between two places in it, on over its end where the second comes before the first. */
function stretch(points: readonly Vec3[], from: number, to: number): Vec3[] {
  const n = points.length;
  const last = to > from ? to : to + n;
  const line: Vec3[] = [];
  for (let k = Math.floor(from) + 1; k <= last; k++) line.push(points[k % n]);
  return line;
}

/** Whether a point lies over the inside of a border, seen along its normal, and not far from it. */
function insideOf(border: readonly Vec3[]): (p: Vec3) => boolean {
  const normal = normalize(areaNormal(border));
  const centre = meanPoint(border);
  const reach = Math.max(...border.map((q) => distance(q, centre)));
  const first = normalize(sub(border[0], centre));
  const x = normalize(addScaled(first, normal, -dot(first, normal)));
  const y = cross(normal, x);
  const flat = (p: Vec3): [number, number] => [dot(sub(p, centre), x), dot(sub(p, centre), y)];
  const outline = border.map(flat);
  return (p) => {
    if (Math.abs(dot(sub(p, centre), normal)) > reach) return false;
    const [u, v] = flat(p);
    let isIn = false;
    outline.forEach(([au, av], i) => {
      const [bu, bv] = outline[(i + 1) % outline.length];
      if (av > v !== bv > v && u < au + ((v - av) / (bv - av)) * (bu - au)) isIn = !isIn;
    });
    return isIn;
  };
}

/** A closed line in the sense of a border. */
const turnedLeft = (points: readonly Vec3[], border: readonly Vec3[]): Vec3[] =>
  dot(areaNormal(points), areaNormal(border)) > 0 ? [...points] : [...points].reverse();

/**
 * Where the faces round an opening change their region: from one such point of the border to the other, so that the border between the regions goes on across it. The
 * longest run of one region keeps the opening, the others are cut off it. Cost: the border.
 */
export function leadsOfRegions(
  mesh: PolyMesh,
  { halves, half }: Opening,
  border: readonly Vec3[],
  form: Form | null,
): Lead[] {
  const column = mesh.findChannel('face', 'region');
  if (!column) return [];
  const regions = halves.map((h) => (mesh.face(h ^ 1) === NONE ? 0 : column.data[mesh.face(h ^ 1)]));
  const changes = regions.flatMap((r, i) => (i > 0 || !half) && r !== regions[(i + regions.length - 1) % regions.length] ? [i] : []); // prettier-ignore
  if (half) return changes.length === 1 ? [toMidline(changes[0], halves.length, border, form)] : [];
  const runs = changes.map((from, i) => {
    const to = changes[(i + 1) % changes.length];
    return { from, to, region: regions[from], length: (to - from + regions.length) % regions.length };
  });
  const longest = runs.reduce((a, b) => (b.length > a.length ? b : a), { length: 0, region: 0 });
  const cut = runs.filter((run) => run !== longest && run.region !== longest.region);
  return cut.map(({ from, to }) => ({ from, to, line: straight(border[from], border[to], form) }));
}

/** From a point of half an opening's border to the nearest point along the midline. */
function toMidline(from: number, edges: number, border: readonly Vec3[], form: Form | null): Lead {
  let to = edges;
  for (let i = edges; i <= border.length; i++)
    if (distance(border[i % border.length], border[from]) < distance(border[to % border.length], border[from])) to = i;
  return { from, to: to % border.length, line: straight(border[from], border[to % border.length], form) };
}

/** Points between two, on the form. */
function straight(a: Vec3, b: Vec3, form: Form | null): Vec3[] {
  return Array.from({ length: 15 }, (_, i) => {
    const p = lerp(a, b, (i + 1) / 16);
    return form ? form.closest(p).point : p;
  });
}
