import type { Group } from 'three';
import type { Placement } from '@half-loop/core/math';

/** Turns and lifts what is drawn in file space to where it stands in the view. */
export function placeGroup(group: Group, { rotation: [x, y, z], lift }: Placement): void {
  group.matrixAutoUpdate = false;
  // prettier-ignore
  group.matrix.set(
    x[0], x[1], x[2], 0,
    y[0], y[1], y[2], lift,
    z[0], z[1], z[2], 0,
    0, 0, 0, 1,
  );
  group.matrixWorldNeedsUpdate = true;
}
