import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { alongCurve, lerp, type Vec3 } from '../../math';
import { addFace, addVertex, NONE, type Chain, type PolyMesh } from '../../mesh';
import { newPlace, type Ground } from '../ground';
import { operator, plural } from '../operator';
import { choice, count, toggle } from '../params';
import { only, pickedEdges } from '../picked';
import { bandBetween } from './band';
import { carryFrom } from './carry';
import { beside, openChains, rowsBetween } from './strips';

const Params = z.object({
  rows: count('Rows', { min: 1, max: 64, start: 1 }),
  twist: count('Twisted by', { min: -64, max: 64, start: 0, hint: 'Points that a closed border is turned on' }),
  following: toggle('Follow the curvature', true, 'Rows go on as the faces beside do'),
  differ: choice('Where counts differ', [['quads', 'quads and poles'], ['triangles', 'triangles']], 'quads'), // prettier-ignore
});

/**
 * Bridges two picked borders, or two runs of border edges: rows of quads between them, paired with the least way to go, twisted on request,
 * straight or as the faces on both sides go on. Where counts differ by an even number a band of quads with poles takes that up; else, or on request, the first row has a triangle for each edge too many. Refuses (NO_WAY)
 * one border that closes and one that does not. Cost: for closed borders the product of their counts.
 */
export const bridge = operator({
  name: 'bridge',
  title: 'Bridge',
  params: Params,
  run(mesh, selection, p, ground) {
    const chains = openChains(mesh, pickedEdges(mesh, selection, 'Pick two borders to bridge.'));
    if (chains.length !== 2)
      throw new TopologyError('NOTHING_PICKED', `Pick two borders to bridge; ${plural(chains.length, 'run')} of edges ${chains.length === 1 ? 'is' : 'are'} picked.`); // prettier-ignore
    const [first, second] = chains[0].halves.length <= chains[1].halves.length ? chains : [chains[1], chains[0]];
    if (first.closed !== second.closed)
      throw new TopologyError('NO_WAY', 'One of these borders closes and the other does not; pick a run of the closed one.'); // prettier-ignore
    const far = beside(mesh, first, second, p.twist);
    const like = [...first.halves, ...second.halves].map((h) => h ^ 1);
    const band = p.differ === 'quads' && far.length !== first.vertices.length ? bandBetween(mesh, first.vertices, far, first.closed, p.rows, like, ground) : null; // prettier-ignore
    if (band)
      return {
        selection: only({ faces: band }),
        report: {
          sentence: `Bridged by ${plural(band.length, 'quad')}, with poles where counts differ`,
          counts: { faces: band.length, rows: p.rows, triangles: 0 },
        },
      };
    const [near, matched, triangles] = evened(mesh, first, far, like);
    const lines = between(mesh, near, matched, p, ground);
    const faces = rowsBetween(mesh, lines, first.closed, like);
    const odd = triangles.length > 0 ? `, ${plural(triangles.length, 'triangle')} where counts differ` : '';
    return {
      selection: only({ faces: [...faces, ...triangles] }),
      report: {
        sentence: `Bridged by ${plural(faces.length, 'face')} in ${plural(p.rows, 'row')}${odd}`,
        counts: { faces: faces.length, rows: p.rows, triangles: triangles.length },
      },
    };
  },
});

/** Both lines with equal counts: points of the longer one that have no partner are closed off by triangles, spread evenly. */
function evened(
  mesh: PolyMesh,
  first: Chain,
  far: readonly number[],
  like: readonly number[],
): [number[], number[], number[]] {
  const n = first.vertices.length,
    extra = far.length - n;
  if (extra === 0) return [first.vertices, [...far], []];
  if (extra > n) throw new TopologyError('COUNTS_DIFFER', `One border has ${far.length} points, the other ${n}: insert loops on the side with fewer first.`); // prettier-ignore
  const carry = carryFrom(mesh, like);
  const left = [...far];
  const triangles: number[] = [];
  for (let k = extra - 1; k >= 0; k--) {
    // each goes between its two neighbours
    const at = Math.min(left.length - 2, 1 + Math.floor(((k + 0.5) * far.length) / extra));
    triangles.push(carry.face(addFace(mesh, [left[at + 1], left[at], left[at - 1]])));
    left.splice(at, 1);
  }
  return [first.vertices, left, triangles];
}

/** The lines of vertices from one border to the other, both included. */
function between(
  mesh: PolyMesh,
  near: readonly number[],
  far: readonly number[],
  p: z.infer<typeof Params>,
  ground: Ground,
): number[][] {
  const rows: number[][] = [[...near]];
  // the one edge that leads on from the border, into the faces beside it
  const outward = (v: number): Vec3 | null => {
    const inner = mesh.vertexHalves(v).filter((h) => mesh.face(h) !== NONE && mesh.face(h ^ 1) !== NONE);
    return p.following && inner.length === 1 ? mesh.point(mesh.target(inner[0])) : null;
  };
  const ends = near.map((v, i) => ({ before: outward(v), after: outward(far[i]) }));
  for (let r = 1; r < p.rows; r++) {
    const t = r / p.rows;
    rows.push(
      near.map((v, i) => {
        const [a, b] = [mesh.point(v), mesh.point(far[i])];
        const at = p.following ? alongCurve(ends[i].before, a, b, ends[i].after, t) : lerp(a, b, t);
        return addVertex(mesh, newPlace(mesh, at, [v, far[i]], ground));
      }),
    );
  }
  return [...rows, [...far]];
}
