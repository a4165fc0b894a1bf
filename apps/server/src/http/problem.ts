import type { Problem } from '@insel/contract';
import {
  Catch,
  HttpException,
  Logger,
  type ArgumentsHost,
  type ExceptionFilter,
} from '@nestjs/common';
import type { Request, Response } from 'express';
import { ProblemException } from '../problem-exception.js';
import { StillLoading } from '../record/keeper.js';
import { NotRecorded, PerhapsRecorded } from '../record/not-recorded.js';
import { isConnectionLost } from '../database/watch.js';
import { safeText } from '../logging/safe-text.js';

@Catch()
export class ProblemFilter implements ExceptionFilter {
  private readonly logger = new Logger('http');

  catch(error: unknown, host: ArgumentsHost): void {
    const response = host.switchToHttp().getResponse<Response>();
    if (response.headersSent) return;
    const problem = this.problemOf(error, host.switchToHttp().getRequest<Request>());
    if (problem.retryAfterSeconds)
      response.setHeader('Retry-After', String(problem.retryAfterSeconds));
    response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
  }

  private problemOf(error: unknown, request: Request): Problem {
    if (error instanceof ProblemException) return error.problem;
    if (error instanceof StillLoading) {
      return make(
        503,
        'loading',
        'The record is still being read.',
        'Wait a few seconds and try again.',
      );
    }
    if (error instanceof HttpException) {
      const status = error.getStatus();
      if (status === 404) return make(404, 'no-such-path', `There is nothing at ${request.path}.`);
      if (status === 413)
        return make(
          413,
          'too-large',
          'This request is larger than it may be: 2 MB, 16 kB before signing in.',
          'Send it in parts.',
        );
      if (status === 400 && request.method !== 'GET' && /JSON/.test(error.message))
        return make(400, 'bad-json', 'The body is not JSON that can be read.');
      return make(
        status,
        'bad-request',
        error.message.endsWith('.') ? error.message : `${error.message}.`,
      );
    }
    if (error instanceof NotRecorded && isConnectionLost(error.cause))
      return databaseAway('Nothing was altered.');
    if (isConnectionLost(error))
      return databaseAway(
        request.method === 'GET' ? 'It cannot be read now.' : 'Look before you repeat this.',
      );
    if (isUnreadable(error instanceof NotRecorded ? error.cause : error))
      return make(
        422,
        'not-understood',
        'Something in this request cannot be read: a character, a number, a date or an id that is none.',
        'Look at what was typed last.',
      );
    const cause = error instanceof NotRecorded || error instanceof PerhapsRecorded;
    this.logger.error(
      `${request.method} ${request.path}: ${safeText(cause ? error.cause : error)}`,
    );
    const again = 'Try again; if it happens again, the server log says more.';
    if (request.method === 'GET') return make(500, 'failed', 'Insel failed at this.', again);
    if (error instanceof NotRecorded) {
      return make(500, 'failed', 'Insel failed at this; nothing was altered.', again);
    }
    return PERHAPS;
  }
}

/** What PostgreSQL says of values that are none: characters, representations, numbers and times out of their range. */
const UNREADABLE = new Set(['22021', '22P05', '22P02', '22003', '22007', '22008', '22025']);

const isUnreadable = (error: unknown): boolean =>
  UNREADABLE.has(String((error as { code?: unknown } | undefined)?.code));

/** What is said while the database is away. */
export const databaseAway = (what: string): Problem =>
  new ProblemException(503, {
    code: 'database-away',
    sentence: `The database does not answer. ${what}`,
    remedy: 'Try again in a few seconds; what you see may still be read.',
    retryAfterSeconds: 5,
  }).problem;

export const PERHAPS: Problem = new ProblemException(503, {
  code: 'perhaps-recorded',
  sentence: 'Insel failed at this. It may have been recorded; look before you repeat.',
  remedy: 'Read the record anew, or look into the log.',
}).problem;

function make(status: number, code: string, sentence: string, remedy?: string): Problem {
  return new ProblemException(status, { code, sentence, remedy }).problem;
}
