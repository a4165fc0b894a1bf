import type { Problem } from '@insel/contract';
import {
  Catch,
  HttpException,
  Logger,
  type ArgumentsHost,
  type ExceptionFilter,
} from '@nestjs/common';
import type { Request, Response } from 'express';
import { ProblemException } from './problem-exception.js';
import { StillLoading } from '../record/keeper.js';
import { NotRecorded, PerhapsRecorded } from '../record/write-path.js';
import { safeText } from '../logging/safe-text.js';

@Catch()
export class ProblemFilter implements ExceptionFilter {
  private readonly logger = new Logger('http');

  catch(error: unknown, host: ArgumentsHost): void {
    const response = host.switchToHttp().getResponse<Response>();
    if (response.headersSent) return;
    const problem = this.problemOf(error, host.switchToHttp().getRequest<Request>());
    response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
  }

  private problemOf(error: unknown, request: Request): Problem {
    if (error instanceof ProblemException) return error.getResponse() as Problem;
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
    const cause = error instanceof NotRecorded || error instanceof PerhapsRecorded;
    this.logger.error(
      `${request.method} ${request.path}: ${safeText(cause ? error.cause : error)}`,
    );
    const again = 'Try again; if it happens again, the server log says more.';
    if (request.method === 'GET') return make(500, 'failed', 'Insel failed at this.', again);
    if (error instanceof NotRecorded) {
      return make(500, 'failed', 'Insel failed at this; nothing was altered.', again);
    }
    return make(
      503,
      'perhaps-recorded',
      'Insel failed at this. It may have been recorded; look before you repeat.',
      'Read the record anew, or look into the log.',
    );
  }
}

function make(status: number, code: string, sentence: string, remedy?: string): Problem {
  return new ProblemException(status, { code, sentence, remedy }).getResponse() as Problem;
}
