import { createHash, timingSafeEqual } from 'node:crypto';
import type { RequestHandler } from 'express';
import * as z from 'zod/mini';
import { HalfLoopError } from '@half-loop/core/errors';
import { AccessCode, type AccessState } from '@half-loop/contract';

const COOKIE = 'half-loop-access';
const KEPT_S = 90 * 24 * 3600;
/** Wrong codes from one address, and from all together, within the window. A code of 130 bits needs no more. */
const ATTEMPTS = { each: 5, all: 50, windowMs: 60_000 };

const digest = (text: string): Buffer => createHash('sha256').update(text).digest();

/** Counts wrong codes by address; the window moves with the clock of the process, which nothing sets back. */
class Attempts {
  private wrong: { from: string; at: number }[] = [];
  constructor(private readonly now: () => number) {}
  private recent(): { from: string; at: number }[] {
    const since = this.now() - ATTEMPTS.windowMs;
    this.wrong = this.wrong.filter((w) => w.at > since);
    return this.wrong;
  }
  isFull(from: string): boolean {
    const recent = this.recent();
    return recent.length >= ATTEMPTS.all || recent.filter((w) => w.from === from).length >= ATTEMPTS.each;
  }
  add(from: string): void {
    this.wrong.push({ from, at: this.now() });
  }
}

/**
 * The door of a server that others can reach: nothing of the API is answered before the access code was given once. The browser
 * then holds a cookie that scripts cannot read and other sites cannot send; another code makes it worthless.
 */
export function accessDoor(code: string, now: () => number = () => performance.now()) {
  const token = digest(`half-loop session ${code}`).toString('base64url');
  const attempts = new Attempts(now);
  const hasToken = (cookies = ''): boolean =>
    cookies
      .split(/;\s*/)
      .some((c) => c.startsWith(`${COOKIE}=`) && timingSafeEqual(digest(c.slice(COOKIE.length + 1)), digest(token)));

  const state: RequestHandler = (req, res) => {
    const body: AccessState = { needed: true, given: hasToken(req.headers.cookie) };
    res.set('Cache-Control', 'no-store').json(body);
  };
  const give: RequestHandler = (req, res) => {
    const from = req.socket.remoteAddress ?? 'unknown';
    if (attempts.isFull(from))
      throw new HalfLoopError(
        'TOO_MANY',
        'Too many wrong codes. Wait a minute, then type the code that npm start printed.',
      );
    const given = z.safeParse(AccessCode, req.body);
    if (!given.success || !timingSafeEqual(digest(plainCode(given.data.code)), digest(plainCode(code)))) {
      attempts.add(from);
      throw new HalfLoopError('NO_ACCESS', 'That is not the access code. It stands where Half Loop was started.');
    }
    res
      .cookie(COOKIE, token, { httpOnly: true, sameSite: 'strict', path: '/', maxAge: KEPT_S * 1000 })
      .status(204)
      .end();
  };
  const guard: RequestHandler = (req, _res, next) => {
    if (!hasToken(req.headers.cookie))
      throw new HalfLoopError('NO_ACCESS', 'The access code is needed first: reload the page and type it.');
    next();
  };
  return { state, give, guard };
}

/** A code as it was typed: blanks, dashes and case do not matter. */
const plainCode = (code: string): string => code.replace(/[\s-]+/g, '').toLowerCase();
