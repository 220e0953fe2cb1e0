import type { ReactNode } from 'react';
import type { Vec3 } from '@half-loop/core/math';
import { Button } from '../../kit';
import { useBench } from './Bench';

/** Goes to where a distance is greatest, if that is known. */
export function WorstPlace({ at }: { at: Vec3 | null | undefined }): ReactNode {
  const bench = useBench();
  return at && <Button onPress={() => bench.showPlace(at)}>Show the worst place</Button>;
}
