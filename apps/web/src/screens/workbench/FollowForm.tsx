import type { ReactNode } from 'react';
import { Range } from '../../kit';

interface Props {
  value: number;
  onChange: (value: number) => void;
}

/** How much edges turn along the form's bends, as automatic retopology asks. */
export function FollowForm({ value, onChange }: Props): ReactNode {
  return (
    <Range
      label="Follow the form"
      value={value}
      min={0}
      max={1}
      step={0.05}
      show={(v) => (v === 0 ? 'smoothest' : v.toFixed(2))}
      onChange={onChange}
    />
  );
}
