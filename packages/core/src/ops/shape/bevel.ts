import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { addScaled, distance, lerp, normalize, roundedCorner, sub, type Vec3 } from '../../math';
import { copyOf, NONE, Rebuild, type PolyMesh } from '../../mesh';
import { settledPlace, type Ground } from '../ground';
import { operator, plural, type Outcome } from '../operator';
import { count, proposedLength } from '../params';
import { edgeLength, meanLength, only } from '../picked';
import { bevelAlone } from './bevelAlone';
import { isSeamEdge, planCorner, profileAt, type Corner } from './bevelCorners';
import { fillCorner } from './cornerPatch';

const Params = z.object({
  width: proposedLength('Width', 'From the old edge or point'),
  segments: count('Segments', { min: 1, max: 12, start: 1 }),
});

/**
 * Bevels picked edges, or picked points when no edge is picked: a strip of so many quads in place of each edge, rounded from
 * face to face, corners closed by quads whatever the number of edges that meet there. An edge whose row ends
 * inside the mesh runs out to its end point; one that is alone opens at both ends. Along the midline half a strip is made. Widths are held back where an edge is too short. New faces are in the region
 * of the face on their left.
 */
export const bevel = operator({
  name: 'bevel',
  title: 'Bevel',
  params: Params,
  run(mesh, selection, params, ground) {
    const edges = selection.edges.filter((e) => mesh.hasEdge(e));
    if (edges.length > 0) return bevelEdges(mesh, edges, params, ground);
    const vertices = selection.vertices.filter((v) => mesh.hasVertex(v));
    if (vertices.length > 0) return bevelVertices(mesh, vertices, params, ground);
    throw new TopologyError('NOTHING_PICKED', 'Pick edges or points to bevel.');
  },
});

function bevelEdges(
  mesh: PolyMesh,
  picked: readonly number[],
  { width, segments }: z.infer<typeof Params>,
  ground: Ground,
): Outcome {
  const isSeam = (e: number): boolean => isSeamEdge(mesh, e, ground);
  const bevelled = new Set(
    picked.filter((e) => (mesh.face(2 * e) !== NONE && mesh.face(2 * e + 1) !== NONE) || isSeam(e)),
  );
  if (bevelled.size === 0)
    throw new TopologyError('NO_WAY', 'Border edges have nothing on their other side to bevel to.', {
      edges: [...picked],
    });
  const by = width ?? meanLength(mesh, picked) / 6;
  const vertices = [...new Set([...bevelled].flatMap((e) => [mesh.origin(2 * e), mesh.target(2 * e)]))];
  const corners = new Map(vertices.map((v) => [v, planCorner(mesh, v, bevelled, by, ground)]));
  const isAlone = (e: number): boolean => [2 * e, 2 * e + 1].every((h) => corners.get(mesh.origin(h))?.tapers);
  const alone = [...bevelled].filter(isAlone);
  const rows = new Set([...bevelled].filter((e) => !alone.includes(e)));
  const seam = alone.find(isSeam);
  if (seam !== undefined)
    throw new TopologyError('NO_WAY', 'A single edge of the midline has nowhere to widen; pick a row of them that goes on or meets a border.', { edges: [seam] }); // prettier-ignore
  const pairs = alone.map((e): [number, number] => [mesh.origin(2 * e), mesh.target(2 * e)]);
  for (const v of pairs.flat()) corners.delete(v);
  const along = rows.size > 0 ? bevelRows(mesh, rows, corners, segments, ground) : { faces: [], corners: 0 };
  // points outlive what the rows did to the faces round them; edges do not
  const apart = pairs.flatMap((ends) => bevelAlone(mesh, ends, by, segments, ground));
  const faces = [...along.faces, ...apart];
  const across =
    segments % 2 === 1 && [...rows].some(isSeam) ? `, ${evenUp(segments)} segments across the midline` : '';
  const closed = along.corners + 2 * alone.length;
  return {
    selection: only({ faces }),
    report: {
      sentence: `${plural(bevelled.size, 'edge')} bevelled, ${plural(faces.length, 'face')} along them and ${plural(closed, 'face')} in corners, in the region on their left${across}`,
      counts: { edges: bevelled.size, faces: faces.length, corners: closed, width: by },
    },
  };
}

/** Rows of edges that go on, close, or meet a border. */
function bevelRows(
  mesh: PolyMesh,
  bevelled: ReadonlySet<number>,
  corners: ReadonlyMap<number, Corner>,
  segments: number,
  ground: Ground,
): { faces: number[]; corners: number } {
  const faces = new Set([...corners.keys()].flatMap((v) => mesh.vertexFaces(v)));
  const outlines = [...faces].map((f) => ({ f, halves: mesh.faceHalves(f) }));
  const strips = [...bevelled].map((e) => ({
    e,
    left: mesh.face(2 * e) === NONE ? mesh.face(2 * e + 1) : mesh.face(2 * e),
    ends: [mesh.origin(2 * e), mesh.target(2 * e)],
  }));
  const profiles = new Map(
    [...corners.values()].flatMap((c) =>
      c.spokes.map((i) => [c.halves[i], profileAt(mesh, c, i, c.seam ? evenUp(segments) : segments, ground)] as const),
    ),
  );
  const old = outlines.map(({ halves }) => halves.map((h) => mesh.origin(h)));
  const spokesLeft = spokesOf(mesh, corners, bevelled);

  const rebuild = new Rebuild(mesh, faces);
  const made = new Map<number, number[]>();
  for (const c of corners.values()) made.set(c.vertex, c.tapers ? [c.vertex] : c.sectors.map((s) => rebuild.vertex(s.at, copyOf(c.vertex)))); // prettier-ignore
  const sectorVertex = (v: number, h: number): number => {
    const c = corners.get(v);
    return c ? (made.get(v) as number[])[c.sectorAt[c.halves.indexOf(h)]] : v;
  };
  const rails = railsFor(mesh, rebuild, corners, profiles, made, ground);
  for (const { u, v, e, hu, hv } of spokesLeft) rebuild.edge(sectorVertex(u, hu), sectorVertex(v, hv), e);
  outlines.forEach(({ f, halves }, k) => {
    const outline = halves.map((h, i) => sectorVertex(old[k][i], h));
    rebuild.face(outline.filter((v, i) => v !== outline[(i + 1) % outline.length]), f); // prettier-ignore
  });
  const stripFaces = strips.flatMap(({ e, left }) =>
    strip(rebuild, rails.get(2 * e) as number[], rails.get(2 * e + 1) as number[], left),
  );
  let cornerFaces = 0;
  for (const c of corners.values()) cornerFaces += closeCorner(mesh, rebuild, c, rails, strips[0].left);
  const all = rebuild.finish();
  for (const c of corners.values())
    if (c.seam && !c.tapers) mesh.setPoint(c.vertex, settledPlace(mesh.point(c.vertex), crownOf(c, profiles), { ...ground, form: null })); // prettier-ignore
  return { faces: stripFaces.map((k) => all[k]), corners: cornerFaces };
}

/** On the midline the middle of the strip is a row of points, so that its segments are even in number. */
const evenUp = (segments: number): number => 2 * Math.ceil(segments / 2);

/** Where the middle of a strip along the midline goes. */
function crownOf(c: Corner, profiles: ReadonlyMap<number, Vec3[]>): Vec3 {
  const profile = profiles.get(c.halves[c.spokes[0]]) as Vec3[];
  const [first, last] = [profile[0], profile[profile.length - 1]];
  return first === c.sectors[0].at ? last : first;
}

/** Edges at the corners that are not bevelled themselves, with the half-edges that name their sectors. */
function spokesOf(mesh: PolyMesh, corners: ReadonlyMap<number, Corner>, bevelled: ReadonlySet<number>) {
  const edges = new Set([...corners.values()].flatMap((c) => c.halves.map((h) => h >> 1)));
  return [...edges]
    .filter((e) => !bevelled.has(e))
    .map((e) => {
      const named = (h: number): number => (mesh.face(h) === NONE ? mesh.next(h ^ 1) : h);
      return { e, u: mesh.origin(2 * e), v: mesh.target(2 * e), hu: named(2 * e), hv: named(2 * e + 1) };
    });
}

/** Bevelled half-edge → the vertices across its end, from its left to its right; two that meet at a point share theirs. */
function railsFor(
  mesh: PolyMesh,
  rebuild: Rebuild,
  corners: ReadonlyMap<number, Corner>,
  profiles: ReadonlyMap<number, Vec3[]>,
  made: ReadonlyMap<number, number[]>,
  ground: Ground,
): Map<number, number[]> {
  const rails = new Map<number, number[]>();
  const bare = { ...ground, form: null };
  for (const c of corners.values()) {
    const sectors = made.get(c.vertex) as number[];
    c.spokes.forEach((i, k) => {
      const h = c.halves[i];
      if (c.seam) return void rails.set(h, seamRail(rebuild, c, k, h, profiles, rails, sectors));
      const [left, right] = [sectors[c.sectorAt[i]], sectors[c.sectorAt[(i + 1) % c.halves.length]]];
      if (left === right) return void rails.set(h, [left]);
      if (k === 1 && c.spokes.length === 2 && !c.open)
        return void rails.set(h, [...(rails.get(c.halves[c.spokes[0]]) as number[])].reverse());
      const inner = (profiles.get(h) as Vec3[])
        .slice(1, -1)
        .map((p) => rebuild.vertex(settledPlace(mesh.point(c.vertex), p, bare), copyOf(c.vertex)));
      rails.set(h, [left, ...inner, right]);
    });
  }
  return rails;
}

/** The row from a midline vertex to the sector beside it, or back: two bevelled edges at one vertex share it. */
function seamRail(
  rebuild: Rebuild,
  c: Corner,
  k: number,
  h: number,
  profiles: ReadonlyMap<number, Vec3[]>,
  rails: ReadonlyMap<number, number[]>,
  [sector]: readonly number[],
): number[] {
  if (c.tapers) return [c.vertex];
  if (k === 1) return [...(rails.get(c.halves[c.spokes[0]]) as number[])].reverse();
  const profile = profiles.get(h) as Vec3[];
  const inner = profile.slice(1, -1).map((p) => rebuild.vertex(p, copyOf(c.vertex)));
  return profile[0] === c.sectors[0].at ? [sector, ...inner, c.vertex] : [c.vertex, ...inner, sector];
}

/** The strip of one edge between its two ends; `b` runs the other way round, since it is seen from its own end. */
function strip(rebuild: Rebuild, a: readonly number[], b: readonly number[], like: number): number[] {
  const far = [...b].reverse();
  const n = Math.max(a.length, far.length) - 1;
  const at = (list: readonly number[], i: number): number => (list.length === 1 ? list[0] : list[i]);
  return Array.from({ length: n }, (_, i) => {
    const outline = [at(far, i), at(a, i), at(a, i + 1), at(far, i + 1)];
    return rebuild.face(outline.filter((v, k) => v !== outline[(k + 1) % 4]), like); // prettier-ignore
  });
}

function closeCorner(
  mesh: PolyMesh,
  rebuild: Rebuild,
  c: Corner,
  rails: ReadonlyMap<number, number[]>,
  like: number,
): number {
  const sides = [...c.spokes].reverse().map((i) => [...(rails.get(c.halves[i]) as number[])].reverse());
  if (c.seam) return 0;
  if (c.open) {
    const outline = [...sides.flatMap((side) => side.slice(0, -1)), sides[sides.length - 1].at(-1) as number];
    if (c.spokes.length < 2) return 0;
    rebuild.face(outline, like);
    return 1;
  }
  return c.spokes.length < 3 ? 0 : fillCorner(mesh, rebuild, sides, like, c.vertex);
}

// ---- points -------------------------------------------------------------------------------------

function bevelVertices(
  mesh: PolyMesh,
  vertices: readonly number[],
  { width, segments }: z.infer<typeof Params>,
  ground: Ground,
): Outcome {
  const all = new Set(vertices);
  const edges = [...new Set(vertices.flatMap((v) => mesh.vertexHalves(v).map((h) => h >> 1)))];
  const by = width ?? meanLength(mesh, edges) / 3;
  const bare = { ...ground, form: null };
  const plans = vertices.map((v) => {
    const halves = mesh.vertexHalves(v);
    if (halves.length < 3 || halves.some((h) => mesh.face(h) === NONE))
      throw new TopologyError('NO_WAY', 'Only points with faces all round can be bevelled.', { vertices: [v] });
    return { v, halves, at: halves.map((h) => settledPlace(mesh.point(v), alongEdge(mesh, h, by, all), bare)) };
  });
  const faces = new Set(vertices.flatMap((v) => mesh.vertexFaces(v)));
  const outlines = [...faces].map((f) => ({ f, halves: mesh.faceHalves(f), corners: mesh.faceVertices(f) }));
  const points = new Map(vertices.map((v) => [v, mesh.point(v)]));
  const links = edges.map((e) => ({ e, u: mesh.origin(2 * e), v: mesh.target(2 * e) }));
  const like = mesh.face(plans[0].halves[0]);
  const rebuild = new Rebuild(mesh, faces);
  const onEdge = new Map<number, number>();
  const sides = new Map<number, number[]>();
  for (const { v, halves, at } of plans) {
    halves.forEach((h, i) => onEdge.set(h, rebuild.vertex(at[i], copyOf(v))));
    halves.forEach((h, i) => {
      const before = halves[(i + halves.length - 1) % halves.length];
      const [a, b] = [onEdge.get(before) as number, onEdge.get(h) as number];
      const inner = Array.from({ length: segments - 1 }, (_, k) => rebuild.vertex(roundedCorner(mesh.point(a), lerp(points.get(v) as Vec3, lerp(mesh.point(a), mesh.point(b), 0.5), 0.5), mesh.point(b), (k + 1) / segments), copyOf(v))); // prettier-ignore
      sides.set(h, [a, ...inner, b]);
    });
  }
  const at = (h: number, v: number): number => onEdge.get(h) ?? v;
  for (const { e, u, v } of links) rebuild.edge(at(2 * e, u), at(2 * e + 1, v), e);
  for (const { f, halves, corners } of outlines) rebuild.face(halves.flatMap((h, i) => sides.get(h) ?? [corners[i]]), f); // prettier-ignore
  let caps = 0;
  for (const { v, halves } of plans)
    caps += fillCorner(
      mesh,
      rebuild,
      [...halves].reverse().map((h) => [...(sides.get(h) as number[])].reverse()),
      like,
      v,
    );
  rebuild.finish();
  return {
    selection: only({ vertices: [...onEdge.values()] }),
    report: { sentence: `${plural(vertices.length, 'point')} bevelled, ${plural(caps, 'face')} in their place, in the region beside`, counts: { vertices: vertices.length, faces: caps, width: by } }, // prettier-ignore
  };
}

function alongEdge(mesh: PolyMesh, h: number, width: number, bevelled: ReadonlySet<number>): Vec3 {
  const [p, q] = [mesh.point(mesh.origin(h)), mesh.point(mesh.target(h))];
  const most = edgeLength(mesh, h >> 1) * (bevelled.has(mesh.target(h)) ? 0.48 : 0.95);
  return addScaled(p, normalize(sub(q, p)), Math.min(width, most, distance(p, q)));
}
