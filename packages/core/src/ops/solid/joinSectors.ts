import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import type { Axis } from '../../math';
import { edgeEnds, reweave, type PolyMesh } from '../../mesh';
import { operator, plural } from '../operator';
import { choice, count, Point, proposedLength } from '../params';
import { meanLength, only } from '../picked';
import { copyPatch } from './copyPatch';
import { evenSeam, seamOf, turnedOn, type Seam, type Sectors } from './sectors';

const Params = z.object({
  count: count('How many sectors', { min: 2, max: 128, start: 6 }),
  axis: choice('Round', [['x', 'x'], ['y', 'y'], ['z', 'z']], 'y'), // prettier-ignore
  within: proposedLength('Points join within', 'Empty: a tenth of an edge'),
  /** a point of the axis, file units */
  about: z._default(Point, [0, 0, 0]),
});
type Params = z.infer<typeof Params>;

export const sectorsOf = ({ axis, about, count: n }: Params): Sectors => ({ axis: axis as Axis, about, count: n });
export const joinsWithin = (mesh: PolyMesh, { within }: Params): number => within ?? 0.1 * meanLength(mesh, mesh.edges()); // prettier-ignore

/**
 * Makes a whole of one sector: turned copies of it all round an axis, joined at the seam, where each border point has a partner that a turn
 * brings it onto. Points that nearly meet are brought onto each other first, and those by the axis onto it. What stays open between seam
 * points, and what only nearly meets, is told. Refuses (NO_WAY) a sector that meets its neighbours nowhere. Cost: all sectors.
 */
export const joinSectors = operator({
  name: 'join-sectors',
  title: 'Join sectors',
  params: Params,
  run(mesh, _selection, p, ground) {
    if (ground.plane)
      throw new TopologyError('NO_WAY', 'Symmetry is on, so the piece is half a sector; make the mirror real first, or turn symmetry off.'); // prettier-ignore
    const faces = [...mesh.faces()];
    if (faces.length === 0) throw new TopologyError('NOTHING_PICKED', 'There are no faces of a sector yet.');
    const sectors = sectorsOf(p);
    const seam = seamOf(mesh, sectors, joinsWithin(mesh, p));
    if (seam.pairs.length + seam.hub.length === 0)
      throw new TopologyError('NO_WAY', `No border point of the sector meets its image in the next one: a turn by ${Number((360 / p.count).toFixed(2))}° round ${p.axis} brings none near another.`); // prettier-ignore
    const moved = evenSeam(mesh, sectors, seam);
    const sides = seamEdges(mesh, seam);
    const welded = weldAll(mesh, seam, turnedAll(mesh, faces, sectors));
    const isOpen = ([u, v]: [number, number]): boolean => mesh.isBorderEdge(mesh.findHalf(welded(u), welded(v)) >> 1);
    const open = p.count * sides.filter(isOpen).length;
    const words = [
      `${p.count} sectors, joined at ${plural(seam.pairs.length, 'pair')} of points each`,
      seam.hub.length > 0 && `${plural(seam.hub.length, 'point')} on the axis`,
      moved > 0 && `${plural(moved, 'point')} brought onto the seam`,
      open > 0 && `${plural(open, 'edge')} open at it`,
      seam.apart.length > 0 && `${plural(seam.apart.length, 'point')} near it without a partner`,
    ];
    return {
      selection: only({}),
      report: {
        sentence: words.filter(Boolean).join('; '),
        counts: { sectors: p.count, pairs: seam.pairs.length, hub: seam.hub.length, moved, open, apart: seam.apart.length }, // prettier-ignore
      },
    };
  },
});

/** The sector and its turned copies: for each, where every vertex went. */
function turnedAll(mesh: PolyMesh, faces: readonly number[], sectors: Sectors): ((v: number) => number)[] {
  const images: ((v: number) => number)[] = [(v) => v];
  for (let k = 1; k < sectors.count; k++) {
    const made = copyPatch(mesh, faces, (q) => turnedOn(sectors, q, k), { plane: null, form: null });
    const image = new Map<number, number>();
    faces.forEach((f, i) => {
      const own = mesh.faceVertices(made[i]);
      mesh.faceVertices(f).forEach((v, j) => image.set(v, own[j]));
    });
    images.push((v) => image.get(v) ?? v);
  }
  return images;
}

/** Welds what lies in one place: each pair between neighbours, each hub point of all sectors; gives where a vertex is afterwards. */
function weldAll(
  mesh: PolyMesh,
  { pairs, hub }: Seam,
  images: readonly ((v: number) => number)[],
): (v: number) => number {
  const into = new Map<number, number>();
  const root = (v: number): number => {
    let w = v;
    while (into.has(w)) w = into.get(w) as number;
    return w;
  };
  const join = (a: number, b: number): void => {
    const [from, to] = [root(a), root(b)];
    if (from !== to) into.set(from, to);
  };
  images.forEach((image, k) => {
    const next = images[(k + 1) % images.length];
    for (const [v, w] of pairs) join(next(v), image(w));
    for (const h of hub) join(image(h), h);
  });
  reweave(mesh, into);
  return root;
}

/** The sector's border edges along either side of the seam, by their ends. */
function seamEdges(mesh: PolyMesh, { pairs, hub, apart }: Seam): [number, number][] {
  const sides = [0, 1].map((k) => new Set([...pairs.map((pair) => pair[k]), ...hub, ...apart]));
  return [...mesh.edges()]
    .filter((e) => mesh.isBorderEdge(e))
    .map((e) => edgeEnds(mesh, e))
    .filter(([u, v]) => sides.some((side) => side.has(u) && side.has(v)));
}
