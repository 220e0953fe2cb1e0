import { fillBorder } from '../../fill';
import { lerp } from '../../math';
import { addFace, addVertex, type PolyMesh } from '../../mesh';
import { newPlace, type Ground } from '../ground';
import { carryFrom } from './carry';

/** With fewer rows there is no room for poles between. */
const ROOM = 2;

/**
 * A band of quads alone between two lines of vertices whose counts differ by an even number, so many rows high, its points on the form: filled as an opening of four
 * sides; between rings it is slit where both begin. `low` has the band on its left, `high` runs beside it. Gives its faces; null where the counts are odd together.
 * Cost: as filling.
 */
export function bandBetween(
  mesh: PolyMesh,
  low: readonly number[],
  high: readonly number[],
  closed: boolean,
  rows: number,
  like: readonly number[],
  ground: Ground,
): number[] | null {
  if ((low.length + high.length) % 2 === 1) return null;
  const carry = carryFrom(mesh, like);
  const count = Math.max(ROOM, rows);
  const rungs = (u: number, w: number): number[] =>
    Array.from({ length: count - 1 }, (_, i) => {
      const at = newPlace(mesh, lerp(mesh.point(u), mesh.point(w), (i + 1) / count), [u, w], ground);
      return addVertex(mesh, at);
    });
  const [lows, highs] = closed ? [[...low, low[0]], [...high, high[0]]] : [low, high]; // prettier-ignore
  const up = rungs(lows[lows.length - 1], highs[highs.length - 1]);
  const down = closed ? [...up].reverse() : rungs(highs[0], lows[0]);
  const loop = [...lows, ...up, ...[...highs].reverse(), ...down];
  const corners = [0, lows.length - 1, lows.length - 1 + count, lows.length - 1 + count + highs.length - 1];
  const { form } = ground;
  const onto = form && ((q: readonly [number, number, number]): typeof q => form.closest(q).point);
  const [way] = fillBorder(loop.map((v) => mesh.point(v)), corners, onto); // prettier-ignore
  const ids = [...loop];
  for (let i = loop.length; i < way.points.length; i++) ids.push(carry.vertex(way.points[i]));
  return way.quads.map((quad) => carry.face(addFace(mesh, quad.map((i) => ids[i])))); // prettier-ignore
}
