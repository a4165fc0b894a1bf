/** Why a request was not answered, as a problem document (RFC 9457). */
import type { Problem } from '@insel/contract';
import type { Refusal } from '@insel/core';

const TITLES: Record<number, string> = {
  400: 'Not understood',
  401: 'Not signed in',
  403: 'Not allowed',
  404: 'Not found',
  409: 'Refused',
  412: 'Altered meanwhile',
  413: 'Too large',
  422: 'A field is not right',
  428: 'Precondition missing',
  429: 'Too many attempts',
  503: 'Not ready',
};

type Detail = Partial<Problem> & { code: string; sentence: string };

/** Knows nothing of the framework that answers: the worker, too, refuses by it. */
export class ProblemException extends Error {
  readonly problem: Problem;

  constructor(status: number, detail: Detail) {
    super(detail.sentence);
    this.name = 'ProblemException';
    this.problem = {
      type: `urn:insel:problem:${detail.code}`,
      title: TITLES[status] ?? 'Failed',
      status,
      ...detail,
    };
  }
}

/** A refusal at a field is 422, any other 409. */
export function refused({ refused: _, ...refusal }: Refusal): ProblemException {
  return new ProblemException(refusal.field && !refusal.overridable ? 422 : 409, refusal);
}

export const notFound = (what: string): ProblemException =>
  new ProblemException(404, {
    code: 'not-found',
    sentence: `This ${what} is not in the record.`,
    remedy: 'It may have been removed: look into the log.',
  });
