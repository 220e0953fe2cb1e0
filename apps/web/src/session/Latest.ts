import type { Selection } from '@half-loop/core/mesh';
import type { Operator, Report } from '@half-loop/core/ops';

/** The step that was made last by an operator: its settings can be changed while nothing came after it. */
export interface Latest {
  op: Operator;
  selection: Selection;
  params: object;
  /** its place in the history */
  seq: number;
  report: Report;
}
