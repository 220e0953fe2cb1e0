import { deletePicked } from './deletePicked';
import { drawOut } from './drawOut';
import { layFace } from './layFace';
import { makeReal } from './makeReal';
import { movePoints } from './movePoints';
import type { Operator } from './operator';
import { weld } from './weld';

export * from './operator';
export { deletePicked } from './deletePicked';
export { drawOut, openHalf } from './drawOut';
export { outwardAt, rowPlaces, uniqueEnds } from './rowPlaces';
export { layFace } from './layFace';
export { makeReal } from './makeReal';
export { movePoints } from './movePoints';
export { pairsWithin, weld } from './weld';
export type { Corner } from './params';

/** Every operator, by name. */
export const OPERATORS: ReadonlyMap<string, Operator> = new Map(
  ([layFace, drawOut, movePoints, weld, deletePicked, makeReal] as unknown as Operator[]).map((op) => [op.name, op]),
);
