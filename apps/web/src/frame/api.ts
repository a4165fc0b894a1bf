/** Talking to the server: JSON, problem documents, and reads that wait for what was written. */
import type { Problem, Written } from '@insel/contract';

export class ProblemError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.sentence);
  }
}

let reached = 0;

/** Notes that a revision exists: later reads ask for a fleet that holds it. */
export const noteRevision = (revision: number): void => {
  reached = Math.max(reached, revision);
};

interface Options {
  body?: unknown;
  /** Revision of the record that was read: sent as If-Match. */
  seen?: number;
  /** The same key twice makes one change. */
  key?: string;
}

export async function call<T>(
  method: string,
  path: string,
  { body, seen, key }: Options = {},
): Promise<T> {
  const headers: Record<string, string> = {};
  if (body !== undefined) headers['Content-Type'] = 'application/json';
  if (seen !== undefined) headers['If-Match'] = `"${seen}"`;
  if (key) headers['Idempotency-Key'] = key;
  if (method === 'GET' && reached) headers['X-Insel-Revision'] = String(reached);
  const response = await fetch(`/api/${path}`, {
    method,
    headers,
    body: body === undefined ? undefined : JSON.stringify(body),
  }).catch(() => {
    throw new ProblemError({
      type: '',
      title: 'Not reached',
      status: 0,
      code: 'offline',
      sentence: 'Insel cannot be reached.',
      remedy: 'What you typed is kept here: try again when the connection is back.',
    });
  });
  if (response.status === 204) return undefined as T;
  const answer: unknown = await response.json().catch(() => null);
  if (!response.ok) {
    const problem = (answer ?? {
      title: 'Failed',
      status: response.status,
      code: 'failed',
      sentence: `The server answered ${response.status}.`,
    }) as Problem;
    if (response.status === 401 && path !== 'session')
      window.dispatchEvent(new Event('insel-signed-out'));
    throw new ProblemError(problem);
  }
  const { revision } = (answer ?? {}) as Partial<Written>;
  if (method !== 'GET' && typeof revision === 'number') noteRevision(revision);
  return answer as T;
}

export const read = <T>(path: string): Promise<T> => call<T>('GET', path);

export function problemOf(error: unknown): Problem {
  if (error instanceof ProblemError) return error.problem;
  return {
    type: '',
    title: 'Failed',
    status: 0,
    code: 'failed',
    sentence: (error as Error).message,
  };
}
