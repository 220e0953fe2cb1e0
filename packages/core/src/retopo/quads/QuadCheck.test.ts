import { expect, test } from 'vitest';
import { SculptSurface, WalkingForm, sculptFromSoup } from '../../surface';
import { prismSoup } from '../../testing';
import { QuadCheck } from './QuadCheck';

/** Whether quads over both sides of a wedge are folded: so far inside of its edges, and turned over if asked for. */
function foldedOn(degrees: number, inside: number, isTurned: boolean): boolean[] {
  const [far, up] = [2, 2 * Math.tan((degrees * Math.PI) / 180)];
  const { positions, indices } = sculptFromSoup(prismSoup([[0, 0], [far, 0], [far, up]], 1)); // prettier-ignore
  const form = new WalkingForm(SculptSurface.build({ positions, indices }));
  const [a, b, c, d] = [inside * far, (1 - inside) * far, inside, 1 - inside];
  const slope = up / far;
  const points = Float64Array.of(
    a,
    0,
    c,
    b,
    0,
    c,
    b,
    0,
    d,
    a,
    0,
    d,
    a,
    slope * a,
    c,
    b,
    slope * b,
    c,
    b,
    slope * b,
    d,
    a,
    slope * a,
    d,
  );
  const quads = [[0, 1, 2, 3], [7, 6, 5, 4]].flatMap((quad) => (isTurned ? quad.reverse() : quad)); // prettier-ignore
  const check = new QuadCheck(points, Int32Array.from(quads), [form, form]);
  return [check.isFolded(0), check.isFolded(4)];
}

test.each([5, 20, 60, 89])('quads on a wedge of %i degrees, even from edge to edge, face as it does, and are folded turned over', (degrees) => {
  // at its thin edge the form faces two ways, nearly against each other
  for (const inside of [0, 0.02, 0.3]) expect(foldedOn(degrees, inside, false)).toEqual([false, false]);
  for (const inside of [0.02, 0.3]) expect(foldedOn(degrees, inside, true)).toEqual([true, true]);
}); // prettier-ignore
