import type { ReactNode } from 'react';
import { Row } from '../../kit';

/** A figure with its name. */
export function Line({ label, value }: { label: string; value: string }): ReactNode {
  return (
    <Row>
      <span>{label}</span>
      <span className="num">{value}</span>
    </Row>
  );
}
