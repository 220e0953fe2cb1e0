import { grow, shrink, toEdges, toFaces, toVertices } from './convert';
import { byAngle, byFacing, bySides, byValence, hard, open, region, regionIsland, same } from './measured';
import type { SelectionQuery } from './query';
import { rhythm } from './rhythm';
import { between, border, loop, ring, strip } from './walks';
import { all, connected, invert, none } from './whole';

export { runQuery, type SelectionQuery } from './query';
export { countRhythm, type RhythmCount, type RhythmParams } from './rhythm';
export { pickedRuns, type PickedRuns } from './runs';
export { insideOutline, Outline, type OutlineOptions } from './outline';
export { wholeValence } from './measured';
export { stripFaces } from './walks';
export { KINDS, pickedKind, type Kind } from './whole';
export {
  all,
  between,
  border,
  byAngle,
  byFacing,
  bySides,
  byValence,
  connected,
  grow,
  hard,
  invert,
  loop,
  none,
  open,
  region,
  regionIsland,
  rhythm,
  ring,
  same,
  shrink,
  strip,
  toEdges,
  toFaces,
  toVertices,
};

const ALL = [
  all,
  none,
  invert,
  toVertices,
  toEdges,
  toFaces,
  loop,
  ring,
  strip,
  border,
  connected,
  between,
  grow,
  shrink,
  rhythm,
  open,
  hard,
  byAngle,
  byValence,
  bySides,
  byFacing,
  region,
  regionIsland,
  same,
];

/** Every selection query, by name. */
export const SELECTION_QUERIES: ReadonlyMap<string, SelectionQuery> = new Map(
  (ALL as unknown as SelectionQuery[]).map((q) => [q.name, q]),
);
