import type { ReactNode } from 'react';
import { OPERATORS, type Operator } from '@half-loop/core/ops';
import { Choice, NumberBoxField, Range, Toggle } from '../../kit';
import { useSession } from '../../session';
import { useBench } from './Bench';
import { fieldsOf, type SettingField } from './ToolSettings';

/** The settings of an operator's card; those of the step made last change it. */
export function OperatorFields({ name, without = [] }: { name: string; without?: readonly string[] }): ReactNode {
  const bench = useBench();
  const session = useSession('history');
  return (
    <FieldList
      op={OPERATORS.get(name) as Operator}
      values={bench.settings.of(name)}
      reported={bench.settings.isLive(name) ? session.latest?.report.counts : undefined}
      without={without}
      onChange={(key, value) => bench.settings.change(name, key, value)}
    />
  );
}

interface ListProps {
  op: Operator;
  values: Record<string, unknown>;
  /** numbers that the operator itself chose, where none are set */
  reported: Readonly<Record<string, number>> | undefined;
  without?: readonly string[];
  onChange: (key: string, value: unknown) => void;
}
/** An operator's settings as controls, as its parameters describe them. */
export function FieldList({ op, values, reported, without = [], onChange }: ListProps): ReactNode {
  const session = useSession('settings');
  const all = fieldsOf(op);
  const valueOf = (key: string): unknown => (key in values ? values[key] : all.find((f) => f.name === key)?.start);
  return all
    .filter(
      ({ name, field }) =>
        !without.includes(name) &&
        (!field.when || field.when.is.includes(valueOf(field.when.field) as string | boolean)),
    )
    .map((f) => (
      <FieldControl
        key={f.name}
        setting={f}
        value={valueOf(f.name)}
        reported={reported?.[f.name]}
        unit={session.settings.unit}
        onChange={(v) => onChange(f.name, v)}
      />
    ));
}

interface ControlProps {
  setting: SettingField;
  value: unknown;
  reported: number | undefined;
  unit: string;
  onChange: (value: unknown) => void;
}
function FieldControl({ setting: { field, start }, value, reported, unit, onChange }: ControlProps): ReactNode {
  switch (field.kind) {
    case 'switch':
      return <Toggle label={field.label} value={value as boolean} onChange={onChange} />;
    case 'choice':
      return <Choice label={field.label} value={value as string} options={field.options} onChange={onChange} />;
    case 'length':
      return <NumberBoxField label={field.label} unit={unit} value={(value as number | null) ?? reported ?? NaN} digits={4} onChange={onChange} onEmpty={() => start === null && onChange(null)} />; // prettier-ignore
    case 'curve':
      return <GuideChoice label={field.label} value={value} onChange={onChange} />;
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

const NO_GUIDE = '';
/** Which of the drawn guides an operator follows. Its points are taken as they are now. */
function GuideChoice({
  label,
  value,
  onChange,
}: {
  label: string;
  value: unknown;
  onChange: (v: unknown) => void;
}): ReactNode {
  const { guides } = useSession('settings').settings;
  const curveOf = (name: string): unknown => {
    const found = guides.find((g) => g.name === name);
    return found ? { points: found.points, closed: found.closed } : null;
  };
  const now = guides.find((g) => JSON.stringify(curveOf(g.name)) === JSON.stringify(value))?.name ?? NO_GUIDE;
  const options: [string, string][] = [[NO_GUIDE, guides.length > 0 ? 'none' : 'none drawn yet'], ...guides.map((g): [string, string] => [g.name, g.name])]; // prettier-ignore
  return <Choice label={label} value={now} options={options} onChange={(name) => onChange(curveOf(name))} />;
}
