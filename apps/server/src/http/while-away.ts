/** A request that waits for the database while it is away is answered all the same: 503 with a sentence. */
import type { Problem } from '@insel/contract';
import type { NextFunction, Request, Response } from 'express';
import type { DatabaseWatch } from '../database/watch.js';
import { databaseAway, PERHAPS } from './problem.js';

/** What is answered from memory gets so long before it is taken for waiting. */
const GRACE_MS = 1200;

/** A change may have been under way to its commit: what came of it is asked for by its key. */
function givenUp({ method, path }: Request): Problem {
  if (method === 'GET') return databaseAway('It cannot be read now.');
  if (path.startsWith('/api/changes/') && !path.endsWith('/preview')) return PERHAPS;
  return databaseAway('Look before you repeat this.');
}

export function answerWhileAway(database: DatabaseWatch) {
  return (request: Request, response: Response, next: NextFunction): void => {
    if (!request.path.startsWith('/api/') || request.path.startsWith('/api/events')) return next();
    let timer: NodeJS.Timeout | undefined;
    const giveUp = () => {
      timer ??= setTimeout(() => {
        if (response.headersSent || !database.away) return;
        const problem = givenUp(request);
        response
          .status(503)
          .setHeader('Retry-After', String(problem.retryAfterSeconds ?? 5))
          .type('application/problem+json')
          .send(JSON.stringify(problem));
      }, GRACE_MS);
    };
    const stop = database.onAway(giveUp);
    response.once('close', () => {
      stop();
      clearTimeout(timer);
    });
    if (database.away) giveUp();
    next();
  };
}
