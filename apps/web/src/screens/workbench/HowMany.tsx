import { useMemo, useState, type ReactNode } from 'react';
import { length } from '@half-loop/core/math';
import { areaNormal } from '@half-loop/core/mesh';
import { Choice, Note, NumberBoxField } from '../../kit';
import { useSession, type Session } from '../../session';
import { count } from '../format';

type By = 'faces' | 'length' | 'share' | 'times';

interface Props {
  over: 'sculpt' | 'piece';
  /** of the whole, both halves of a symmetric asset */
  faces: number;
  onChange: (faces: number) => void;
}

const MOST = 60_000;
const LEAST = 12;

/** How many quads: said by their number, their edge length, their share of the budget, or times what is there. */
export function HowMany({ over, faces, onChange }: Props): ReactNode {
  const session = useSession('settings', 'mesh', 'reset', 'pieces');
  const [by, setBy] = useState<By>('faces');
  const { budget, unit } = session.settings;
  const present = session.mesh.faceCount * (session.plane ? 2 : 1);
  const { surface } = session;
  const needed = by === 'length' && over === 'sculpt' && surface !== null;
  // a sculpt stays as it is and may be large
  const sculptArea = useMemo(() => (needed ? surface.area() : 1), [needed, surface]);
  const area = needed ? sculptArea : by === 'length' ? pieceArea(session) : 1;
  const set = (wanted: number): void => onChange(Math.round(Math.min(MOST, Math.max(LEAST, wanted))));
  const known = present === 0 && by === 'times' ? 'faces' : by;
  return (
    <>
      <Choice
        label="How many, by"
        value={known}
        options={[
          ['faces', 'number'],
          ['length', 'length'],
          ['share', 'budget'],
          ...(present > 0 ? ([['times', 'times']] as [By, string][]) : []),
        ]}
        onChange={setBy}
      />
      {known === 'faces' && (
        <NumberBoxField label="Faces" unit="quads" value={faces} min={LEAST} max={MOST} digits={0} onChange={set} />
      )}
      {known === 'length' && (
        <NumberBoxField
          label="Edge length"
          unit={unit}
          value={Math.sqrt(area / faces)}
          min={0}
          onChange={(v) => v > 0 && set(area / (v * v))}
        />
      )}
      {known === 'share' && (
        <NumberBoxField
          label="Of the budget"
          unit="%"
          value={(100 * faces) / budget}
          min={1}
          digits={1}
          onChange={(v) => set((v / 100) * budget)}
        />
      )}
      {known === 'times' && (
        <NumberBoxField
          label="Times what is there"
          value={faces / present}
          min={0.25}
          max={4}
          onChange={(v) => set(v * present)}
        />
      )}
      {known !== 'faces' && <Note>{count(faces)} quads</Note>}
      {faces > budget && <Note>{`${count(faces - budget)} over the budget of ${count(budget)} faces`}</Note>}
    </>
  );
}

/** Square file units of the piece in hand, both halves. Cost: one pass. */
function pieceArea({ mesh, plane }: Session): number {
  let sum = 0;
  for (const f of mesh.faces()) sum += length(areaNormal(mesh.faceVertices(f).map((v) => mesh.point(v)))) / 2;
  return sum * (plane ? 2 : 1);
}
