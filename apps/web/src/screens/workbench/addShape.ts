import { fromPlaced } from '@half-loop/core/math';
import { EMPTY_SELECTION } from '@half-loop/core/mesh';
import type { Operator } from '@half-loop/core/ops';
import type { Bench } from './Bench';

/** Without a sculpt a shape is proposed this large, metres. */
const PROPOSED = 0.1;
/** Of the sculpt's diagonal, with one. */
const SHARE = 0.2;

/** Puts a shape into the low-poly: on the floor of the view, upright, in a size that fits what is there. */
export function addShape(bench: Bench, op: Operator): void {
  const { session, scene, settings } = bench;
  const { surface } = session;
  const box = scene?.placedBox();
  const height = box ? box.max[1] - box.min[1] : 1;
  session.run(
    op,
    {
      ...settings.of(op.name),
      at: scene ? [...fromPlaced([0, 0, 0], scene.placed)] : [0, 0, 0],
      up: session.settings.up,
      about: surface ? surface.diagonal * SHARE : PROPOSED / bench.scale,
      pixelsPerUnit: session.settings.seenHeight / Math.max(height, 1e-9),
    },
    EMPTY_SELECTION,
  );
}
