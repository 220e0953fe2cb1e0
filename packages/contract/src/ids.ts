import * as z from 'zod/mini';

export const Id = z.string().check(z.regex(/^[A-Za-z0-9_-]{6,40}$/));
/** SHA-256 of stored bytes, in hexadecimal. */
export const Hash = z.string().check(z.regex(/^[0-9a-f]{64}$/));
/** A name as a person types it: text, never markup. */
export const Name = z.string().check(z.trim(), z.minLength(1), z.maxLength(120));
