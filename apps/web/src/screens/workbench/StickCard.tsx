import type { ReactNode } from 'react';
import { Button, Choice, NumberBoxField, Toggle } from '../../kit';
import { useSession, type Session } from '../../session';
import type { StickTo } from '../../viewport';
import { useBench, useView } from './Bench';
import { Card } from './Card';

/** The pieces that points of the one in hand can stick to, by what they are called. */
export const otherSurfaces = ({ document, piece }: Session): [StickTo, string][] =>
  document.pieces
    .filter((p) => p.id !== piece.id && p.mesh.faceCount > 0)
    .map((p) => [`piece:${p.id}`, p.guide ? `guide body “${p.name}”` : `“${p.name}”`]);

/** What points stick to, and where the work plane stands. */
export function StickCard(): ReactNode {
  const bench = useBench();
  const session = useSession('settings', 'selection', 'pieces', 'reset');
  const { stickTo, planeSide, planeOffset, catchGuides } = useView();
  const options: [StickTo, string][] = [
    ...(session.surface ? ([['sculpt', 'the sculpt']] as [StickTo, string][]) : []),
    ...otherSurfaces(session),
    ['plane', 'a work plane'],
  ];
  const [vertex] = session.selection.vertices;
  const through = (): void => {
    const plane = bench.scene?.picker.workPlane();
    if (vertex === undefined || !plane) return;
    const p = session.mesh.point(vertex);
    const d = [0, 1, 2].reduce((sum, k) => sum + (p[k] - plane.point[k]) * plane.normal[k], 0);
    bench.view.set({ planeOffset: planeOffset + d });
  };
  return (
    <Card glyph="sculpt" title="Points stick to" isOpen>
      {options.length > 1 && (
        <Choice
          label="Surface"
          value={options.some(([name]) => name === stickTo) ? stickTo : 'plane'}
          onChange={(s) => bench.view.set({ stickTo: s })}
          options={options}
        />
      )}
      <NumberBoxField
        label="Wanted quad length"
        unit={session.settings.unit}
        value={session.settings.quadLength ?? NaN}
        min={0}
        digits={4}
        onChange={(v) => session.changeSettings('Wanted quad length', { quadLength: v > 0 ? v : null })}
      />
      {session.settings.guides.length > 0 && (
        <Toggle label="Catch on guides" value={catchGuides} onChange={(on) => bench.view.set({ catchGuides: on })} />
      )}
      {stickTo === 'plane' && (
        <>
          <Choice
            label="Work plane"
            value={planeSide}
            onChange={(side) => bench.view.set({ planeSide: side })}
            options={[
              ['front', 'front'],
              ['side', 'side'],
              ['top', 'top'],
            ]}
          />
          <NumberBoxField
            label="Stands at"
            unit={session.settings.unit}
            value={planeOffset}
            digits={4}
            onChange={(v) => bench.view.set({ planeOffset: v })}
          />
          <Button isDisabled={vertex === undefined} onPress={through}>
            Through the picked point
          </Button>
        </>
      )}
    </Card>
  );
}
