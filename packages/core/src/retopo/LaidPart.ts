import type { Piece } from './gridQuads';

/** Quads of a part, and what was closed or left out for them, in words. */
export interface LaidPart {
  pieces: Piece[];
  mended: string[];
}
