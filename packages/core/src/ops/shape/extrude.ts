import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { addScaled, scale, type Vec3 } from '../../math';
import { copyOf, faceNormal, facePatches, Rebuild, vertexNormal, type PolyMesh, type Selection } from '../../mesh';
import { drawOut, openHalf } from '../drawOut';
import { settledPlace, type Ground } from '../ground';
import { operator, plural, type Outcome } from '../operator';
import { choice, proposedLength } from '../params';
import { meanLength, only, pickedFaces } from '../picked';
import { uniqueEnds } from '../rowPlaces';
import { Copies, innerVertices, rimAndFans } from './fans';
import { evenOffset, inwardOf, meanDirection, normalsAt } from './offsets';

const Params = z.object({
  distance: proposedLength('By', 'Negative goes inward'),
  faces: choice('Faces', [['together', 'together'], ['apart', 'each on its own']], 'together'), // prettier-ignore
  walls: choice('Walls', [['even', 'of even thickness'], ['straight', 'straight up']], 'even'), // prettier-ignore
  edges: choice('Edges go', [['out', 'on in their plane'], ['up', 'up along the normal']], 'out'), // prettier-ignore
});
type Params = z.infer<typeof Params>;

/**
 * Extrudes picked faces, together or each on its own, or picked border edges: copies move out, walls of quads join them to what
 * stays. Even walls keep the distance to every face at corners, so that nothing shears; straight ones all go one way.
 * Walls are in the region of the face they come from. No wall is built on the midline.
 */
export const extrude = operator({
  name: 'extrude',
  title: 'Extrude',
  params: Params,
  run(mesh, selection, params, ground) {
    const faces = selection.faces.filter((f) => mesh.hasFace(f));
    return faces.length > 0 ? extrudeFaces(mesh, selection, params, ground) : extrudeEdges(mesh, selection, params, ground); // prettier-ignore
  },
});

function extrudeFaces(
  mesh: PolyMesh,
  selection: Selection,
  { distance, faces: how, walls }: Params,
  ground: Ground,
): Outcome {
  const faces = pickedFaces(mesh, selection);
  const edges = new Set(faces.flatMap((f) => mesh.faceHalves(f).map((h) => h >> 1)));
  const by = distance ?? meanLength(mesh, edges) / 2;
  const groups = how === 'apart' ? faces.map((f) => [f]) : facePatches(mesh, faces);
  const works = groups.map((group) => ({ group, ...rimAndFans(mesh, group, ground), set: new Set(group) }));
  const bare = { ...ground, form: null };
  const moves: [number, Vec3][] = [];
  const plans = works.map(({ group, rim, fans, set }) => {
    const one = meanDirection(group.map((f) => faceNormal(mesh, f)));
    const offset = (v: number, around: ReadonlySet<number>): Vec3 =>
      settledPlace(mesh.point(v), addScaled(mesh.point(v), walls === 'straight' ? scale(one, by) : evenOffset(normalsAt(mesh, v, around, ground), by), 1), bare); // prettier-ignore
    for (const v of innerVertices(mesh, group, fans)) moves.push([v, offset(v, set)]);
    const seams = new Set(rim.filter((r) => r.seam).map((r) => r.half));
    const copied = fans.filter((fan) => !(seams.has(fan.out) && seams.has(fan.into)));
    for (const fan of fans) if (!copied.includes(fan)) moves.push([fan.vertex, offset(fan.vertex, set)]);
    return {
      outlines: group.map((f) => ({ f, corners: mesh.faceVertices(f) })),
      rim: rim.map((r) => ({ ...r, f: mesh.face(r.half), a: mesh.origin(r.half), b: mesh.target(r.half) })),
      copied: copied.map((fan) => ({ fan, at: offset(fan.vertex, new Set(fan.faces)) })),
    };
  });
  const rebuild = new Rebuild(mesh, faces);
  const copies = new Copies();
  for (const { copied } of plans)
    for (const { fan, at } of copied) copies.set(fan, rebuild.vertex(at, copyOf(fan.vertex)));
  const tops: number[] = [];
  let wallCount = 0;
  for (const { outlines, rim } of plans) {
    for (const { f, corners } of outlines) tops.push(rebuild.face(corners.map((v) => copies.of(f, v)), f)); // prettier-ignore
    for (const { half, seam, f, a, b } of rim) {
      const [a2, b2] = [copies.of(f, a), copies.of(f, b)];
      rebuild.edge(a2, b2, half >> 1);
      if (seam || (a2 === a && b2 === b)) continue;
      rebuild.face(
        [a, b, b2, a2].filter((v, i, all) => all.indexOf(v) === i),
        f,
      );
      wallCount++;
    }
  }
  const all = rebuild.finish();
  for (const [v, to] of moves) mesh.setPoint(v, to);
  return {
    selection: only({ faces: tops.map((k) => all[k]) }),
    report: {
      sentence: `${plural(tops.length, 'face')} extruded, ${plural(wallCount, 'wall')} in the region of their faces`,
      counts: { faces: tops.length, walls: wallCount, distance: by },
    },
  };
}

function extrudeEdges(mesh: PolyMesh, selection: Selection, { distance, edges: way }: Params, ground: Ground): Outcome {
  const edges = selection.edges.filter((e) => mesh.hasEdge(e));
  if (edges.length === 0) throw new TopologyError('NOTHING_PICKED', 'Pick faces or border edges to extrude.');
  const by = distance ?? meanLength(mesh, edges) / 2;
  const halves = edges.map((e) => openHalf(mesh, e));
  const bare = { ...ground, form: null };
  const ends = uniqueEnds(mesh, edges).map((from) => {
    const out = halves
      .filter((h) => mesh.origin(h) === from || mesh.target(h) === from)
      .map((h) => scale(inwardOf(mesh, h ^ 1), -1));
    const m = way === 'up' ? scale(vertexNormal(mesh, from), by) : evenOffset(out, by);
    return {
      from,
      to: {
        point: [...settledPlace(mesh.point(from), addScaled(mesh.point(from), m, 1), bare)] as [number, number, number],
      },
    };
  });
  const done = drawOut.run(mesh, selection, { edges, ends }, ground);
  return {
    selection: done.selection,
    report: {
      sentence: `${plural(edges.length, 'edge')} extruded into ${plural(edges.length, 'face')} in the region beside`,
      counts: { edges: edges.length, faces: edges.length, distance: by },
    },
  };
}
