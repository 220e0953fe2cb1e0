import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { fillBorder } from '../../fill';
import { addScaled, bestPlane, dot, frameOf, normalize, scale, sub, type Vec3 } from '../../math';
import { addEdge, addFace, addVertex, areaNormal, edgeEnds, NONE, removeLooseEdge, vertexNormal, type PolyMesh } from '../../mesh'; // prettier-ignore
import type { Ground } from '../ground';
import { operator, plural } from '../operator';
import { count, Point, proposedLength } from '../params';
import { only } from '../picked';
import { cornersOf } from './openings';
import { thicken } from '../solid/thicken';
import { requireThreads, threadEnds } from './thread';

/**
 * Closes every cell that threads make, with each other and with the borders of faces: cells of four sides become quads, of three triangles,
 * larger even ones are filled with quads. Cells with more sides than the most stay open unless they are named, and so do odd ones; they are told. With a thickness the new faces get a wall. Which way
 * cells face is the form's way. Cost: the threads.
 */
export const closeCells = operator({
  name: 'close-cells',
  title: 'Close every cell',
  params: z.object({
    most: count('Cells of up to', { min: 3, max: 64, start: 4, hint: 'Larger ones are openings' }),
    thickness: proposedLength('Thickness', 'Empty: a sheet without a wall'),
    /** larger cells that are closed all the same, by their names */
    also: z._default(z.array(z.int()), []),
    /** cells that stay open all the same */
    except: z._default(z.array(z.int()), []),
    /** towards the viewer, for threads that lie on no form */
    facing: z._default(Point, [0, 0, 1]),
  }),
  run(mesh, _selection, { most, facing, thickness, also, except }, ground) {
    requireThreads(mesh);
    const all = threadCells(mesh, facing, ground);
    const wanted = all.filter((cell) => closesCell({ most, also, except }, cell));
    const closed = wanted.map((c) => c.vertices).filter((c) => c.length < 5 || c.length % 2 === 0);
    if (closed.length === 0)
      throw new TopologyError('NO_WAY', `${endsWords(mesh)}No cell of the threads closes; join their ends first.`, { vertices: threadEnds(mesh) }); // prettier-ignore
    const faces: number[] = [];
    for (const cell of closed) for (const f of closeOne(mesh, cell, ground)) faces.push(f);
    const odd = wanted.length - closed.length;
    const open = all.length - wanted.length;
    const wall = thickness ? walled(mesh, faces, thickness, ground) : null;
    const words = [
      `${plural(closed.length, 'cell')} closed, ${plural(faces.length, 'face')}`,
      odd > 0 && `${plural(odd, 'odd cell')} left`,
      open > 0 && `${plural(open, 'cell')} left open`,
      wall,
      endsWords(mesh).replace(/\. $/, ''),
    ];
    return {
      selection: only({ faces }),
      report: { sentence: words.filter(Boolean).join('; '), counts: { cells: closed.length, faces: faces.length, odd, open } }, // prettier-ignore
    };
  },
});

/** Gives the new faces a wall; tells what came of it. A wall goes all round a point, so that threads that hang on it come off, each where it was. */
function walled(mesh: PolyMesh, faces: readonly number[], thickness: number, ground: Ground): string {
  const off = takenOff(mesh, new Set(faces.flatMap((f) => mesh.faceVertices(f))));
  const { report } = thicken.run(mesh, only({ faces: [...faces] }), { thickness, grows: 'outward', rows: 1 }, ground);
  return off > 0 ? `${report.sentence}; ${plural(off, 'thread edge')} come${off === 1 ? 's' : ''} off it` : report.sentence; // prettier-ignore
}

/** Thread edges at some vertices put onto points of their own in the same places; how many. */
function takenOff(mesh: PolyMesh, vertices: ReadonlySet<number>): number {
  const hanging = new Set([...vertices].flatMap((v) => mesh.vertexHalves(v).map((h) => h >> 1)).filter((e) => mesh.isLooseEdge(e))); // prettier-ignore
  const own = new Map<number, number>();
  const ownOf = (v: number): number => {
    const known = own.get(v) ?? (vertices.has(v) ? addVertex(mesh, mesh.point(v)) : v);
    own.set(v, known);
    return known;
  };
  const ends = [...hanging].map((e) => edgeEnds(mesh, e));
  const pairs = ends.map(([u, v]) => [ownOf(u), ownOf(v)]);
  for (const e of hanging) removeLooseEdge(mesh, e);
  for (const [u, v] of pairs) addEdge(mesh, u, v);
  return hanging.size;
}

function endsWords(mesh: PolyMesh): string {
  const ends = threadEnds(mesh).length;
  return ends > 0 ? `${plural(ends, 'end')} open. ` : '';
}

/** Which way the form faces at a point, or at a vertex of what is there. */
type Facing = (p: Vec3, v: number) => Vec3;

/** By the form; without one, by the faces beside, else all threads face alike, to the side they are seen from. */
function facingOf(mesh: PolyMesh, { form }: Ground, seen: Vec3): Facing {
  if (form) return (p) => form.closest(p).normal;
  const loose = [...mesh.edges()].filter((e) => mesh.isLooseEdge(e)).flatMap((e) => [mesh.point(mesh.origin(2 * e)), mesh.point(mesh.target(2 * e))]); // prettier-ignore
  const { normal } = bestPlane(loose);
  const flat = dot(normal, seen) < 0 ? scale(normal, -1) : normal;
  return (_p, v) => (mesh.vertexFaces(v).length > 0 ? vertexNormal(mesh, v) : flat);
}

/** A cell that threads make. */
export interface ThreadCell {
  /** stays the same as long as the threads do */
  name: number;
  /** in turn, counter-clockwise as the form faces */
  vertices: number[];
}

/** Which cells of threads are closed: up to a number of sides, and by their names. */
export interface CellChoice {
  most: number;
  also: readonly number[];
  except: readonly number[];
}
export const closesCell = ({ most, also, except }: CellChoice, { name, vertices }: ThreadCell): boolean =>
  !except.includes(name) && (vertices.length <= most || also.includes(name));

/** The choice with one cell closed, or left as an opening. */
export function withCell(
  { most, also, except }: CellChoice,
  { name, vertices }: ThreadCell,
  closes: boolean,
): CellChoice {
  // prettier-ignore
  const isPlain = vertices.length <= most;
  const without = (list: readonly number[]): number[] => list.filter((n) => n !== name);
  return {
    most,
    also: closes && !isPlain ? [...without(also), name] : without(also),
    except: !closes && isPlain ? [...without(except), name] : without(except),
  };
}

/** The cells of the threads there are. Cost: the threads. */
export const threadCells = (mesh: PolyMesh, facing: Vec3, ground: Ground): ThreadCell[] =>
  cellsOf(mesh, facingOf(mesh, ground, facing)).map((cell) => ({ name: Math.min(...cell), vertices: cell.map((h) => mesh.origin(h)) })); // prettier-ignore

/** Outlines that threads and open borders make, counter-clockwise as the form faces, as half-edges; each directed side is in one. */
function cellsOf(mesh: PolyMesh, facing: Facing): number[][] {
  const around = new Map<number, number[]>();
  const open = [...mesh.edges()].filter((e) => mesh.face(2 * e) === NONE || mesh.face(2 * e + 1) === NONE);
  for (const e of open)
    for (const h of [2 * e, 2 * e + 1]) around.set(mesh.origin(h), [...(around.get(mesh.origin(h)) ?? []), h]);
  for (const [v, halves] of around) around.set(v, inTurn(mesh, v, halves, facing));
  const seen = new Set<number>();
  const cells: number[][] = [];
  for (const e of open)
    for (const start of [2 * e, 2 * e + 1]) {
      const cell = trace(mesh, start, around, seen);
      // a cell needs a thread; a border alone is an opening, for Fill
      if (cell && cell.some((h) => mesh.isLooseEdge(h >> 1)) && facesForm(mesh, cell, facing)) cells.push(cell);
    }
  return cells;
}

/** Half-edges out of a vertex, counter-clockwise seen against the form's normal there. */
function inTurn(mesh: PolyMesh, v: number, halves: readonly number[], facing: Facing): number[] {
  const p = mesh.point(v);
  const n = facing(p, v);
  const [x, y] = frameOf(normalize(n));
  const angle = (h: number): number => {
    const d = sub(mesh.point(mesh.target(h)), p);
    return Math.atan2(dot(d, y), dot(d, x));
  };
  return [...halves].sort((a, b) => angle(a) - angle(b));
}
/** The outline that a half-edge with nothing on its left begins, always turning to the left-most next one; null when it is known or broken. */
function trace(
  mesh: PolyMesh,
  start: number,
  around: ReadonlyMap<number, number[]>,
  seen: Set<number>,
): number[] | null {
  if (seen.has(start) || mesh.face(start) !== NONE) return null;
  const cell: number[] = [];
  for (let h = start; !seen.has(h);) {
    seen.add(h);
    cell.push(h);
    const out = around.get(mesh.target(h)) ?? [];
    const at = out.indexOf(h ^ 1);
    // the next one clockwise from where it came is the left-most turn; faces in between are stepped over
    let next = NONE;
    for (let k = 1; k <= out.length && next === NONE; k++) {
      const g = out[(at - k + out.length * 2) % out.length];
      if (mesh.face(g) === NONE) next = g;
    }
    if (next === NONE) return null;
    h = next;
    if (h === start)
      return new Set(cell.map((g) => mesh.origin(g))).size === cell.length && cell.length > 2 ? cell : null;
  }
  return null;
}

/** Whether an outline runs counter-clockwise as the form faces: the outer one of all threads does not. */
function facesForm(mesh: PolyMesh, cell: readonly number[], facing: Facing): boolean {
  const points = cell.map((h) => mesh.point(mesh.origin(h)));
  const middle = points.reduce((s, p) => addScaled(s, p, 1 / points.length), [0, 0, 0] as Vec3);
  const first = cell.find((h) => mesh.face(h ^ 1) !== NONE) ?? cell[0];
  return dot(areaNormal(points), facing(middle, mesh.origin(first))) > 0;
}

function closeOne(mesh: PolyMesh, cell: readonly number[], ground: Ground): number[] {
  if (cell.length <= 4) return [addFace(mesh, cell)];
  const border = cell.map((v) => mesh.point(v));
  const onto = ground.form ? (q: Vec3): Vec3 => (ground.form ? ground.form.closest(q).point : q) : null;
  const [way] = fillBorder(border, cornersOf(border, cell, only({}), 40, []), onto);
  if (!way) return [];
  const ids = [...cell];
  for (let i = ids.length; i < way.points.length; i++) ids.push(addVertex(mesh, way.points[i]));
  return way.quads.map((quad) => addFace(mesh, quad.map((i) => ids[i]))); // prettier-ignore
}
