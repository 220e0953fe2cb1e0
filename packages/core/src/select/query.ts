import * as z from 'zod/mini';
import { HalfLoopError } from '../errors';
import type { MirrorPlane } from '../math';
import type { PolyMesh, Selection } from '../mesh';

/** A pure question to a mesh: what else belongs to what is picked. */
export interface SelectionQuery<S extends z.ZodMiniType = z.ZodMiniType> {
  name: string;
  title: string;
  params: S;
  /** Elements of the answer; the picked ones it started from are part of it where they belong. Cost in each file. */
  run(mesh: PolyMesh, selection: Selection, params: z.infer<S>, plane: MirrorPlane | null): Selection;
}

export const query = <S extends z.ZodMiniType>(definition: SelectionQuery<S>): SelectionQuery<S> => definition;

/** Asks with checked parameters. Throws BAD_INPUT naming the parameter. The mesh stays as it is. */
export function runQuery<S extends z.ZodMiniType>(
  mesh: PolyMesh,
  asked: SelectionQuery<S>,
  selection: Selection,
  params: z.input<S>,
  plane: MirrorPlane | null = null,
): Selection {
  const parsed = z.safeParse(asked.params, params);
  if (parsed.success) return asked.run(mesh, selection, parsed.data as z.infer<S>, plane);
  const issue = parsed.error.issues[0];
  throw new HalfLoopError('BAD_INPUT', `${asked.title}: ${issue.path.join('.') || 'parameters'}: ${issue.message}.`);
}

export const NoParams = z.object({});
export const only = (what: Partial<Selection>): Selection => ({ vertices: [], edges: [], faces: [], ...what });
export const unique = (ids: Iterable<number>): number[] => [...new Set(ids)];
