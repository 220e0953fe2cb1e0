/** Every way the product can refuse, as a closed table. A host maps each code to its own status. */
export const ERROR_CODES = [
  'BAD_FILE',
  'BAD_INPUT',
  'TOO_LARGE',
  'CANCELLED',
  'TOPOLOGY',
  'NOT_FOUND',
  'STALE_REVISION',
  'NO_ACCESS',
  'TOO_MANY',
  'NO_SPACE',
  'INTERNAL',
] as const;
export type ErrorCode = (typeof ERROR_CODES)[number];

/** A refusal in words for the user: what is wrong, where, and what to do. */
export class HalfLoopError extends Error {
  constructor(
    readonly code: ErrorCode,
    message: string,
    readonly details: Readonly<Record<string, unknown>> = {},
    options?: { cause?: unknown },
  ) {
    super(message, options);
    this.name = 'HalfLoopError';
  }
}

export const TOPOLOGY_CODES = [
  'EDGE_FULL',
  'VERTEX_CLOSED',
  'VERTEX_REPEATED',
  'TOO_FEW_CORNERS',
  'NOTHING_PICKED',
  'NOT_A_BORDER',
  'OFF_MIDLINE',
  'NOT_FINITE',
  'COUNTS_DIFFER',
  'HAS_A_HOLE',
  'NO_WAY',
  'WOULD_FOLD',
  'BAD_SIZE',
  'TOO_MANY_FACES',
] as const;
export type TopologyCode = (typeof TOPOLOGY_CODES)[number];

export interface ElementRefs {
  vertices?: number[];
  edges?: number[];
  faces?: number[];
}

/** An operator's refusal: the mesh is bit for bit what it was before the operator began. */
export class TopologyError extends HalfLoopError {
  constructor(
    readonly reason: TopologyCode,
    message: string,
    readonly elements: ElementRefs = {},
  ) {
    super('TOPOLOGY', message, { reason, elements });
    this.name = 'TopologyError';
  }
}

/** A reader's refusal, with the place in the file. */
export function badFile(message: string, place?: { line?: number; byte?: number }): HalfLoopError {
  const where =
    place?.line !== undefined ? ` (line ${place.line})` : place?.byte !== undefined ? ` (byte ${place.byte})` : '';
  // what a file quotes may hold line breaks or worse; the sentence stays one line
  return new HalfLoopError('BAD_FILE', `${message.replace(/[\p{Cc}\s]+/gu, ' ')}${where}`, place ?? {});
}
