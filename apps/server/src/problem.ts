import type { ErrorRequestHandler, Response } from 'express';
import type { Logger } from 'pino';
import { HalfLoopError, type ErrorCode } from '@half-loop/core/errors';
import type { Problem } from '@half-loop/contract';

const STATUS: Record<ErrorCode, number> = {
  BAD_FILE: 422,
  BAD_INPUT: 400,
  TOO_LARGE: 413,
  CANCELLED: 499,
  TOPOLOGY: 422,
  NOT_FOUND: 404,
  STALE_REVISION: 409,
  NO_ACCESS: 401,
  TOO_MANY: 429,
  NO_SPACE: 507,
  INTERNAL: 500,
};
const TITLE: Record<ErrorCode, string> = {
  BAD_FILE: 'The file cannot be used',
  BAD_INPUT: 'The request cannot be understood',
  TOO_LARGE: 'Too large',
  CANCELLED: 'Cancelled',
  TOPOLOGY: 'The mesh does not allow it',
  NOT_FOUND: 'Not here',
  STALE_REVISION: 'Saved from somewhere else meanwhile',
  NO_ACCESS: 'The access code is needed',
  TOO_MANY: 'Too many attempts',
  NO_SPACE: 'The disk is full',
  INTERNAL: 'Something broke in the server',
};

export function sendProblem(res: Response, error: HalfLoopError): void {
  const status = STATUS[error.code];
  const problem: Problem = {
    type: 'about:blank',
    title: TITLE[error.code],
    status,
    detail: error.message,
    code: error.code,
  };
  if (typeof error.details.revision === 'number') problem.revision = error.details.revision;
  res.status(status).type('application/problem+json').send(JSON.stringify(problem));
}

/** MariaDB's errors for a full disk or table, and the system's own. */
function isDiskFull(error: unknown): boolean {
  const { code, errno, driverError } = error as { code?: string; errno?: number; driverError?: unknown };
  if (code === 'ENOSPC' || errno === 1021 || errno === 1114) return true;
  return driverError !== undefined && driverError !== error && isDiskFull(driverError);
}

/** Every error of every route ends here, as RFC 9457 problem JSON. */
export function problems(log: Logger): ErrorRequestHandler {
  return (error: unknown, req, res, next) => {
    if (res.headersSent) return next(error);
    if (error instanceof HalfLoopError && error.code !== 'INTERNAL') return sendProblem(res, error);
    const status = (error as { status?: number }).status;
    if (status === 413)
      return sendProblem(res, new HalfLoopError('TOO_LARGE', 'The request is larger than can be taken.'));
    if (status && status < 500) return sendProblem(res, new HalfLoopError('BAD_INPUT', 'The request cannot be read.'));
    if (isDiskFull(error))
      return sendProblem(
        res,
        new HalfLoopError(
          'NO_SPACE',
          'The disk of the server is full; nothing was changed there. Make room on it: what waits here goes out then.',
        ),
      );
    log.error({ err: error, url: req.url }, 'unexpected error');
    sendProblem(
      res,
      new HalfLoopError('INTERNAL', 'Something broke in the server; nothing was changed. Its log says more.'),
    );
  };
}
