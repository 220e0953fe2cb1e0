import type { ReactNode } from 'react';
import { OPERATORS, type Operator } from '@half-loop/core/ops';
import { Button, Choice, Note, NumberBoxField, Range, Toggle } from '../../kit';
import { useSession } from '../../session';
import { useBench } from './Bench';
import { Card } from './Card';
import { fieldsOf, type SettingField } from './ToolSettings';

/** What each card says it does, and on what. */
const HINTS: Readonly<Record<string, string>> = {
  dissolve: 'Takes picked edges or points away; the faces beside merge.',
  fair: 'Bends a picked loop so that it follows the curvature of its neighbours.',
  true: 'Brings a picked loop or points to a true shape.',
  relax: 'Evens points out on the surface. Works on what is picked, or on everything.',
  smooth: 'Takes bumps out. Works on what is picked, or on everything.',
  'weld-picked': 'Joins all that is picked in one point.',
  stitch: 'Joins two picked borders point by point.',
  connect: 'Joins picked points by edges, or the middles of picked edges.',
  collapse: 'Draws picked edges or faces together.',
  'cut-faces': 'The same cut in every picked face.',
  spin: 'Turns picked edges inside their two faces: steers poles.',
  split: 'Puts points on picked edges, or splits points in two.',
  poke: 'Fans picked faces out from their middle.',
  'pair-triangles': 'Makes quads of triangles, picked ones or all.',
  mend: 'Makes quads of the faces that edits left lit, where a plain repair fits.',
  'meant-to-be': 'Leaves picked triangles and n-gons, or all lit ones, as they are.',
  extrude: 'Draws picked faces or border edges out into walls.',
  inset: 'Puts a rim of even width inside picked faces.',
  bevel: 'Widens picked edges or points into rounded strips.',
  subdivide: 'Divides faces for real, picked ones or all.',
  crease: 'Keeps edges sharp when the mesh is subdivided.',
  'recover-coarser': 'Takes one level of subdivision back, of picked parts or of all.',
  thicken: 'Gives sheets a wall of even thickness, and says how thick it can be before it crosses itself.',
  bore: 'A round hole through a picked patch, bordered by quads; pick the patch opposite too, or let it be found.',
  groove: 'Sinks a strip along picked loops, or raises it.',
  'holding-borders': 'Loops beside a region’s border that hold it when the mesh is subdivided.',
  copies: 'Copies of the picked part in a line, in a ring, or mirrored.',
  studs: 'Sets copies of a small part along edges: pick a face of the part and, with Shift, the edges.',
  boolean: 'Pick a face of the cutting shape: it is cut away from, or joined to, the other closed parts.',
  deform: 'Bends, twists or tapers what is picked, or everything.',
};

/** The card of an operator without a gesture of its own: its settings, a button, and what came of it. */
export function OperatorCard({
  name,
  isOpen,
  onOpen,
}: {
  name: string;
  isOpen: boolean;
  onOpen: () => void;
}): ReactNode {
  const bench = useBench();
  useSession('selection', 'history');
  const op = OPERATORS.get(name) as Operator;
  return (
    <Card glyph={name} title={op.title} isOpen={isOpen} onOpen={onOpen} hint={HINTS[name]}>
      {isOpen && (
        <>
          <OperatorFields name={name} />
          <Button onPress={() => void bench.runCard(op)}>{op.title}</Button>
          <LatestNote name={name} />
        </>
      )}
    </Card>
  );
}

/** What the latest step did, when it was this operator's: its settings still change it. */
export function LatestNote({ name }: { name: string }): ReactNode {
  const bench = useBench();
  const session = useSession('history');
  if (!bench.settings.isLive(name) || !session.latest) return null;
  return <Note role="status">{session.latest.report.sentence}. The settings above still change it.</Note>;
}

/** The settings of an operator, as its parameters describe them. */
export function OperatorFields({ name, without = [] }: { name: string; without?: readonly string[] }): ReactNode {
  const bench = useBench();
  const session = useSession('history', 'settings');
  const op = OPERATORS.get(name) as Operator;
  const values = bench.settings.of(name);
  const reported = bench.settings.isLive(name) ? session.latest?.report.counts : undefined;
  return fieldsOf(op)
    .filter(
      ({ name: n, field }) =>
        !without.includes(n) && (!field.when || field.when.is.includes(values[field.when.field] as string | boolean)),
    )
    .map((f) => (
      <FieldControl
        key={f.name}
        setting={f}
        value={values[f.name]}
        reported={reported?.[f.name]}
        unit={session.settings.unit}
        onChange={(v) => bench.settings.change(name, f.name, v)}
      />
    ));
}

interface ControlProps {
  setting: SettingField;
  value: unknown;
  /** the value that the operator itself chose, when none is set */
  reported: number | undefined;
  unit: string;
  onChange: (value: unknown) => void;
}
function FieldControl({ setting: { field }, value, reported, unit, onChange }: ControlProps): ReactNode {
  switch (field.kind) {
    case 'switch':
      return <Toggle label={field.label} value={value as boolean} onChange={onChange} />;
    case 'choice':
      return <Choice label={field.label} value={value as string} options={field.options} onChange={onChange} />;
    case 'length':
      return <NumberBoxField label={field.label} unit={unit} value={(value as number | null) ?? reported ?? NaN} digits={4} onChange={onChange} />; // prettier-ignore
    default: {
      const { label, min, max, step } = field;
      if (field.unit === 'count') return <NumberBoxField label={label} value={value as number} min={min} max={max} step={1} digits={0} onChange={onChange} />; // prettier-ignore
      const show = (v: number): string =>
        field.unit === 'share'
          ? `${Math.round(v * 100)} %`
          : field.unit === 'degrees'
            ? `${Math.round(v)}°`
            : v.toFixed(1);
      return (
        <Range label={label} value={value as number} min={min} max={max} step={step} show={show} onChange={onChange} />
      );
    }
  }
}
