import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import {
  add,
  carried,
  isOnPlane,
  meanPoint,
  pathThrough,
  planeDistance,
  scale,
  sub,
  type Path,
  type PathFrame,
  type Vec3,
} from '../../math';
import { addFace, addVertex, chainsOf, NONE, type Chain, type PolyMesh } from '../../mesh';
import { isSeam, settledPlace, type Ground } from '../ground';
import { inheritFace, openHalf } from '../drawOut';
import { operator, plural } from '../operator';
import { count, curve, degrees, plain, proposedLength } from '../params';
import { meanLength, only } from '../picked';

const Params = z.object({
  curve: curve('Along', 'A guide that was drawn'),
  rows: count('Rows', { min: 1, max: 1024, start: 12 }),
  width: proposedLength('Width of a strip', 'With no edges picked'),
  size: plain('Size at its end', { min: 0, max: 20, start: 1, step: 0.05 }),
  turn: degrees('Turned by, at its end', { min: -720, max: 720, start: 0 }),
});

/**
 * Draws picked border edges out along a curve: each row stands on the curve as the edges stand at its start, sized and turned evenly up to
 * the end; or, with no edges picked, lays a strip of quads on it. The curve is moved to begin at the edges. Round a closed curve a strip
 * closes. New faces take their neighbour's attributes. Cost: rows times edges.
 */
export const drawAlong = operator({
  name: 'draw-along',
  title: 'Draw out along a guide',
  params: Params,
  run(mesh, selection, p, ground) {
    const path = p.curve && pathThrough(p.curve.points, p.curve.closed);
    if (!path) throw new TopologyError('NO_WAY', 'Choose the curve to draw along; a guide can be drawn with Guide.');
    const edges = selection.edges.filter((e) => mesh.hasEdge(e));
    const { faces, last } = edges.length > 0 ? outOf(mesh, edges, path, p, ground) : strip(mesh, path, p, ground);
    return {
      selection: only({ edges: last }),
      report: { sentence: `${plural(p.rows, 'row')} drawn along the curve, ${plural(faces, 'face')}`, counts: { rows: p.rows, faces } }, // prettier-ignore
    };
  },
});

type Params = z.infer<typeof Params>;
/** Where a point of the first row lies in a further one. */
function placer(path: Path, origin: Vec3, { rows, size, turn }: Params): (p: Vec3, row: number) => Vec3 {
  const first: PathFrame = { ...path.at(0), point: origin };
  const shift = sub(origin, path.at(0).point);
  return (p, row) => {
    const t = row / rows;
    const frame = path.at(path.length * t);
    const a = (turn * t * Math.PI) / 180;
    const up = add(scale(frame.up, Math.cos(a)), scale(frame.side, Math.sin(a)));
    const side = add(scale(frame.side, Math.cos(a)), scale(frame.up, -Math.sin(a)));
    return carried(p, first, { ...frame, up, side, point: add(frame.point, shift) }, 1 + (size - 1) * t);
  };
}

function outOf(
  mesh: PolyMesh,
  edges: readonly number[],
  path: Path,
  p: Params,
  ground: Ground,
): { faces: number; last: number[] } {
  const seam = edges.find((e) => isSeam(mesh, 2 * e, ground));
  if (seam !== undefined)
    throw new TopologyError('OFF_MIDLINE', 'An edge on the midline has the mirrored half beside it; pick other edges to draw out.', { edges: [seam] }); // prettier-ignore
  const chains = chainsOf(mesh, edges.map((e) => openHalf(mesh, e) >> 1)).map((chain) => facing(mesh, chain)); // prettier-ignore
  const origin = meanPoint(chains.flatMap(({ vertices }) => vertices).map((v) => mesh.point(v)));
  const at = placer(path, origin, p);
  let faces = 0;
  const last: number[] = [];
  for (const { vertices, closed, halves } of chains) {
    const from = vertices.map((v) => mesh.point(v));
    let row = vertices;
    for (let r = 1; r <= p.rows; r++) {
      const next = from.map((q, i) => carriedVertex(mesh, vertices[i], at(q, r), ground));
      for (let i = 0; i + (closed ? 0 : 1) < row.length; i++) {
        const j = (i + 1) % row.length;
        const f = addFace(mesh, [row[i], row[j], next[j], next[i]]);
        inheritFace(mesh, r === 1 ? halves[i] ^ 1 : mesh.findHalf(row[j], row[i]), f, [next[j], next[i]]);
        if (r === p.rows) last.push(mesh.findHalf(next[i], next[j]) >> 1);
        faces++;
      }
      row = next;
    }
  }
  return { faces, last };
}

/** The chain walked so that its open sides lie on its left. */
function facing(mesh: PolyMesh, chain: Chain): Chain {
  if (mesh.face(chain.halves[0]) === NONE) return chain;
  const vertices = [...chain.vertices].reverse();
  return { closed: chain.closed, vertices: chain.closed ? [vertices[vertices.length - 1], ...vertices.slice(0, -1)] : vertices, halves: [...chain.halves].reverse().map((h) => h ^ 1) }; // prettier-ignore
}

function carriedVertex(mesh: PolyMesh, like: number, to: Vec3, ground: Ground): number {
  const { plane } = ground;
  const p = mesh.point(like);
  const at = plane && isOnPlane(p, plane) ? settledPlace(p, to, ground) : onItsSide(to, planeSide(p, ground), ground);
  const v = addVertex(mesh, at);
  for (const c of mesh.channelColumns('vertex')) c.copyRow(like, v);
  return v;
}

const planeSide = (p: Vec3, { plane }: Ground): number => (plane ? Math.sign(planeDistance(p, plane)) : 0);

/** A new point on the form. Refuses one on the other side of the midline, or in it. */
function onItsSide(to: Vec3, side: number, ground: Ground): Vec3 {
  const p = ground.form ? ground.form.closest(to).point : to;
  if (ground.plane && planeSide(p, ground) * side <= 0)
    throw new TopologyError('OFF_MIDLINE', 'The curve leads across the midline, where the mirrored half is; draw it on one side.'); // prettier-ignore
  return p;
}

function strip(mesh: PolyMesh, path: Path, p: Params, ground: Ground): { faces: number; last: number[] } {
  const width = p.width ?? (meanLength(mesh, mesh.edges()) || path.length / p.rows);
  const rows = path.closed ? p.rows : p.rows + 1;
  const at = placer(path, path.at(0).point, p);
  const start = path.at(0);
  const lines = [-0.5, 0.5].map((s) => add(start.point, scale(start.side, s * width)));
  const side = planeSide(at(lines[0], 1), ground);
  const vertices = Array.from({ length: rows }, (_, r) => lines.map((q) => addVertex(mesh, onItsSide(at(q, r), side, ground)))); // prettier-ignore
  for (let r = 0; r < p.rows; r++) {
    const [a, b] = [vertices[r], vertices[(r + 1) % rows]];
    addFace(mesh, [a[0], a[1], b[1], b[0]]);
  }
  const end = vertices[rows - 1];
  return { faces: p.rows, last: path.closed ? [] : [mesh.findHalf(end[0], end[1]) >> 1] };
}
