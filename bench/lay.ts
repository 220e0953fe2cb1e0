import type { Vec3 } from '@half-loop/core/math';
import { fillBorder } from '@half-loop/core/fill';
import { EMPTY_SELECTION, PolyMesh } from '@half-loop/core/mesh';
import { layRing, layRow, Preview, type Operator } from '@half-loop/core/ops';
import { sculptFromSoup, SculptSurface, WalkingForm } from '@half-loop/core/surface';
import { ballSoup } from '@half-loop/core/testing';
import { ms, RINGS, say, time } from './measure';

const RADIUS = 5;

/** What strokes of the Lay stop cost on a sculpt of a million triangles, as previews: run again from the start. */
export async function lay(): Promise<void> {
  const surface = SculptSurface.build(sculptFromSoup(ballSoup(RINGS, RADIUS)));
  say(`\nLay on a sculpt of ${surface.triangleCount.toLocaleString('en')} triangles, medians`);
  const form = new WalkingForm(surface);
  const stroke = Array.from({ length: 120 }, (_, i): [number, number, number] => {
    const a = (i / 119) * 2 - 1;
    return [RADIUS * Math.sin(a), 0.6 * RADIUS * Math.sin(a / 2), RADIUS * Math.cos(a)];
  }).map((p) => [...form.closest(p as Vec3).point] as [number, number, number]);
  await preview('a row of 40 quads', layRow as unknown as Operator, { along: 40, stroke }, form, 'goal 30 ms');
  const ring = { count: 24, at: [RADIUS, 0, 0], normal: [0, 1, 0] };
  await preview('a ring of 24 points', layRing as unknown as Operator, ring, form, 'goal 15 ms');
  const border = Array.from({ length: 24 }, (_, i): Vec3 => {
    const a = (i * Math.PI) / 12;
    return form.closest([1.5 * Math.cos(a), 1.5 * Math.sin(a), RADIUS]).point;
  });
  const fill = await time(() => fillBorder(border, [0, 7, 12, 18], (q, key) => form.closest(q, 1e9 + key).point), 15);
  say(`  ${'fill a border of 24 edges, placed on the form'.padEnd(46)} ${ms(fill)}  (goal 50 ms)`);
}

async function preview(name: string, op: Operator, params: object, form: WalkingForm, goal: string): Promise<void> {
  const drag = new Preview(new PolyMesh(), { plane: null, form });
  const cost = await time(() => drag.update(op, EMPTY_SELECTION, params as never), 25);
  drag.cancel();
  say(`  ${name.padEnd(46)} ${ms(cost)}  (${goal})`);
}
