import * as queries from './queries';
import type { SelectionQuery } from './query';

export type { SelectionQuery } from './query';
export * from './queries';

/** Every selection query, by name. */
export const SELECTION_QUERIES: ReadonlyMap<string, SelectionQuery> = new Map(
  Object.values(queries).map((q) => [q.name, q]),
);
