import { randomBytes } from 'node:crypto';

/** A fresh random id, safe in addresses. */
export const newId = (): string => randomBytes(12).toString('base64url');
