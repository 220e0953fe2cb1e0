import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import {
  add,
  addScaled,
  axisVector,
  bestCircle,
  bestLine,
  bestPlane,
  distance,
  dot,
  evenSteps,
  frameOf,
  lerp,
  meanPoint,
  normalize,
  ontoPlaneOf,
  scale,
  sub,
  type Plane,
  type SignedAxis,
  type Vec3,
} from '../../math';
import { chainsOf, faceNormal, type PolyMesh, type Selection } from '../../mesh';
import { settle } from '../ground';
import { operator, plural } from '../operator';
import { choice, Point, proposedLength, share, toggle } from '../params';
import { pickedVertices } from '../picked';
import { equalFaces } from './equalFaces';

const Params = z.object({
  to: choice('To', [['steps', 'even steps'], ['line', 'a line'], ['plane', 'a plane'], ['circle', 'a circle'], ['faces', 'equal faces']], 'steps'), // prettier-ignore
  plane: choice('Plane', [['best', 'the best one'], ['x', 'across x'], ['y', 'across y'], ['z', 'across z'], ['view', 'of the view'], ['face', 'of the last picked face']], 'best'), // prettier-ignore
  radius: proposedLength('Radius', 'Of the circle; empty: the best one'),
  even: toggle('At even steps too', true, 'On a line or circle'),
  strength: share('Strength', { min: 0, max: 1, start: 1 }),
  /** towards the viewer, for the plane of the view */
  facing: z.optional(Point),
});
type Params = z.infer<typeof Params>;
interface Run {
  vertices: number[];
  closed: boolean;
}

/**
 * Brings loops or other picked points to even steps, a line, a plane, a circle, or picked faces to one size and a regular
 * shape. The ends of open runs stay on steps and lines. Points go back onto the form, when there is one. Refuses
 * (NO_WAY) points that no circle fits.
 */
export const trueUp = operator({
  name: 'true',
  title: 'True',
  params: Params,
  run(mesh, selection, params, ground) {
    const moved: [number, Vec3][] =
      params.to === 'faces'
        ? equalFaces(mesh, selection)
        : runsOf(mesh, selection, params.to).flatMap((run) => places(mesh, run, params, selection));
    let most = 0;
    for (const [v, to] of moved) {
      const from = mesh.point(v);
      settle(mesh, v, lerp(from, to, params.strength), ground);
      most = Math.max(most, distance(from, mesh.point(v)));
    }
    const names = { steps: 'even steps', line: 'a line', plane: 'a plane', circle: 'a circle', faces: 'equal faces' };
    return {
      selection,
      report: { sentence: `${plural(moved.length, 'point')} brought to ${names[params.to]}`, counts: { vertices: moved.length, distance: most } }, // prettier-ignore
    };
  },
});

/** Each chain of picked edges is a run; without edges, all picked points are one. */
function runsOf(mesh: PolyMesh, selection: Selection, to: Params['to']): Run[] {
  const edges = selection.edges.filter((e) => mesh.hasEdge(e));
  if (edges.length > 0 && to !== 'plane') return chainsOf(mesh, edges);
  const vertices = pickedVertices(mesh, selection, 'Pick a loop or at least three points first.');
  if (to === 'steps') throw new TopologyError('NOTHING_PICKED', 'Even steps need edges in a row; pick a loop.');
  return [{ vertices, closed: false }];
}

function places(mesh: PolyMesh, { vertices, closed }: Run, params: Params, selection: Selection): [number, Vec3][] {
  const points = vertices.map((v) => mesh.point(v));
  const pair = (to: readonly Vec3[]): [number, Vec3][] => vertices.map((v, i) => [v, to[i]]);
  switch (params.to) {
    case 'plane': {
      const plane = planeFor(mesh, points, params, selection);
      return pair(points.map((p) => ontoPlaneOf(p, plane)));
    }
    case 'line':
      return pair(onLine(points, closed, params.even, selection.edges.length > 0));
    case 'circle':
      return pair(onCircle(points, params, planeFor(mesh, points, params, selection), closed));
    default:
      return pair(evenSteps(points, closed));
  }
}

function planeFor(mesh: PolyMesh, points: readonly Vec3[], { plane, facing }: Params, { faces }: Selection): Plane {
  if (plane === 'best') return bestPlane(points);
  const point = meanPoint(points);
  if (plane === 'view') {
    if (!facing) throw new TopologyError('NO_WAY', 'The plane of the view needs a view; choose another plane.');
    return { point, normal: normalize(facing) };
  }
  if (plane === 'face') {
    const f = faces[faces.length - 1];
    if (f === undefined || !mesh.hasFace(f))
      throw new TopologyError('NOTHING_PICKED', 'Pick the face whose plane it shall be.');
    return { point: meanPoint(mesh.faceVertices(f).map((v) => mesh.point(v))), normal: faceNormal(mesh, f) };
  }
  return { point, normal: axisVector(`+${plane}` as SignedAxis) };
}

function onLine(points: readonly Vec3[], closed: boolean, even: boolean, inOrder: boolean): Vec3[] {
  if (!inOrder || closed) {
    const { point, direction } = bestLine(points);
    return points.map((p) => addScaled(point, direction, dot(direction, sub(p, point))));
  }
  const [a, b] = [points[0], points[points.length - 1]];
  const d = sub(b, a);
  const along = dot(d, d);
  return points.map((p, i) => {
    if (i === 0 || i === points.length - 1) return p;
    return lerp(a, b, even || along === 0 ? i / (points.length - 1) : dot(sub(p, a), d) / along);
  });
}

function onCircle(points: readonly Vec3[], { radius, even, plane }: Params, at: Plane, inOrder: boolean): Vec3[] {
  const circle = points.length > 2 ? bestCircle(points, plane === 'best' ? undefined : at) : null;
  if (!circle) throw new TopologyError('NO_WAY', 'These points lie on one line; no circle fits them.');
  const [u, v] = frameOf(circle.normal);
  const r = radius ?? circle.radius;
  const angles = points.map((p) => Math.atan2(dot(sub(p, circle.point), v), dot(sub(p, circle.point), u)));
  const turns = even && inOrder ? evenAngles(angles) : angles;
  return turns.map((a) => add(circle.point, add(scale(u, r * Math.cos(a)), scale(v, r * Math.sin(a)))));
}

/** The same number of angles at even steps, in the same sense, turned so that they move least. */
function evenAngles(angles: readonly number[]): number[] {
  const n = angles.length;
  const wrap = (a: number): number => Math.atan2(Math.sin(a), Math.cos(a));
  let turn = 0;
  for (let i = 0; i < n; i++) turn += wrap(angles[(i + 1) % n] - angles[i]);
  const step = ((turn >= 0 ? 1 : -1) * 2 * Math.PI) / n;
  const off = angles.map((a, i) => wrap(a - i * step));
  const mean = Math.atan2(
    off.reduce((s, a) => s + Math.sin(a), 0),
    off.reduce((s, a) => s + Math.cos(a), 0),
  );
  return angles.map((_, i) => mean + i * step);
}
