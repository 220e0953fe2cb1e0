import { axisIndex, distance, type MirrorPlane, type Vec3 } from '../../math';
import type { Ground } from '../lines/ground';
import { turnsInMirrorOnly } from '../lines/lines';
import { cornerOf } from '../quads/QuadLinks';
import type { QuadSoup } from '../quads/QuadSoup';

/** Edges whose ways from a point have a mean as long as this run to one side: those of a flat point have none, those of a cube's corner .58. */
const ONE_SIDE = 0.8;
/** One of them is longer than so many quads. */
const LONG = 1.6;

/** What runs from a point: the mean of its edges' ways, that of their other ends, and how long the longest is. */
interface EdgesAt {
  way: number[];
  middle: [number, number, number];
  longest: number;
}

/** Where a tent's tip would be in the middle of its neighbours, and the line that it would be on; −1 off lines. */
interface Foot {
  to: Vec3;
  line: number;
}

/**
 * Points that quads run out to as to the tip of a tent, where the map takes a limb for flat: no ring goes round it, and all edges of one point run down to its foot. Off lines, and in the mirror plane, beyond which
 * their image goes on; the plane's line may have a corner there. Gives where each would stand without the limb. Cost: linear.
 */
export function tentsIn(
  soup: QuadSoup,
  { curves }: Pick<Ground, 'curves'>,
  size: number,
  plane: MirrorPlane | null,
): Map<number, Foot> {
  const { points: p, quads, onLine } = soup;
  const around: number[][] = Array.from({ length: onLine.length }, () => []);
  for (let h = 0; h < quads.length; h++) for (const by of [1, 3]) around[quads[h]].push(cornerOf(quads, h, by));
  const isInPlane = (v: number): boolean => curves[onLine[v]]?.isMirrored ?? false;
  const tents = new Map<number, Foot>();
  around.forEach((ends, v) => {
    if (ends.length === 0) return;
    const isCorner = onLine[v] === -2 && turnsInMirrorOnly(curves, [p[3 * v], p[3 * v + 1], p[3 * v + 2]]);
    if (onLine[v] !== -1 && !isInPlane(v) && !isCorner) return;
    const isFree = onLine[v] === -1;
    const { way, middle, longest } = edgesAt(soup, v, ends, isFree ? null : plane);
    if (longest <= LONG * size || Math.hypot(...way) <= ONE_SIDE) return;
    const beside = isFree ? -1 : ends.find(isInPlane);
    if (beside !== undefined) tents.set(v, { to: middle, line: isFree ? -1 : onLine[beside] });
  });
  return tents;
}

/** Each edge counts by the quads beside it, so one in the plane half of what others do, as with the image. */
function edgesAt({ points: p }: QuadSoup, v: number, ends: readonly number[], plane: MirrorPlane | null): EdgesAt {
  const at = (w: number): Vec3 => [p[3 * w], p[3 * w + 1], p[3 * w + 2]];
  const own = at(v);
  const way = [0, 0, 0];
  const middle: EdgesAt['middle'] = [0, 0, 0];
  let longest = 0;
  for (const w of ends) {
    const to = at(w);
    const length = distance(own, to);
    longest = Math.max(longest, length);
    for (let k = 0; k < 3; k++) {
      middle[k] += to[k] / ends.length;
      if (length > 0) way[k] += (to[k] - own[k]) / length / ends.length;
    }
  }
  if (plane) {
    way[axisIndex(plane.axis)] = 0;
    middle[axisIndex(plane.axis)] = plane.offset;
  }
  return { way, middle, longest };
}

/** The quads with the tips of tents at their feet. */
export function pulledBack(soup: QuadSoup, tents: ReadonlyMap<number, Foot>): QuadSoup {
  const points = soup.points.slice();
  const onLine = soup.onLine.slice();
  for (const [v, { to, line }] of tents) {
    points.set(to, 3 * v);
    onLine[v] = line;
  }
  return { ...soup, points, onLine };
}
