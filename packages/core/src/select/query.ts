import type { PolyMesh, Selection } from '../mesh';

/** A pure question to a mesh: what else belongs to what is picked. */
export interface SelectionQuery {
  name: string;
  title: string;
  /** Elements of the answer; the picked ones it started from are part of it where they belong. Cost in each file. */
  run(mesh: PolyMesh, selection: Selection): Selection;
}
