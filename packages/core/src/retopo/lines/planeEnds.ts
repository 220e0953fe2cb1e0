import type { MirrorPlane } from '../../math';
import { borderLoops } from '../form/borderLoops';
import { isOnCut } from '../form/onCut';
import type { TriMesh } from '../form/TriMesh';

/** A border that leaves the mirror plane for less than so many quads' lengths, or comes back to it for less, is as if it had not. */
const OFF = 2;
const ON = 0.5;

/** A stretch of a border that lies in the mirror plane, or off it all along. */
interface Stretch {
  isOn: boolean;
  from: number;
  to: number;
  long: number;
}

/**
 * Vertices at which a border leaves the mirror plane, as the rim of an opening does that both halves share: it ends there, however blunt or ragged the turn is. None round a dent
 * or a touch that is short for quads of that `size`. Cost: linear.
 */
export function planeEnds(mesh: TriMesh, plane: MirrorPlane, size: number): number[] {
  return borderLoops(mesh).flatMap((loop) => {
    const longs = stretchesOf(mesh, loop, plane).filter(({ isOn, long }) => long >= (isOn ? ON : OFF) * size);
    return longs.flatMap(({ isOn, from, to }, i) => {
      const before = longs[(i + longs.length - 1) % longs.length];
      const after = longs[(i + 1) % longs.length];
      return isOn ? [...(before.isOn ? [] : [from]), ...(after.isOn ? [] : [to])] : [];
    });
  });
}

function stretchesOf(mesh: TriMesh, loop: readonly number[], plane: MirrorPlane): Stretch[] {
  const isIn = loop.map((h) => isOnCut(mesh, mesh.from[h], plane) && isOnCut(mesh, mesh.to(h), plane));
  // where none begins, all is one
  const first = Math.max(0, isIn.findIndex((is, i) => is !== isIn.at(i - 1))); // prettier-ignore
  const stretches: Stretch[] = [];
  for (let i = 0; i < loop.length; i++) {
    const at = (first + i) % loop.length;
    const [h, last] = [loop[at], stretches.at(-1)];
    const long = Math.sqrt(mesh.squaredLength(h));
    if (last?.isOn === isIn[at]) {
      last.to = mesh.to(h);
      last.long += long;
    } else stretches.push({ isOn: isIn[at], from: mesh.from[h], to: mesh.to(h), long });
  }
  return stretches;
}
