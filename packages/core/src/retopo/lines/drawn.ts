import { axisIndex, distance, dot, lerp, nearestOnLine, sub, WayQueue, type MirrorPlane, type Vec3 } from '../../math';
import type { SculptSurface } from '../../surface';
import { moveSoundly } from '../form/moveSoundly';
import { prevHalf, type TriMesh } from '../form/TriMesh';
import { farEnd, lineHalves } from './lines';

/** A line that the quads' edges must follow: a guide, or the border of a region. */
export interface DrawnLine {
  /** in order, on the form or near it, file units */
  points: readonly Vec3[];
  closed: boolean;
  /** along the edges of triangles: where it zigzags, that is not meant */
  isJagged?: boolean;
}

/** A line that runs nearer than this share of a quad to another joins it: quads cannot be thinner. */
const JOINS = 0.6;
/** A run near another line that is longer than so many times that runs along it; a shorter one crosses it. */
const ALONGSIDE = 4;
/** How dear it is to go beside the line, one working edge off. */
const BESIDE = 4;
/** Along what is a line already a way costs this share where it runs along that; where it only meets or crosses it, so many times as much. */
const ALONG = 0.25;
const ACROSS = 4;
/** A loop of a way shorter than so many steps is none of the line's. */
const SHORT = 4;
/** A search takes in no more points than this. */
const MOST = 20_000;

/**
 * Finds for each drawn line a way along the edges of `mesh`, and marks it as a line by `mark`. Ways go from place to place `step` apart; near a line that
 * is there already, they end on it or run along it. `surface` has the mesh's own triangles in any order. Cost: a closest point for each place, and a search round it.
 */
export function drawOn(
  mesh: TriMesh,
  surface: SculptSurface,
  drawn: readonly DrawnLine[],
  step: number,
  size: number,
  mark: number,
): void {
  for (const line of drawn) {
    const own = placesAlong(line, step).map((p) => nearestCorner(surface, p));
    const stops = joinedTo(mesh, own, line, JOINS * size);
    if (line.closed && stops.length > 2 && stops[0] !== stops[stops.length - 1]) stops.push(stops[0]);
    const way = taut(mesh, wayThrough(mesh, stops, step));
    if (!line.isJagged) pullOnto(mesh, surface, line, way);
    for (let i = 1; i < way.length; i++) {
      const h = edgeBetween(mesh, way[i - 1], way[i]);
      if (h >= 0 && mesh.line[h] < 0) mesh.setLine(h, mark);
    }
  }
}

/** The runs of a line over which `isNear` holds at its points; the whole line, closed, where it holds at all. Those of one point are none. */
export function runsNear(line: DrawnLine, isNear: (p: Vec3) => boolean): DrawnLine[] {
  const held = line.points.map(isNear);
  if (!held.includes(false)) return [line];
  // a closed line is cut where it is away
  const first = line.closed ? held.indexOf(false) : 0;
  const runs: Vec3[][] = [[]];
  line.points.forEach((_, i) => {
    const at = (first + i) % held.length;
    if (held[at]) runs[runs.length - 1].push(line.points[at]);
    else runs.push([]);
  });
  return runs.filter((points) => points.length > 1).map((points) => ({ ...line, points, closed: false }));
}

/** Moves the points of a way onto the line that it stands for; those on another line along that alone. */
function pullOnto(mesh: TriMesh, surface: SculptSurface, line: DrawnLine, way: readonly number[]): void {
  for (const v of new Set(way)) {
    const { point } = nearestOnLine(pointOf(mesh, v), line.points, line.closed);
    const to = surface.closest(point).point;
    const others = alongLine(mesh, v);
    if (others.length === 0) moveSoundly(mesh, v, to, null);
    else if (others.length === 2) {
      const [a, b] = others.map((w) => pointOf(mesh, w));
      moveSoundly(mesh, v, nearestOnLine(to, [a, pointOf(mesh, v), b]).point, null);
    }
  }
}

const pointOf = ({ points: p }: TriMesh, v: number): Vec3 => [p[3 * v], p[3 * v + 1], p[3 * v + 2]];

/** Places along a line no more than `step` apart, its own points among them where they are that far from each other. */
function placesAlong({ points, closed }: DrawnLine, step: number): Vec3[] {
  const run = closed && points.length > 2 ? [...points, points[0]] : points;
  const places: Vec3[] = [run[0]];
  run.slice(1).forEach((to, i) => {
    const from = places[places.length - 1];
    const far = distance(from, to);
    if (far < step && i + 2 < run.length) return;
    const n = Math.max(1, Math.round(far / step));
    for (let k = 1; k <= n; k++) places.push(lerp(from, to, k / n));
  });
  return places;
}

function nearestCorner(surface: SculptSurface, p: Vec3): number {
  const { triangle } = surface.closest(p);
  const { indices, positions: q } = surface;
  let [best, near] = [0, Infinity];
  for (const v of indices.subarray(3 * triangle, 3 * triangle + 3)) {
    const d = (q[3 * v] - p[0]) ** 2 + (q[3 * v + 1] - p[1]) ** 2 + (q[3 * v + 2] - p[2]) ** 2;
    if (d < near) [best, near] = [v, d];
  }
  return best;
}

/**
 * The stops of a line, on what is a line already where it runs along that. Where it ends near one, or crosses it, it has one stop there: two would leave it along that for an
 * edge.
 */
function joinedTo(mesh: TriMesh, stops: readonly number[], { points, closed }: DrawnLine, reach: number): number[] {
  const near = nearLine(mesh, reach);
  const found = stops.map((v) => near(pointOf(mesh, v)));
  const joined: number[] = [];
  for (let i = 0; i < stops.length; i++) {
    if (found[i] < 0) {
      joined.push(stops[i]);
      continue;
    }
    let end = i;
    while (end + 1 < stops.length && found[end + 1] >= 0) end++;
    const run = Array.from({ length: end - i + 1 }, (_, k) => i + k);
    const isAlong = distance(pointOf(mesh, stops[i]), pointOf(mesh, stops[end])) > ALONGSIDE * reach;
    const endsHere = !closed && i === 0 ? i : !closed && end === stops.length - 1 ? end : null;
    // it crosses at the point of the other line that it runs nearest to
    const crossing = (): number => {
      const near = [...new Set(run.flatMap((k) => [found[k], ...alongLine(mesh, found[k])]))];
      const away = near.map((v) => distance(pointOf(mesh, v), nearestOnLine(pointOf(mesh, v), points, closed).point));
      return near[away.indexOf(Math.min(...away))];
    };
    if (isAlong) joined.push(...run.map((k) => found[k]));
    else joined.push(endsHere === null ? crossing() : found[endsHere]);
    i = end;
  }
  return joined.filter((v, i) => v !== joined[i - 1]);
}

/** The points before and after one of a line. */
const alongLine = (mesh: TriMesh, v: number): number[] => lineHalves(mesh, v).map((h) => farEnd(mesh, h, v));

/** Tells the point of a line of `mesh` that is nearest to a place, within `reach`; −1 where there is none. */
function nearLine(mesh: TriMesh, reach: number): (p: Vec3) => number {
  const cells = new Map<string, number[]>();
  const cell = (x: number): number => Math.floor(x / reach);
  for (let h = 0; h < 3 * mesh.triangles; h++) {
    if (mesh.line[h] < 0) continue;
    const v = mesh.from[h];
    const key = pointOf(mesh, v).map(cell).join(' ');
    const own = cells.get(key);
    if (own) own.push(v);
    else cells.set(key, [v]);
  }
  return (p) => {
    let [best, near] = [-1, reach];
    const [i, j, k] = p.map(cell);
    for (let x = i - 1; x <= i + 1 && cells.size > 0; x++)
      for (let y = j - 1; y <= j + 1; y++)
        for (let z = k - 1; z <= k + 1; z++)
          for (const v of cells.get(`${x} ${y} ${z}`) ?? []) {
            const d = distance(p, pointOf(mesh, v));
            if (d < near) [best, near] = [v, d];
          }
    return best;
  };
}

/** The points of a way through all stops; the first again at the end where it closes. */
function wayThrough(mesh: TriMesh, stops: readonly number[], step: number): number[] {
  const way: number[] = [stops[0]];
  for (let i = 0; i + 1 < stops.length; i++)
    for (const to of wayBetween(mesh, stops[i], stops[i + 1], step)) {
      const at = way.lastIndexOf(to);
      way.push(to);
      // where it turns back on itself, the loop is cut off; one that is longer crosses itself, or closes
      if (at >= 0 && lengthOf(mesh, way.slice(at)) <= SHORT * step) way.length = at + 1;
    }
  // one that closes may run over its own start first
  while (way.length > 3 && way[0] === way[way.length - 1] && way[1] === way[way.length - 2]) {
    way.shift();
    way.pop();
  }
  return way;
}

const lengthOf = (mesh: TriMesh, way: readonly number[]): number =>
  way.slice(1).reduce((sum, v, i) => sum + distance(pointOf(mesh, way[i]), pointOf(mesh, v)), 0);

/** A half-edge between two points, or −1. */
const edgeBetween = (mesh: TriMesh, u: number, v: number): number =>
  [...mesh.fan(u), ...mesh.fan(v)].find((h) => (mesh.from[h] === u ? mesh.to(h) === v : mesh.to(h) === u)) ?? -1;

/** A way without its points that lie across a single triangle: straightened, that would have no area. */
function taut(mesh: TriMesh, way: readonly number[]): number[] {
  const kept = [way[0]];
  for (let i = 1; i < way.length; i++) {
    const [before, v, after] = [kept[kept.length - 1], way[i], way[i + 1]];
    const isBent = i + 1 < way.length && lineHalves(mesh, v).length === 0 && isTriangle(mesh, before, v, after);
    if (!isBent) kept.push(v);
  }
  return kept;
}

const isTriangle = (mesh: TriMesh, u: number, v: number, w: number): boolean =>
  mesh.fan(v).some((h) => {
    const [a, b] = [mesh.to(h), mesh.from[prevHalf(h)]];
    return (a === u && b === w) || (a === w && b === u);
  });

/** The cheapest way along edges: short, beside the straight line between both ends as little as may be, along lines where there are some (Dijkstra 1959). */
function wayBetween(mesh: TriMesh, start: number, end: number, step: number): number[] {
  const [a, b] = [pointOf(mesh, start), pointOf(mesh, end)];
  const ab = sub(b, a);
  const ll = dot(ab, ab) || 1;
  const beside = (v: number): number => {
    const p = pointOf(mesh, v);
    const t = Math.min(1, Math.max(0, dot(sub(p, a), ab) / ll));
    return distance(p, lerp(a, b, t)) / step;
  };
  const isOnLine = (v: number): boolean => lineHalves(mesh, v).length > 0;
  const isAlong = isOnLine(start) && isOnLine(end);
  const ways = new Map([[start, 0]]);
  const by = new Map<number, number>();
  const queue = new WayQueue();
  queue.push(start, 0);
  const done = new Set<number>();
  for (let next = queue.pop(); next && !done.has(end) && done.size < MOST; next = queue.pop()) {
    const u = next.v;
    if (done.has(u)) continue;
    done.add(u);
    for (const g of new Set([...mesh.fan(u), ...lineHalves(mesh, u)])) {
      const w = farEnd(mesh, g, u);
      const dear = isAlong ? (mesh.line[g] >= 0 ? ALONG : 1) : w !== end && isOnLine(w) ? ACROSS : 1;
      const cost = dear * Math.sqrt(mesh.squaredLength(g)) * (1 + BESIDE * beside(w) ** 2);
      const on = next.way + cost;
      if (on >= (ways.get(w) ?? Infinity)) continue;
      ways.set(w, on);
      by.set(w, g);
      queue.push(w, on);
    }
  }
  const way: number[] = [];
  for (let w = end; w !== start;) {
    const half = by.get(w);
    if (half === undefined) return [];
    way.unshift(w);
    w = farEnd(mesh, half, w);
  }
  return way;
}

/** Drawn lines as a half on the positive side of the plane has them: cut there; what lies wholly on the other side is mirrored. Cost: their points. */
export function linesOfHalf(drawn: readonly DrawnLine[], plane: MirrorPlane): DrawnLine[] {
  const k = axisIndex(plane.axis);
  const side = (p: Vec3): number => p[k] - plane.offset;
  const onto = (p: Vec3, x: number): Vec3 => [k === 0 ? x : p[0], k === 1 ? x : p[1], k === 2 ? x : p[2]];
  return drawn.flatMap(({ points, closed }): DrawnLine[] => {
    if (points.every((p) => side(p) >= 0)) return [{ points, closed }];
    if (points.every((p) => side(p) <= 0)) return [{ points: points.map((p) => onto(p, plane.offset - side(p))), closed }]; // prettier-ignore
    // a closed one starts on the other side, so that every run on this side has both its ends
    const first = points.findIndex((p) => side(p) < 0);
    const run = closed ? [...points.slice(first), ...points.slice(0, first + 1)] : points;
    const cut = (a: Vec3, b: Vec3): Vec3 => onto(lerp(a, b, side(a) / (side(a) - side(b))), plane.offset);
    const kept: Vec3[][] = [];
    run.forEach((p, i) => {
      const before = run[i - 1];
      const crosses = i > 0 && side(p) < 0 !== side(before) < 0;
      if (side(p) >= 0) {
        if (i === 0 || crosses) kept.push(crosses ? [cut(before, p)] : []);
        kept[kept.length - 1].push(p);
      } else if (crosses) kept[kept.length - 1].push(cut(before, p));
    });
    return kept.filter((own) => own.length > 1).map((own) => ({ points: own, closed: false }));
  });
}
