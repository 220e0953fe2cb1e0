import * as z from 'zod/mini';
import { addScaled } from '../../math';
import { copyOf, Rebuild, type PolyMesh } from '../../mesh';
import { settledPlace, type Ground } from '../ground';
import { operator, plural } from '../operator';
import { choice, count, proposedLength } from '../params';
import { meanLength, only, pickedFaces } from '../picked';
import { Copies } from '../shape/fans';
import { heldBack, planOf } from '../shape/rims';

const Params = z.object({
  side: choice('On', [['inner', 'the inside'], ['outer', 'the outside'], ['both', 'both sides']], 'both'), // prettier-ignore
  width: proposedLength('Width', 'From the border to the furthest loop'),
  loops: count('Loops on each side', { min: 1, max: 8, start: 1 }),
});

/**
 * Loops that hold a region's border when the mesh is subdivided: so many rims of even width inside the picked faces, outside them, or
 * both. Open borders and the midline get none outside. A width that would fold a face is held back, and told. Rims are in the
 * region of the face they came from.
 */
export const holdingBorders = operator({
  name: 'holding-borders',
  title: 'Holding borders',
  params: Params,
  run(mesh, selection, { side, width, loops }, ground) {
    let inner = pickedFaces(mesh, selection, 'Pick the region whose border shall be held.');
    const edges = new Set(inner.flatMap((f) => mesh.faceHalves(f).map((h) => h >> 1)));
    const by = width ?? meanLength(mesh, edges) / 5;
    let rims = 0;
    let held = by;
    const take = ({ rim, held: w }: Rims): void => {
      rims += rim.length;
      held = Math.min(held, w * loops);
    };
    if (side !== 'inner') {
      const region = new Set(inner);
      for (let k = 0; k < loops; k++) {
        const done = drawIn(mesh, facesRound(mesh, region), by / loops, ground, (h) => region.has(mesh.face(h ^ 1)));
        // the next loop lies outside this one
        for (const f of done.rim) region.add(f);
        take(done);
      }
    }
    if (side !== 'outer')
      for (let k = 0; k < loops; k++) {
        const done = drawIn(mesh, inner, by / loops, ground, () => true);
        inner = done.inner;
        take(done);
      }
    const back = held < by * 0.999 ? `; the width is held at ${Number(held.toPrecision(3))}` : '';
    return {
      selection: only({ faces: inner }),
      report: {
        sentence: `${plural(rims, 'face')} hold the border of ${plural(inner.length, 'face')}, in the region of their faces${back}`,
        counts: { rims, width: held, loops },
      },
    };
  },
});

interface Rims {
  inner: number[];
  rim: number[];
  held: number;
}

/** Draws a group of faces in from those of its borders that get a wall. */
function drawIn(
  mesh: PolyMesh,
  group: readonly number[],
  width: number,
  ground: Ground,
  wall: (half: number) => boolean,
): Rims {
  const plan = planOf(mesh, group, ground, wall);
  const held = heldBack(mesh, [plan], width);
  const rebuild = new Rebuild(mesh, group);
  const copies = new Copies();
  for (const { fan, inward } of plan.moves) {
    const p = mesh.point(fan.vertex);
    copies.set(fan, rebuild.vertex(settledPlace(p, addScaled(p, inward, held), ground), copyOf(fan.vertex)));
  }
  const inner = plan.outlines.map(({ f, corners }) => rebuild.face(corners.map((v) => copies.of(f, v)), f)); // prettier-ignore
  const rim = plan.rim.map(({ f, a, b }) => {
    const outline = [a, b, copies.of(f, b), copies.of(f, a)];
    return rebuild.face(outline.filter((v, i) => outline.indexOf(v) === i), f); // prettier-ignore
  });
  const all = rebuild.finish();
  return { inner: inner.map((k) => all[k]), rim: rim.map((k) => all[k]), held };
}

/** The faces outside a region that touch it, also by a corner alone. */
function facesRound(mesh: PolyMesh, region: ReadonlySet<number>): number[] {
  const round = new Set<number>();
  for (const f of region)
    for (const v of mesh.faceVertices(f)) for (const g of mesh.vertexFaces(v)) if (!region.has(g)) round.add(g);
  return [...round];
}
