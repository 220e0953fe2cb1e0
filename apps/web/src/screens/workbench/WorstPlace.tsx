import { useEffect, useState, type ReactNode } from 'react';
import type { Vec3 } from '@half-loop/core/math';
import { Button, Buttons } from '../../kit';
import { useBench } from './Bench';

/** Goes to where a distance is greatest, if that is known, and keeps it marked: on what is shown next too, until the mark is taken away. */
export function WorstPlace({ at }: { at: Vec3 | null | undefined }): ReactNode {
  const bench = useBench();
  const { view } = bench;
  const [isMarked, setMarked] = useState(false);
  const [x, y, z] = (isMarked && at) || [];
  useEffect(() => {
    if (x === undefined || y === undefined || z === undefined) return;
    const place: Vec3 = [x, y, z];
    view.set({ place });
    return () => {
      if (view.now.place === place) view.set({ place: null });
    };
  }, [view, x, y, z]);
  const show = (worst: Vec3): void => {
    setMarked(true);
    bench.goToPlace(worst);
  };
  if (!at) return null;
  return (
    <Buttons>
      <Button onPress={() => show(at)}>Show the worst place</Button>
      {isMarked && <Button onPress={() => setMarked(false)}>Take the mark away</Button>}
    </Buttons>
  );
}
