import type { ReactNode } from 'react';
import { Label, ProgressBar } from 'react-aria-components';
import styled from 'styled-components';

const Bar = styled(ProgressBar)`
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 6px;
  margin: 12px 0;
  .track {
    grid-column: 1 / -1;
    height: 8px;
    border-radius: 4px;
    background: ${(p) => p.theme.line};
    overflow: hidden;
  }
  .fill {
    height: 100%;
    background: ${(p) => p.theme.glaze};
  }
`;

/** Progress in [0, 1], in words and as a bar. */
export function Progress({ label, value }: { label: string; value: number }): ReactNode {
  return (
    <Bar value={value * 100}>
      {({ percentage, valueText }) => (
        <>
          <Label>{label} …</Label>
          <span className="num">{valueText}</span>
          <div className="track">
            <div className="fill" style={{ width: `${percentage}%` }} />
          </div>
        </>
      )}
    </Bar>
  );
}
