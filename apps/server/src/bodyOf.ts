import type { Request } from 'express';
import * as z from 'zod/mini';
import { HalfLoopError } from '@half-loop/core/errors';

/** A request's JSON body as its schema has it. Throws BAD_INPUT with the first thing that is wrong. */
export function bodyOf<S extends z.ZodMiniType>(schema: S, req: Request): z.infer<S> {
  const parsed = z.safeParse(schema, req.body);
  if (parsed.success) return parsed.data as z.infer<S>;
  const { path: at, message } = parsed.error.issues[0];
  throw new HalfLoopError('BAD_INPUT', `${at.join('.') || 'The body'}: ${message}.`);
}
