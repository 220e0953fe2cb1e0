import * as z from 'zod/mini';
import {
  add,
  boxCentre,
  boxOf,
  cross,
  distance,
  dot,
  length,
  normalize,
  scale,
  sub,
  turned,
  type Vec3,
} from '../../math';
import type { PolyMesh } from '../../mesh';
import { groundOf, settledPlace } from '../ground';
import { operator, plural } from '../operator';
import { choice, Point, proposedLength } from '../params';
import { pickedVertices } from '../picked';
import { reachWeights } from './reach';

const Params = z.object({
  /** file units, along the frame's axes */
  move: z._default(Point, [0, 0, 0]),
  turn: z._default(z.object({ axis: Point, degrees: z.number() }), { axis: [0, 0, 1], degrees: 0 }),
  /** factors along the frame's axes */
  scale: z._default(Point, [1, 1, 1]),
  /** x and y axis of what `move`, `scale` and a turn's axis are told in; the file's own by default */
  frame: z.optional(z.tuple([Point, Point])),
  about: choice('Turn about', [['whole', 'the whole'], ['each', 'each part'], ['point', 'what I point at'], ['zero', 'zero']], 'whole'), // prettier-ignore
  point: z.optional(Point),
  reach: choice('Reach', [['none', 'what is picked'], ['air', 'through the air'], ['skin', 'along the skin'], ['piece', 'this piece only']], 'none'), // prettier-ignore
  radius: proposedLength('Reach radius'),
});
type Params = z.infer<typeof Params>;

/**
 * Moves, turns and scales what is picked, in this order: scale, turn, move, about the middle of the whole, of each connected
 * part, a point, or zero. With reach the points around follow, less with distance. Points settle by the ground's rules: on
 * the form, on the midline, on their side of it.
 */
export const transform = operator({
  name: 'transform',
  title: 'Place',
  params: Params,
  run(mesh, selection, params, ground) {
    const picked = pickedVertices(mesh, selection, 'Pick what shall be moved.');
    const radius = params.radius ?? 0;
    const parts = params.about === 'each' ? partsOf(mesh, picked) : [picked];
    const places = new Map<number, Vec3>();
    for (const part of parts) {
      const at = placer(mesh, part, params);
      for (const [v, weight] of reachWeights(mesh, part, params.reach, radius)) {
        const p = mesh.point(v);
        if (!places.has(v) || weight === 1) places.set(v, at(p, weight));
      }
    }
    let most = 0;
    for (const [v, to] of places) {
      const from = mesh.point(v);
      mesh.setPoint(v, settledPlace(from, to, groundOf(mesh, v, ground), v, mesh.isBorderVertex(v)));
      most = Math.max(most, distance(from, mesh.point(v)));
    }
    return {
      selection,
      report: { sentence: sentenceOf(params, places.size), counts: { vertices: places.size, distance: most } },
    };
  },
});

function placer(mesh: PolyMesh, part: readonly number[], params: Params): (p: Vec3, weight: number) => Vec3 {
  const centre = centreOf(mesh, part, params);
  const axes = axesOf(params);
  const world = (d: Vec3): Vec3 => axes.reduce((s, a, k) => add(s, scale(a, d[k])), [0, 0, 0] as Vec3);
  const move = world(params.move);
  const axis = normalize(world(params.turn.axis));
  const radians = (params.turn.degrees * Math.PI) / 180;
  return (p, w) => {
    const d = sub(p, centre);
    const scaled = axes.reduce((s, a, k) => add(s, scale(a, dot(d, a) * (1 + (params.scale[k] - 1) * w))), [
      0, 0, 0,
    ] as Vec3);
    const q = add(centre, scaled);
    const r = radians !== 0 && length(axis) > 0 ? turned(q, centre, axis, radians * w) : q;
    return add(r, scale(move, w));
  };
}

function axesOf({ frame }: Params): readonly [Vec3, Vec3, Vec3] {
  if (!frame) return [[1, 0, 0], [0, 1, 0], [0, 0, 1]]; // prettier-ignore
  const [x, y] = frame.map((a) => normalize(a));
  return [x, y, cross(x, y)];
}

function centreOf(mesh: PolyMesh, part: readonly number[], { about, point }: Params): Vec3 {
  if (about === 'zero') return [0, 0, 0];
  if (about === 'point' && point) return point;
  return boxCentre(boxOf(part.flatMap((v) => [...mesh.point(v)])));
}

/** Picked vertices in sets that hang together by edges between picked vertices. */
function partsOf(mesh: PolyMesh, picked: readonly number[]): number[][] {
  const left = new Set(picked);
  const parts: number[][] = [];
  for (const v of picked) {
    if (!left.delete(v)) continue;
    const part = [v];
    for (const w of part)
      for (const h of mesh.vertexHalves(w)) if (left.delete(mesh.target(h))) part.push(mesh.target(h));
    parts.push(part);
  }
  return parts;
}

function sentenceOf({ move, turn, scale: factors }: Params, n: number): string {
  const what = [
    move.some((x) => x !== 0) && 'moved',
    turn.degrees !== 0 && `turned by ${Number(turn.degrees.toFixed(1))}°`,
    factors.some((x) => x !== 1) && 'scaled',
  ].filter(Boolean);
  return `${plural(n, 'point')} ${what.length > 0 ? what.join(' and ') : 'kept in place'}`;
}

/** Where the middle of the picked points is; what handles stand at. */
export function middleOfPicked(mesh: PolyMesh, picked: readonly number[]): Vec3 {
  return boxCentre(boxOf(picked.flatMap((v) => [...mesh.point(v)])));
}
