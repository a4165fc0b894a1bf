/**
 * Reads wait for what the client has written: a request that names a revision is answered from a fleet that holds it.
 * Answers carry the revision.
 */
import {
  Injectable,
  type CallHandler,
  type ExecutionContext,
  type NestInterceptor,
} from '@nestjs/common';
import type { Request, Response } from 'express';
import { map, type Observable } from 'rxjs';
import { FleetKeeper } from '../record/keeper.js';
import { ProblemException } from '../problem-exception.js';

@Injectable()
export class RevisionInterceptor implements NestInterceptor {
  constructor(private readonly keeper: FleetKeeper) {}

  async intercept(context: ExecutionContext, next: CallHandler): Promise<Observable<unknown>> {
    const request = context.switchToHttp().getRequest<Request>();
    const response = context.switchToHttp().getResponse<Response>();
    const named = Number(request.headers['x-insel-revision'] ?? 0);
    const wanted = Number.isSafeInteger(named) ? named : 0;
    if (wanted > 0 && !this.keeper.database.away && !(await this.keeper.reached(wanted))) {
      throw new ProblemException(503, {
        code: 'behind',
        sentence: `This server has not reached revision ${wanted} yet.`,
        remedy: 'Try again in a second.',
      });
    }
    return next.handle().pipe(
      map((answer: unknown) => {
        if (!response.headersSent) response.setHeader('Cache-Control', 'no-store');
        if (!response.headersSent && this.keeper.state().state !== 'loading') {
          response.setHeader('X-Insel-Revision', String(this.keeper.fleet.revision));
          const { away, heardAt } = this.keeper.database;
          if (away) response.setHeader('X-Insel-As-Of', new Date(heardAt).toISOString());
        }
        return answer;
      }),
    );
  }
}
