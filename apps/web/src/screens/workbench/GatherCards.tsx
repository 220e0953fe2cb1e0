import type { ReactNode } from 'react';
import { UNIT_NAMES } from '@half-loop/contract';
import { proposeBudget, type Purpose } from '@half-loop/core/inspect';
import { AXES, boxSize, frontBeside, SIGNED_AXES } from '@half-loop/core/math';
import { Button, Choice, ColourBox, NumberBoxField, Note, Range, Row, Toggle } from '../../kit';
import { useSession } from '../../session';
import { count, lengthText } from '../format';
import { useBench, useView } from './Bench';
import { Card } from './Card';
import { MeasurePlane } from './MeasurePlane';

const PURPOSE_TEXT: readonly (readonly [Purpose, string])[] = [
  ['bends', 'It bends'],
  ['rigid', 'It stays rigid'],
  ['still', 'A still picture'],
  ['subdivided', 'Subdivided later'],
];

/** Units, axes, floor and symmetry. */
export function SculptCard(): ReactNode {
  const session = useSession('settings');
  const { settings, surface } = session;
  const { symmetry, unit } = settings;
  const bench = useBench();
  const size = bench.scene ? boxSize(bench.scene.placedBox()) : null;
  return (
    <Card glyph="sculpt" title="Units, axes, symmetry" isOpen>
      {surface && (
        <Row>
          <span>Triangles</span>
          <span className="num">{count(surface.triangleCount)}</span>
        </Row>
      )}
      {surface && size && <Note className="num">{size.map((x) => lengthText(x, unit)).join(' × ')}</Note>}
      <Choice
        label="One unit of the file is"
        value={unit}
        onChange={(u) => session.changeSettings(`Unit: ${u}`, { unit: u })}
        options={UNIT_NAMES.map((u) => [u, u] as const)}
      />
      <Choice
        label="Up in the file"
        value={settings.up}
        onChange={(up) => session.changeSettings(`Up: ${up}`, { up, front: frontBeside(up, settings.front) })}
        options={SIGNED_AXES.map((a) => [a, a] as const)}
      />
      <Choice
        label="Front in the file"
        value={settings.front}
        onChange={(front) => session.changeSettings(`Front: ${front}`, { front })}
        options={SIGNED_AXES.filter((a) => a[1] !== settings.up[1]).map((a) => [a, a] as const)}
      />
      <Toggle
        label="Stands on the floor"
        value={settings.onFloor}
        onChange={(onFloor) =>
          session.changeSettings(onFloor ? 'Stood on the floor' : 'Taken off the floor', { onFloor })
        }
      />
      <Toggle label="Symmetry" keys="M" value={symmetry.on} onChange={() => bench.toggleSymmetry()} />
      <Choice
        label="Across"
        value={symmetry.axis}
        onChange={(axis) =>
          session.changeSettings(`Symmetry across ${axis}`, { symmetry: { ...symmetry, axis, offset: 0 } })
        }
        options={AXES.map((a) => [a, a] as const)}
      />
      <NumberBoxField
        label={`Plane at ${symmetry.axis}`}
        unit={unit}
        value={symmetry.offset}
        digits={6}
        onChange={(offset) => session.changeSettings('Symmetry plane moved', { symmetry: { ...symmetry, offset } })}
      />
      <MeasurePlane />
    </Card>
  );
}

/** How the sculpt is drawn. */
export function LookCard(): ReactNode {
  const session = useSession('settings');
  const { sculpt } = session.settings;
  const bench = useBench();
  const { standInTriangles } = useView();
  if (!session.surface) return <Note>This asset started empty: it has no sculpt to show.</Note>;
  return (
    <Card glyph="look" title="How the sculpt is shown" isOpen>
      <Toggle label="Shown" keys="Y" value={sculpt.visible} onChange={() => bench.toggleSculpt()} />
      <ColourBox
        label="Tint"
        value={sculpt.tint}
        onChange={(tint) => session.changeSettings('Sculpt tint', { sculpt: { ...sculpt, tint } })}
      />
      <Range
        label="Opacity"
        value={sculpt.opacity}
        min={0.05}
        max={1}
        step={0.05}
        show={(v) => `${Math.round(v * 100)} %`}
        onChange={(opacity) => session.changeSettings('Sculpt opacity', { sculpt: { ...sculpt, opacity } })}
      />
      {standInTriangles !== null && (
        <Note role="status">
          Drawn by <span className="num">{count(standInTriangles)}</span> of its{' '}
          <span className="num">{count(session.surface.triangleCount)}</span> triangles, so that the view turns quickly.
          Points stick to all of them, and distances are measured to all of them.
        </Note>
      )}
    </Card>
  );
}

/** What the asset is for, how large it is seen, and the budget that follows. */
export function BudgetCard(): ReactNode {
  const session = useSession('settings');
  const { purpose, seenHeight, budget } = session.settings;
  const proposed = proposeBudget(purpose, seenHeight);
  return (
    <Card glyph="budget" title="Budget" isOpen>
      <Choice
        label="What is it for?"
        value={purpose}
        options={PURPOSE_TEXT}
        onChange={(p) => session.changeSettings('What it is for', { purpose: p })}
      />
      <NumberBoxField
        label="Seen this high"
        unit="px"
        value={seenHeight}
        min={8}
        max={8192}
        digits={0}
        onChange={(h) => session.changeSettings('Seen height', { seenHeight: h })}
      />
      <Row>
        <span>Proposed</span>
        <span className="num">{count(proposed)} faces</span>
      </Row>
      {proposed !== budget && (
        <Button onPress={() => session.changeSettings('Budget', { budget: proposed })}>Take the proposed budget</Button>
      )}
      <NumberBoxField
        label="Budget"
        unit="faces"
        value={budget}
        min={1}
        max={10_000_000}
        digits={0}
        onChange={(b) => session.changeSettings('Budget', { budget: Math.round(b) })}
      />
    </Card>
  );
}
