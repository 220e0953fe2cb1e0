import { useState, type ReactNode } from 'react';
import { OPERATORS, SHAPES, type Operator } from '@half-loop/core/ops';
import { Button, Choice, Note } from '../../kit';
import { useSession } from '../../session';
import { lengthText } from '../format';
import { addShape } from './addShape';
import { useBench } from './Bench';
import { Card } from './Card';
import { LatestNote } from './OperatorCard';
import { OperatorFields } from './OperatorFields';

const KINDS = SHAPES.map(({ name, title }): [string, string] => [name, title]);

/** Parts that start from a shape: which one, its sizes, and what it came to; the settings change it until the next step. */
export function ShapeCard(): ReactNode {
  const bench = useBench();
  const [kind, setKind] = useState(KINDS[0][0]);
  const [isOpen, setOpen] = useState(false);
  const op = OPERATORS.get(kind) as Operator;
  return (
    <Card
      glyph="shape"
      title="Add a shape"
      isOpen={isOpen}
      onOpen={() => setOpen(true)}
      hint="A part that starts without a sculpt. It stands on the floor; its settings stay open until the next step."
    >
      <Choice label="Which" value={kind} options={KINDS} onChange={setKind} />
      <OperatorFields name={kind} />
      <Button onPress={() => addShape(bench, op)}>Add the {op.title.toLowerCase()}</Button>
      <SideNote name={kind} />
      <LatestNote name={kind} />
    </Card>
  );
}

/** The angle and the width of one side of the shape made last. */
function SideNote({ name }: { name: string }): ReactNode {
  const { settings } = useBench();
  const session = useSession('history', 'settings');
  const counts = settings.isLive(name) ? session.latest?.report.counts : undefined;
  if (!counts?.sides) return null;
  const { sides, angle, sideWidth } = counts;
  const width = lengthText(sideWidth, session.settings.unit);
  return <Note>{`Each of ${sides} sides: ${Number(angle.toFixed(2))}°, ${width} wide`}</Note>;
}
