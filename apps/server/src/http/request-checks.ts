/** Checks on every request before anything else: which name was asked for, and where a write comes from. */
import type { NextFunction, Request, Response } from 'express';
import type { Config } from '../config.js';
import { ProblemException } from '../problem-exception.js';

const SAFE = new Set(['GET', 'HEAD', 'OPTIONS']);

export function allowedHosts(config: Config) {
  return (request: Request, _response: Response, next: NextFunction): void => {
    const name = (request.headers.host ?? '').replace(/:\d+$/, '').toLowerCase();
    if (config.hostNames.includes(name)) return next();
    next(
      new ProblemException(403, {
        code: 'unknown-host',
        sentence: `Insel does not answer under the name "${name}".`,
        remedy: 'Name it in INSEL_HOST_NAMES.',
      }),
    );
  };
}

/** PostgreSQL takes no NUL, in whatever place of a request. */
export function readable(request: Request, _response: Response, next: NextFunction): void {
  if (!/%00/.test(request.url)) return next();
  next(
    new ProblemException(404, {
      code: 'no-such-path',
      sentence: 'There is nothing under a name with the character NUL.',
    }),
  );
}

export function sameOrigin(request: Request, _response: Response, next: NextFunction): void {
  const { origin, host } = request.headers;
  const foreign =
    origin !== undefined && origin !== `http://${host}` && origin !== `https://${host}`;
  if (SAFE.has(request.method) || !foreign) return next();
  next(
    new ProblemException(403, {
      code: 'foreign-origin',
      sentence: 'This request comes from another site.',
    }),
  );
}
