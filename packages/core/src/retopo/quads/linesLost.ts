import { distance, lengthsAlong, nearestOnLine, type Vec3 } from '../../math';
import { closesUp, placeOnCurve, type Curve } from '../lines/lines';
import { cornerOf, halfKey } from './QuadLinks';
import type { QuadSoup } from './QuadSoup';

/** So many quads' length of a line may have no edge along it: points are near its corners, not on them to the last bit. */
const GAP = 0.5;
/** An open drawn line ends between two points, and may lack a quad at each end. */
const GAP_OF_OPEN = 2;
/** An edge stands for no more of a line than so many times its length, as the arc over a half circle is; or what is no further from it than so much of a quad: the ragged border of a scan may be longer. */
const ARC = Math.PI / 2;
const BESIDE = 0.5;
/** An edge is a whole line where its ends are this near to the line's, in its lengths. */
const NEAR_END = 0.05;

/** How many lines longer than two quads are no chains of edges; a mirror cut is one wherever there are quads, and round a hole that was closed there is no line any more. Cost: the points on lines times the lines' own. */
export function linesLost(soup: QuadSoup, curves: readonly Curve[], size: number): { ofForm: number; drawn: number } {
  const stretches = stretchesAlong(soup, curves, BESIDE * size);
  const lost = { ofForm: 0, drawn: 0 };
  for (const [i, curve] of curves.entries()) {
    const length = lengthOf(curve);
    if (curve.isMirrored || curve.isRidge || curve.isClosedOver || length < 2 * size) continue;
    const gap = curve.isDrawn && !closesUp(curve.points) ? GAP_OF_OPEN : GAP;
    if (length - covered(stretches[i]) > gap * size) lost[curve.isDrawn ? 'drawn' : 'ofForm']++;
  }
  return lost;
}

type Stretch = [from: number, to: number];
interface Bounds {
  most: number;
  beside: number;
}

/** The stretch of its line that each edge on one runs along, for each line. */
function stretchesAlong({ points: p, quads, onLine }: QuadSoup, curves: readonly Curve[], beside: number): Stretch[][] {
  const found = curves.map((): Stretch[] => []);
  const seen = new Set<number>();
  for (let h = 0; h < quads.length; h++) {
    const [u, v] = [quads[h], cornerOf(quads, h, 1)];
    const line = Math.max(onLine[u], onLine[v]);
    const key = halfKey(Math.min(u, v), Math.max(u, v));
    // both ends on the line, or one in a corner
    if (seen.has(key) || [u, v].some((w) => onLine[w] !== line && onLine[w] !== -2)) continue;
    seen.add(key);
    const length = Math.hypot(p[3 * u] - p[3 * v], p[3 * u + 1] - p[3 * v + 1], p[3 * u + 2] - p[3 * v + 2]);
    if (line >= 0) found[line].push(...stretchesOf(curves[line], p, u, v, { most: ARC * length, beside }));
    else if (onLine[u] === -2 && onLine[v] === -2) {
      const whole = curves.findIndex((curve) => endsAt(curve, p, u, v, NEAR_END * length));
      if (whole >= 0) found[whole].push([0, lengthOf(curves[whole])]);
    }
  }
  return found;
}

/** From one point to another along a line, the shorter way where it closes; none where that is longer, and goes further off the edge, than is within bounds. */
function stretchesOf(curve: Curve, p: Float64Array, u: number, v: number, { most, beside }: Bounds): Stretch[] {
  const [a, b] = [u, v].map((w) => placeOnCurve(curve, p[3 * w], p[3 * w + 1], p[3 * w + 2])).sort((x, y) => x.along - y.along); // prettier-ignore
  const { length } = a;
  const inside: Stretch[] = [[a.along, b.along]];
  const outside: Stretch[] = closesUp(curve.points) ? [[0, a.along], [b.along, length]] : []; // prettier-ignore
  const ways = b.along - a.along > length / 2 ? [outside, inside] : [inside, outside];
  const runsAlong = (way: readonly Stretch[]): boolean =>
    covered(way) <= most || furthest(curve, way, a.point, b.point) <= beside;
  return ways.find((way) => way.length > 0 && runsAlong(way)) ?? [];
}

/** How far stretches of a line go off the edge from a to b. */
function furthest({ points: q }: Curve, stretches: readonly Stretch[], a: Vec3, b: Vec3): number {
  const line = Array.from({ length: q.length / 3 }, (_, i): Vec3 => [q[3 * i], q[3 * i + 1], q[3 * i + 2]]);
  const at = lengthsAlong(line);
  const own = line.filter((_, i) => stretches.some(([from, to]) => at[i] >= from && at[i] <= to));
  return own.reduce((most, p) => Math.max(most, distance(p, nearestOnLine(p, [a, b], false).point)), 0);
}

/** What stretches cover in all. */
function covered(stretches: readonly Stretch[]): number {
  let [sum, reached] = [0, 0];
  for (const [from, to] of [...stretches].sort((a, b) => a[0] - b[0])) {
    sum += Math.max(0, to - Math.max(from, reached));
    reached = Math.max(reached, to);
  }
  return sum;
}

/** Whether a line goes from one point to another, each to within `near`. */
function endsAt({ points: q }: Curve, p: Float64Array, u: number, v: number, near: number): boolean {
  const away = (i: number, w: number): number => Math.hypot(q[i] - p[3 * w], q[i + 1] - p[3 * w + 1], q[i + 2] - p[3 * w + 2]); // prettier-ignore
  const last = q.length - 3;
  return Math.min(Math.max(away(0, u), away(last, v)), Math.max(away(0, v), away(last, u))) < near;
}

function lengthOf({ points: q }: Curve): number {
  let sum = 0;
  for (let i = 0; i + 5 < q.length; i += 3) sum += Math.hypot(q[i + 3] - q[i], q[i + 4] - q[i + 1], q[i + 5] - q[i + 2]); // prettier-ignore
  return sum;
}
