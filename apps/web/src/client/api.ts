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

/** Reads ask for a fleet that holds it. */
export const reachedRevision = (): number => reached;

let shownAsOf: string | null = null;
const asOfListeners = new Set<() => void>();

/** Time of what is shown, where the server could not look whether it is still so; null where it could. */
export const asOf = (): string | null => shownAsOf;
export function onAsOf(listener: () => void): () => void {
  asOfListeners.add(listener);
  return () => asOfListeners.delete(listener);
}

/**
 * What an answer says of the record: its age, and its revision. One below what was asked for: an older state was put back.
 */
function heed({ headers }: Response, wantedRevision: number): void {
  const revision = Number(headers.get('X-Insel-Revision') ?? NaN);
  if (revision >= 0 && revision < wantedRevision) reached = Math.min(reached, revision);
  const now = headers.get('X-Insel-As-Of');
  if (now === shownAsOf) return;
  shownAsOf = now;
  for (const listener of asOfListeners) listener();
}

/** What this window calls itself: the server tells it which of its answers no longer hold. */
export const WINDOW: string = crypto.randomUUID();
/** Requests are counted: of two that ask the same the answer to the later one is shown. */
let requests = 0;

interface Options {
  body?: unknown;
  /** The same key twice makes one change. */
  key?: string;
  /** Told the mark that the answer carries, if it is watched. */
  marked?: (mark: string) => void;
  /** What is known by its digest is not sent once more: the answer is `undefined` then. */
  known?: string;
  /** Told the digest of the answer, if it has one. */
  digested?: (digest: string) => void;
}

export async function call<T>(
  method: string,
  path: string,
  { body, key, marked, known, digested }: Options = {},
): Promise<T> {
  const headers: Record<string, string> = { 'X-Insel-Window': `${WINDOW} ${(requests += 1)}` };
  if (body !== undefined) headers['Content-Type'] = 'application/json';
  if (key) headers['Idempotency-Key'] = key;
  if (known) headers['X-Insel-Known'] = known;
  const wantedRevision = reached;
  if (wantedRevision) headers['X-Insel-Revision'] = String(wantedRevision);
  // What is not sent is not recorded.
  if (!navigator.onLine) throw new ProblemError(OFFLINE);
  const response = await fetch(`/api/${path}`, {
    method,
    headers,
    body: body === undefined ? undefined : JSON.stringify(body),
  }).catch(() => null);
  if (response === null) {
    if (key) return lostAnswer<T>(key);
    throw new ProblemError(method === 'GET' ? OFFLINE : PERHAPS);
  }
  heed(response, wantedRevision);
  const mark = response.headers.get('X-Insel-Mark');
  if (mark) marked?.(mark);
  if (response.status === 204) return undefined as T;
  const answer: unknown = await response.json().catch(() => null);
  const digest = response.headers.get('X-Insel-Digest');
  if (digest && answer !== null) digested?.(digest);
  if (!response.ok) {
    const problem = (answer ?? {
      title: 'Failed',
      status: response.status,
      code: 'failed',
      sentence: `The server answered ${response.status}.`,
    }) as Problem;
    if (problem.code === PERHAPS.code && key) return lostAnswer<T>(key);
    if (response.status === 401 && path !== 'session')
      window.dispatchEvent(new Event('insel-signed-out'));
    throw new ProblemError(problem);
  }
  const { revision } = (answer ?? {}) as Partial<Written>;
  if (method !== 'GET' && typeof revision === 'number') noteRevision(revision);
  return answer as T;
}

const OFFLINE: Problem = {
  type: '',
  title: 'Not reached',
  status: 0,
  code: 'offline',
  sentence: 'Insel cannot be reached.',
  remedy: 'What you typed is kept here: try again when the connection is back.',
};
const PERHAPS: Problem = {
  type: '',
  title: 'Answer lost',
  status: 0,
  code: 'perhaps-recorded',
  sentence: 'Insel cannot be reached. It may have been recorded; look before you repeat.',
  remedy: 'What you typed is kept here. Sent again as it is, it is recorded once at most.',
};
const NOT_RECORDED: Problem = {
  type: '',
  title: 'Not recorded',
  status: 0,
  code: 'not-recorded',
  sentence: 'The connection was lost, and nothing was recorded.',
  remedy: 'What you typed is kept here: try again.',
};

/** How long a lost answer is looked for, and how often. */
const LOOK_MS = 4000;
const EVERY_MS = 500;

/** A write whose answer did not arrive: the server knows by its key what came of it. */
async function lostAnswer<T>(key: string): Promise<T> {
  for (const until = Date.now() + LOOK_MS; Date.now() < until;) {
    const response = await fetch(`/api/changes/answers/${key}`).catch(() => null);
    const answer = (await response?.json().catch(() => null)) as (Written & Problem) | null;
    if (response?.ok && answer) {
      noteRevision(answer.revision);
      return answer as T;
    }
    if (response?.status === 404 && answer?.code === NOT_RECORDED.code) {
      throw new ProblemError(NOT_RECORDED);
    }
    await new Promise((resolve) => setTimeout(resolve, EVERY_MS));
  }
  throw new ProblemError(PERHAPS);
}

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
