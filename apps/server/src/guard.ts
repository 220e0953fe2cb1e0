import { randomBytes } from 'node:crypto';
import type { RequestHandler, Response } from 'express';
import helmet from 'helmet';
import { HalfLoopError } from '@half-loop/core/errors';

export const nonceOf = (res: Response): string => res.locals.nonce as string;

/** A fresh nonce a request, and the headers that go with it. Plain http on a local network: no HSTS, no upgrade. */
export function headers(): RequestHandler[] {
  const nonce = (_req: unknown, res: unknown): string => `'nonce-${nonceOf(res as Response)}'`;
  return [
    (_req, res, next) => {
      res.locals.nonce = randomBytes(16).toString('base64url');
      next();
    },
    helmet({
      strictTransportSecurity: false,
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'none'"],
          scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
          workerSrc: ["'self'"],
          styleSrc: ["'self'", nonce],
          styleSrcAttr: ["'unsafe-inline'"],
          imgSrc: ["'self'", 'data:', 'blob:'],
          fontSrc: ["'self'"],
          connectSrc: ["'self'"],
          baseUri: ["'none'"],
          formAction: ["'none'"],
          frameAncestors: ["'none'"],
        },
      },
    }),
  ];
}

/** Only our own page may talk to us: the Host is one we serve, and what changes things comes from our origin. */
export function sameOrigin(hosts: ReadonlySet<string>): RequestHandler {
  return (req, _res, next) => {
    const host = (req.headers.host ?? '').toLowerCase().replace(/:\d+$/, '');
    if (!hosts.has(host)) throw new HalfLoopError('BAD_INPUT', 'This server does not answer to that host name.');
    const { origin } = req.headers;
    if (origin !== undefined && origin !== `http://${req.headers.host}` && origin !== `https://${req.headers.host}`)
      throw new HalfLoopError('BAD_INPUT', 'Requests from other sites are not taken.');
    // a picture or a script of another site's page comes without an origin, but browsers say where it is from
    if (['cross-site', 'same-site'].includes(String(req.headers['sec-fetch-site'])))
      throw new HalfLoopError('BAD_INPUT', 'Requests from other sites are not taken.');
    next();
  };
}
