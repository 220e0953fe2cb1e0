import { TopologyError } from '../../errors';
import { distance } from '../../math';
import { NONE, type PolyMesh } from '../../mesh';
import type { Ground } from '../ground';
import { insertLoops } from '../loops/insertLoops';
import { plural } from '../operator';
import { only } from '../picked';
import { patchOf, type BoredPatch } from './boredPatch';

const INSERT = insertLoops.params.parse({});

/**
 * Patches whose borders have as many edges as wanted: loops are inserted across the longest sides of those with fewer, two edges for each.
 * Refuses (COUNTS_DIFFER) a border with more edges already, or one that cannot be brought to the count. Cost: the loops.
 */
export function withBorders(
  mesh: PolyMesh,
  patches: readonly BoredPatch[],
  wanted: number,
  ground: Ground,
): BoredPatch[] {
  const counts = patches.map(({ border }) => border.length).join(' and ');
  const refuse = (why: string): TopologyError =>
    new TopologyError('COUNTS_DIFFER', `The border here has ${counts} edges, ${wanted} are wanted: ${why}`, { faces: patches.flatMap(({ faces }) => faces) }); // prettier-ignore
  let now = [...patches];
  for (let k = now.findIndex(isShort); k >= 0; k = now.findIndex(isShort)) {
    const before = now[k].border.length;
    const sides = now.map(sidesOf);
    const long = sides[k].reduce((a, b) => (spanOf(mesh, b) > spanOf(mesh, a) ? b : a));
    insertLoops.run(mesh, only({ edges: [mesh.findHalf(...long) >> 1] }), INSERT, ground);
    // a loop may run on across the other patch too
    now = sides.map((own) => patchInside(mesh, own));
    if (now[k].border.length <= before) throw refuse('no loop can be led across it.');
  }
  if (now.some(({ border }) => border.length > wanted))
    throw refuse(patches.some(({ border }) => border.length > wanted) ? 'take loops out, or pick fewer faces.' : `a loop adds ${plural(2, 'edge')} at a time.`); // prettier-ignore
  return now;

  function isShort({ border }: BoredPatch): boolean {
    return border.length < wanted;
  }
}

const sidesOf = ({ border }: BoredPatch): [number, number][] =>
  border.map((v, i) => [v, border[(i + 1) % border.length]]);
const spanOf = (mesh: PolyMesh, [u, v]: readonly [number, number]): number => distance(mesh.point(u), mesh.point(v));

/** The faces inside sides that one edge joined each before loops split some of them. */
function patchInside(mesh: PolyMesh, sides: readonly (readonly [number, number])[]): BoredPatch {
  const rim = new Set(sides.flatMap(([u, v]) => halvesBetween(mesh, u, v)));
  const inside = new Set([...rim].map((h) => mesh.face(h)));
  for (const f of inside)
    for (const h of mesh.faceHalves(f)) if (!rim.has(h) && mesh.face(h ^ 1) !== NONE) inside.add(mesh.face(h ^ 1));
  return patchOf(mesh, [...inside]);
}

function halvesBetween(mesh: PolyMesh, u: number, v: number): number[] {
  const direct = mesh.findHalf(u, v);
  if (direct !== NONE) return [direct];
  for (const h of mesh.vertexHalves(u)) {
    const on = mesh.findHalf(mesh.target(h), v);
    // the point that split the side lies on it
    if (on !== NONE && isBetween(mesh, u, mesh.target(h), v)) return [h, on];
  }
  throw new TopologyError('NO_WAY', 'The border could not be followed after a loop was inserted.', { vertices: [u, v] }); // prettier-ignore
}

/** Whether going by way of m is hardly longer than going straight. */
const isBetween = (mesh: PolyMesh, u: number, m: number, v: number): boolean =>
  spanOf(mesh, [u, m]) + spanOf(mesh, [m, v]) < 1.15 * spanOf(mesh, [u, v]);
