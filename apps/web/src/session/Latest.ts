import type { PolyMesh, Selection } from '@half-loop/core/mesh';
import type { Operator, Report } from '@half-loop/core/ops';

/** The step that was made last by an operator: its settings can be changed while nothing came after it. */
export interface Latest {
  op: Operator;
  selection: Selection;
  params: object;
  /** its place in the history */
  seq: number;
  report: Report;
  /** it was run beside the page, and is run there again */
  wasSlow?: true;
}

/** Whether a latest step's operator, with these settings, is run live in its place. */
export const isLive = ({ op, wasSlow }: Latest, mesh: PolyMesh, params: object): boolean =>
  !wasSlow && !op.isSlow?.(mesh, params);
