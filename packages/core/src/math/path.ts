import { add, addScaled, cross, distance, dot, length, lerp, normalize, scale, sub, type Vec3 } from './vec3';
import { turned } from './curves';

/** A place on a path: where, which way it goes on, and two directions square to that and to each other, all unit. */
export interface PathFrame {
  point: Vec3;
  ahead: Vec3;
  up: Vec3;
  side: Vec3;
}

/** A line through points, measured by length, with frames along it that turn no more than the line does. */
export interface Path {
  closed: boolean;
  length: number;
  /** The frame at a length from the start; past the ends of an open path straight on, round and round a closed one. */
  at(s: number): PathFrame;
}

/**
 * The path through points. Its frames minimise turning by double reflection (Wang et al. 2008); round a closed path what is left of the
 * turn is spread evenly. `up` proposes the first frame's upright. Null with less than two different points. Cost: the points; `at`: their logarithm.
 */
export function pathThrough(points: readonly Vec3[], closed = false, up: Vec3 = [0, 1, 0]): Path | null {
  const own = points.filter((p, i) => i === 0 || distance(p, points[i - 1]) > 0);
  if (closed && own.length > 1 && distance(own[0], own[own.length - 1]) === 0) own.pop();
  if (own.length < (closed ? 3 : 2)) return null;
  const run = closed ? [...own, own[0]] : own;
  const starts = [0];
  for (let i = 1; i < run.length; i++) starts.push(starts[i - 1] + distance(run[i - 1], run[i]));
  const total = starts[starts.length - 1];
  const aheads = run.map((_, i) => tangentAt(run, i, closed));
  const ups = carriedUps(run, aheads, up, closed, starts);
  const frameAt = (k: number, t: number): PathFrame => {
    const ahead = normalize(lerp(aheads[k], aheads[k + 1], t));
    const mixed = lerp(ups[k], ups[k + 1], t);
    const upright = normalize(addScaled(mixed, ahead, -dot(mixed, ahead)));
    return { point: lerp(run[k], run[k + 1], t), ahead, up: upright, side: cross(ahead, upright) };
  };
  return {
    closed,
    length: total,
    at(s) {
      const along = closed ? ((s % total) + total) % total : s;
      const inside = Math.max(0, Math.min(total, along));
      let low = 0,
        high = run.length - 2;
      while (low < high) {
        const middle = (low + high + 1) >> 1;
        if (starts[middle] <= inside) low = middle;
        else high = middle - 1;
      }
      // a step too short to be measured has no inside
      const span = starts[low + 1] - starts[low];
      const frame = frameAt(low, span > 0 ? (inside - starts[low]) / span : 0);
      return along === inside ? frame : { ...frame, point: addScaled(frame.point, frame.ahead, along - inside) };
    },
  };
}

function tangentAt(run: readonly Vec3[], i: number, closed: boolean): Vec3 {
  const last = run.length - 1;
  const before = i > 0 ? run[i - 1] : closed ? run[last - 1] : null;
  const after = i < last ? run[i + 1] : closed ? run[1] : null;
  const a = before && normalize(sub(run[i], before)),
    b = after && normalize(sub(after, run[i]));
  const sum = a && b ? add(a, b) : ((a ?? b) as Vec3);
  return length(sum) > 1e-9 ? normalize(sum) : (b as Vec3);
}

function carriedUps(
  run: readonly Vec3[],
  aheads: readonly Vec3[],
  up: Vec3,
  closed: boolean,
  starts: readonly number[],
): Vec3[] {
  const first = aheads[0];
  const other: Vec3 = Math.abs(first[0]) < 0.9 ? [1, 0, 0] : [0, 1, 0];
  const proposed = Math.abs(dot(normalize(up), first)) < 0.99 ? up : other;
  const ups = [normalize(addScaled(proposed, first, -dot(proposed, first)))];
  for (let i = 1; i < run.length; i++) {
    const v = sub(run[i], run[i - 1]);
    const c = dot(v, v);
    const mirroredUp = addScaled(ups[i - 1], v, (-2 / c) * dot(v, ups[i - 1]));
    const mirroredAhead = addScaled(aheads[i - 1], v, (-2 / c) * dot(v, aheads[i - 1]));
    const w = sub(aheads[i], mirroredAhead);
    const d = dot(w, w);
    ups.push(normalize(d > 1e-18 ? addScaled(mirroredUp, w, (-2 / d) * dot(w, mirroredUp)) : mirroredUp));
  }
  if (!closed) return ups;
  const last = ups[ups.length - 1];
  const off = Math.atan2(dot(cross(last, ups[0]), first), dot(last, ups[0]));
  const total = starts[starts.length - 1];
  return ups.map((u, i) => turned(u, [0, 0, 0], aheads[i], (off * starts[i]) / total));
}

/** Where a point given in one frame's directions lies in another's. */
export function carried(p: Vec3, from: PathFrame, to: PathFrame, size = 1): Vec3 {
  const d = scale(sub(p, from.point), size);
  return add(
    to.point,
    add(add(scale(to.ahead, dot(d, from.ahead)), scale(to.up, dot(d, from.up))), scale(to.side, dot(d, from.side))),
  );
}

/** The point of a line through points that is nearest, and how far along it lies. Cost: the points. */
export function nearestOnLine(p: Vec3, points: readonly Vec3[], closed = false): { point: Vec3; along: number } {
  let best = { point: points[0], along: 0 },
    least = Infinity,
    start = 0;
  for (let i = 0; i + (closed ? 0 : 1) < points.length; i++) {
    const a = points[i],
      b = points[(i + 1) % points.length];
    const d = sub(b, a);
    const l2 = dot(d, d);
    const t = l2 > 0 ? Math.max(0, Math.min(1, dot(sub(p, a), d) / l2)) : 0;
    const q = lerp(a, b, t);
    const far = distance(p, q);
    if (far < least) {
      least = far;
      best = { point: q, along: start + t * Math.sqrt(l2) };
    }
    start += Math.sqrt(l2);
  }
  return best;
}
