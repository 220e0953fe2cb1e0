import { distance, WayQueue, type Vec3 } from '../../math';
import type { SculptSurface } from '../../surface';

/**
 * How far it is over a form from the place nearest to a point to that nearest to another, file units: along the edges of its triangles (Dijkstra 1959), so up to 1.4 times as long as the shortest way; Infinity
 * where that is more than `most`. Cost: the vertices that such a way could go by.
 */
export function wayOver(form: SculptSurface, a: Vec3, b: Vec3, most: number): number {
  const { starts, around } = form.around;
  const [from, to] = [form.closest(a), form.closest(b)];
  if (from.triangle === to.triangle) return within(distance(from.point, to.point), most);
  const placeOf = (v: number): Vec3 => [form.positions[3 * v], form.positions[3 * v + 1], form.positions[3 * v + 2]];
  const cornersOf = (t: number): Uint32Array => form.indices.subarray(3 * t, 3 * t + 3);
  const ends = new Set(cornersOf(to.triangle));
  const done = new Set<number>();
  const next = new WayQueue();
  const ahead = (v: number, way: number): void => {
    // what is left is no shorter than straight on
    if (!done.has(v) && way + distance(placeOf(v), to.point) <= most) next.push(v, way);
  };
  let best = Infinity;
  for (const v of cornersOf(from.triangle)) ahead(v, distance(from.point, placeOf(v)));
  for (let one = next.pop(); one && one.way < best; one = next.pop()) {
    const { v, way } = one;
    if (done.has(v)) continue;
    done.add(v);
    const place = placeOf(v);
    if (ends.has(v)) best = Math.min(best, way + distance(place, to.point));
    for (let i = starts[v]; i < starts[v + 1]; i++)
      for (const w of cornersOf(around[i])) if (w !== v) ahead(w, way + distance(place, placeOf(w)));
  }
  return within(best, most);
}

const within = (way: number, most: number): number => (way <= most ? way : Infinity);
