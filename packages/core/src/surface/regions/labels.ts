import { HalfLoopError } from '../../errors';
import type { SculptSurface } from '../SculptSurface';

/** The region of each vertex of a sculpt, by its number; 0: none. */
export type RegionLabels = Uint16Array;

/** Labels as text: runs of one number each, `number:count` in base 36. Cost: the labels; length: the runs. */
export function writeLabels(labels: RegionLabels): string {
  const runs: string[] = [];
  for (let i = 0; i < labels.length;) {
    let end = i + 1;
    while (end < labels.length && labels[end] === labels[i]) end++;
    runs.push(`${labels[i].toString(36)}:${(end - i).toString(36)}`);
    i = end;
  }
  // nothing painted is nothing written
  return runs.length === 1 && labels[0] === 0 ? '' : runs.join(' ');
}

/** Labels of `count` vertices out of text; none where it is empty. Throws BAD_FILE when it is not such text, or of another count. Cost: the labels. */
export function readLabels(text: string, count: number): RegionLabels {
  const labels = new Uint16Array(count);
  if (text === '') return labels;
  let at = 0;
  for (const run of text.split(' ')) {
    const [label, length] = run.split(':').map((n) => parseInt(n, 36));
    if (!(label >= 0 && label <= 0xffff && length > 0 && at + length <= count)) throw bad();
    labels.fill(label, at, at + length);
    at += length;
  }
  if (at !== count) throw bad();
  return labels;
}

/** Labels for the points of another sculpt: each has that of the nearest vertex of the nearest triangle. Cost: a closest point for each. */
export function carriedLabels(from: SculptSurface, labels: RegionLabels, positions: Float32Array): RegionLabels {
  const carried = new Uint16Array(positions.length / 3);
  for (let v = 0; v < carried.length; v++) {
    const { point, triangle } = from.closest([positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]]);
    const far = (w: number): number => Math.hypot(...point.map((x, k) => from.positions[3 * w + k] - x));
    const corners = [...from.indices.subarray(3 * triangle, 3 * triangle + 3)];
    carried[v] = labels[corners.reduce((best, w) => (far(w) < far(best) ? w : best))];
  }
  return carried;
}

const bad = (): HalfLoopError =>
  new HalfLoopError('BAD_FILE', 'The regions painted on the sculpt do not fit it: they were painted on another one.');
