import type { ReactNode } from 'react';
import { Choice, Range } from '../../kit';
import type { RowShape } from '../../tools';
import { useBench } from './Bench';

/** How a row that is drawn out of a border lies to it; a row under the drag follows. */
export function RowShapeBody(): ReactNode {
  const { settings } = useBench();
  const { spokes, scale, turn } = settings.of('draw-out') as unknown as RowShape;
  const set = (key: keyof RowShape) => (value: unknown) => settings.change('draw-out', key, value);
  return (
    <>
      <Choice
        label="Spokes of a whole row"
        value={spokes}
        options={[
          ['square', 'square to the border'],
          ['centre', 'from its centre'],
        ]}
        onChange={set('spokes')}
      />
      <Range
        label="Row scaled to ([ and ])"
        value={scale}
        min={20}
        max={200}
        step={5}
        show={(v) => `${v} %`}
        onChange={set('scale')}
      />
      <Range
        label="Row turned by"
        value={turn}
        min={-90}
        max={90}
        step={5}
        show={(v) => `${v}°`}
        onChange={set('turn')}
      />
    </>
  );
}
