import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { addScaled, AXES, axisVector, type Axis } from '../../math';
import { FILE_CHANNELS, NONE, Rebuild, turnOver, type PolyMesh, type Selection } from '../../mesh';
import { BARE_GROUND, once, type Ground } from '../ground';
import { operator, plural } from '../operator';
import { choice, count, proposedLength, toggle } from '../params';
import { meanLength, only, pickedFaces } from '../picked';
import { copyPatch, wholeParts } from './copyPatch';
import { edgeKey, nearness, polygonsOf, quadsFrom, withoutSlivers, type SolidFace } from './solidFaces';
import { changeSolids, keepSolids, Places, type SolidChange, type SolidResult } from './solids';

const Params = z.object({
  change: choice('Do', [['cut', 'cut it away'], ['join', 'join it on'], ['common', 'keep the common part']], 'cut'), // prettier-ignore
  count: count('Cutting shapes in a line', { min: 1, max: 64, start: 1 }),
  axis: choice('Line along', [['x', 'x'], ['y', 'y'], ['z', 'z']], 'x'), // prettier-ignore
  step: proposedLength('Step', 'From one to the next; empty: side by side'),
  clean: toggle('Clean the cut', true, 'Weld slivers, lead n-gons out into quads'),
  hard: toggle('Hard edges along it', true),
  keep: toggle('Keep the cutting shape', false),
});

type Params = z.infer<typeof Params>;

/** Of the mean edge: cut edges shorter than this are slivers. */
const SLIVER = 0.04;

/**
 * Cuts the picked closed part, or several of it in a line, away from all other closed parts, joins it on, or keeps what is common. Faces that the cut does not reach
 * stay as they are; pieces of one face are one polygon again; what cleaning did is told. New faces take the attributes of
 * the face that they are a piece of. Refuses (NO_WAY) parts that enclose no solid. The solids are joined by the Manifold
 * library's exact scheme (Smith and Dodgson 2007). Cost: the closed parts.
 */
export const booleanParts = operator({
  name: 'boolean',
  title: 'Boolean',
  params: Params,
  run(mesh, selection, p, ground) {
    const { change, clean, hard, keep } = p;
    const parts = once(ground, 'parts', () => readParts(mesh, selection));
    const { first, body } = parts;
    const cutters = [first, ...repeated(mesh, first, p)];
    const cutter = cutters.flat();
    const result = changed(mesh, parts, cutters, change, ground);
    const { gone, turned } = result;
    const ofCutter = new Set(cutter);
    let faces: readonly SolidFace[] = polygonsOf(result);
    if (faces.length + turned.size === 0 && gone.size === body.length + cutter.length)
      throw new TopologyError('NO_WAY', 'Nothing would be left: the parts do not meet, or one lies wholly in the other.', { faces: cutter }); // prettier-ignore
    const sides = sidesBySource(faces, ofCutter);
    const isCut = (u: number, v: number): boolean => sides.has(edgeKey(u, v));
    const isHeld = (u: number, v: number): boolean => {
      const [a, b] = [result.vertexAt[u], result.vertexAt[v]];
      const h = a >= 0 && b >= 0 ? mesh.findHalf(a, b) : NONE;
      const stays = (f: number): boolean => f !== NONE && !gone.has(f) && !turned.has(f);
      return h !== NONE && (stays(mesh.face(h)) || turned.has(mesh.face(h ^ 1)));
    };
    const sliver = clean ? withoutSlivers(faces, result, SLIVER * parts.mean, isCut, isHeld) : { faces, welded: 0 };
    faces = sliver.faces;
    if (keep) copyPatch(mesh, first, (q) => q, ground);
    const before = mesh.faceCount;
    const done = rebuilt(mesh, result, faces, clean);
    const hardEdges = hard ? harden(mesh, done.made.slice(turned.size), ofCutter) : 0;
    const triangles = done.made.filter(({ f }) => mesh.faceHalves(f).length === 3).length;
    const words = [
      `${{ cut: 'Cut', join: 'Joined', common: 'Common part' }[change]}: ${plural(done.made.length, 'face')} in place of ${done.made.length + before - mesh.faceCount}`, // prettier-ignore
      sliver.welded > 0 && `${plural(sliver.welded, 'sliver')} welded`,
      done.ngons > 0 && `${plural(done.ngons, 'n-gon')} led out into quads`,
      triangles > 0 && `${plural(triangles, 'triangle')} left`,
      hardEdges > 0 && `${plural(hardEdges, 'edge')} made hard`,
    ];
    return {
      selection: only({ faces: done.made.map(({ f }) => f) }),
      report: {
        sentence: words.filter(Boolean).join('; '),
        counts: { faces: done.made.length, welded: sliver.welded, ngons: done.ngons, triangles, hard: hardEdges }, // prettier-ignore
      },
    };
  },
});

/** What there is to change, whatever the settings. */
interface Parts {
  /** faces of the picked cutting shape */
  first: number[];
  /** faces of the other closed parts */
  body: number[];
  /** mean edge length */
  mean: number;
  places: Places;
}

function readParts(mesh: PolyMesh, selection: Selection): Parts {
  const first = wholeParts(mesh, pickedFaces(mesh, selection, 'Pick a face of the cutting shape.'));
  const body = closedOthers(mesh, first);
  const edges = new Set([...body, ...first].flatMap((f) => mesh.faceHalves(f).map((h) => h >> 1)));
  return { first, body, mean: meanLength(mesh, edges), places: new Places(mesh, [...body, ...first]) };
}

function changed(
  mesh: PolyMesh,
  { first, body, places }: Parts,
  cutters: readonly (readonly number[])[],
  change: SolidChange,
  ground: Ground,
): SolidResult {
  if (cutters.length === 1 && ground.memo)
    return changeSolids(
      mesh,
      once(ground, 'solids', () => keepSolids(mesh, body, [first])),
      places,
      change,
    );
  const all = cutters.length === 1 ? places : new Places(mesh, [...body, ...cutters.flat()]);
  const solids = keepSolids(mesh, body, cutters);
  try {
    return changeSolids(mesh, solids, all, change);
  } finally {
    solids.delete();
  }
}

/** Further cutting shapes in a line with the first. */
function repeated(mesh: PolyMesh, first: readonly number[], { count: n, axis, step }: Params): number[][] {
  if (n === 1) return [];
  const k = AXES.indexOf(axis as Axis);
  const spread = first.flatMap((f) => mesh.faceVertices(f).map((v) => mesh.point(v)[k]));
  const size = spread.reduce((a, b) => Math.max(a, b), -Infinity) - spread.reduce((a, b) => Math.min(a, b), Infinity);
  const by = step ?? 1.25 * size;
  return Array.from({ length: n - 1 }, (_, i) =>
    copyPatch(mesh, first, (q) => addScaled(q, axisVector(`+${AXES[k]}`), by * (i + 1)), BARE_GROUND),
  );
}

/** The faces of all parts without a border, but those of the cutter. Throws NOTHING_PICKED when there are none. */
function closedOthers(mesh: PolyMesh, cutter: readonly number[]): number[] {
  const left = new Set(mesh.faces());
  for (const f of cutter) left.delete(f);
  const found: number[] = [];
  while (left.size > 0) {
    const part = wholeParts(mesh, [left.values().next().value as number]);
    for (const f of part) left.delete(f);
    if (part.every((f) => mesh.faceHalves(f).every((h) => mesh.face(h ^ 1) !== NONE)))
      for (const f of part) found.push(f);
  }
  if (found.length === 0)
    throw new TopologyError('NOTHING_PICKED', 'There is no other closed part here; the cutting shape needs one to work on.'); // prettier-ignore
  return found;
}

/** Sides between a piece of the body and one of the cutter. */
function sidesBySource(faces: readonly SolidFace[], ofCutter: ReadonlySet<number>): Set<number> {
  const own = new Map<number, boolean>();
  const cut = new Set<number>();
  for (const { corners, face } of faces)
    corners.forEach((u, k) => {
      const v = corners[(k + 1) % corners.length];
      const key = edgeKey(u, v);
      const known = own.get(key);
      if (known !== undefined && known !== ofCutter.has(face)) cut.add(key);
      own.set(key, ofCutter.has(face));
    });
  return cut;
}

interface Made {
  /** the new face, and the old one that it is a piece of */
  f: number;
  from: number;
}

/** Puts the result in place of the old faces; those that came out whole are left alone, or turned over: they come first. */
function rebuilt(
  mesh: PolyMesh,
  { points, vertexAt, gone, turned }: SolidResult,
  faces: readonly SolidFace[],
  clean: boolean,
): { made: Made[]; ngons: number } {
  const corners = new Map(faces.map(({ face }) => [face, mesh.faceVertices(face)]));
  const rebuild = new Rebuild(mesh, gone);
  // nothing but what is turned is left of the cutting shape now
  turnOver(mesh, turned);
  const vertices = new Map<number, number>();
  const vertexOf = (i: number, face: number): number => {
    const known = vertexAt[i] >= 0 ? vertexAt[i] : vertices.get(i);
    if (known !== undefined) return known;
    const own = corners.get(face) as number[];
    const v = rebuild.vertex(points[i], { vertices: own, weights: nearness(points[i], own.map((w) => mesh.point(w))) }); // prettier-ignore
    vertices.set(i, v);
    return v;
  };
  let ngons = 0;
  const from: number[] = [];
  for (const { corners: outline, face } of faces) {
    const parts = clean && outline.length > 4 ? quadsFrom(outline, points) : [outline];
    if (parts.length > 1) ngons++;
    for (const part of parts) {
      rebuild.face(part.map((i) => vertexOf(i, face)), face); // prettier-ignore
      from.push(face);
    }
  }
  const made = rebuild.finish().map((f, k) => ({ f, from: from[k] }));
  return { made: [...[...turned].map((f) => ({ f, from: f })), ...made], ngons };
}

/** Edges between what was the body and what was the cutter become hard; returns how many. */
function harden(mesh: PolyMesh, made: readonly Made[], ofCutter: ReadonlySet<number>): number {
  const source = new Map(made.map(({ f, from }) => [f, ofCutter.has(from)]));
  const hard = mesh.channel(FILE_CHANNELS.hardEdges);
  const edges = new Set<number>();
  for (const { f } of made)
    for (const h of mesh.faceHalves(f)) {
      const g = mesh.face(h ^ 1);
      if (g !== NONE && (source.get(g) ?? ofCutter.has(g)) !== source.get(f)) edges.add(h >> 1);
    }
  for (const e of edges) hard.set(e, 1);
  return edges.size;
}
