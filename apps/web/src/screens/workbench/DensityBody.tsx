import type { ReactNode } from 'react';
import { Button, Note, Range } from '../../kit';
import { useSession } from '../../session';
import { lengthText } from '../format';
import { useBench } from './Bench';

/** How a stroke of density is painted, and those that are: the last, or all, can be dropped. */
export function DensityBody(): ReactNode {
  const bench = useBench();
  const session = useSession('settings');
  const { densities, unit } = session.settings;
  const { radius, times } = bench.settings.of('density') as { radius: number; times: number };
  const size = session.surface?.diagonal ?? 10 * radius;
  const keep = (name: string, count: number): void =>
    session.changeSettings(name, { densities: densities.slice(0, count) });
  return (
    <>
      <Range
        label="Size"
        value={radius}
        min={size / 200}
        max={size / 4}
        step={size / 400}
        show={(v) => lengthText(v, unit)}
        onChange={(v) => bench.settings.change('density', 'radius', v)}
      />
      <Range
        label="Quads in the place of one"
        value={Math.log2(times)}
        min={-3}
        max={3}
        step={0.5}
        show={(v) => (2 ** v).toFixed(2)}
        onChange={(v) => bench.settings.change('density', 'times', 2 ** v)}
      />
      {densities.length === 0 ? (
        <Note>Nothing is painted yet. Lay all heeds what is; strokes over one another multiply.</Note>
      ) : (
        <>
          <Note>
            <span className="num">{densities.length}</span> {densities.length === 1 ? 'stroke' : 'strokes'} painted:
            violet for more quads, ochre for fewer.
          </Note>
          <div style={{ display: 'flex', gap: 6 }}>
            <Button onPress={() => keep('Last stroke of density dropped', densities.length - 1)}>Drop the last</Button>
            <Button onPress={() => keep('Painted density dropped', 0)}>Drop all</Button>
          </div>
        </>
      )}
    </>
  );
}
