/**
 * Answers that hold until the server says otherwise: each is told apart by the mark it came with. What has none is asked again
 * after every change, unless it was asked for as of that change already.
 */
import type { Query, QueryClient } from '@tanstack/react-query';
import { reachedRevision } from './api.js';

const marks = new WeakMap<Query, string>();
/** The newest question of each, and as of which revision it was asked: its answer is what is shown. */
const newest = new WeakMap<Query, { revision: number }>();
/** Digests of answers that are shown. */
const digests = new WeakMap<Query, string>();
let any = false;
/** Told of lately: an answer may arrive after it was told that it no longer holds. */
const late = new Set<string>();
const MOST_LATE = 1000;
/** The server that the stream of events comes from: the marks of another say nothing. */
let server = '';

export interface PendingRead {
  /** Takes the mark of the answer; that of a question that was asked before counts no more. */
  marked: (given: string) => void;
  /** Digest of the answer that is shown: the same need not be sent once more. */
  known: string | undefined;
  /** Takes that of the answer. */
  digested: (digest: string) => void;
}

/** A question is asked: until its answer is there no mark is known of it. */
export function asking(client: QueryClient, query: Query | undefined): PendingRead {
  const me = { revision: reachedRevision() };
  if (query) {
    newest.set(query, me);
    marks.delete(query);
  }
  const isNewest = () => query !== undefined && newest.get(query) === me;
  return {
    marked(given) {
      any = true;
      if (!isNewest()) return;
      if (late.has(given)) onceThere(client, query!);
      else marks.set(query!, given);
    },
    known: query?.state.data === undefined ? undefined : digests.get(query),
    digested(digest) {
      if (isNewest()) digests.set(query!, digest);
    },
  };
}

/** First answers that are under way, and whether each is asked for again even if it is watched when it is there. */
const waited = new WeakMap<Query, boolean>();

/** Asks again when the answer that is under way is there, unless it is watched by then. */
function onceThere(client: QueryClient, query: Query, watchedToo = false): void {
  const { queryKey, promise } = query;
  if (!promise) return;
  const before = waited.get(query);
  waited.set(query, before === true || watchedToo);
  if (before !== undefined) return;
  const again = () => {
    const anyhow = waited.get(query);
    waited.delete(query);
    if (anyhow || !marks.has(query)) void client.invalidateQueries({ queryKey, exact: true });
  };
  // Not before the answer is kept as that of the query.
  const later = () => setTimeout(again);
  void promise.then(later, later);
}

/** What the stream of events says as it begins. */
export function begun(client: QueryClient, said: { server: string; known: boolean }): void {
  const anew = server !== '';
  ({ server } = said);
  // With the stream before ended what was watched for it; what altered since was told to nobody.
  if (any && (anew || !said.known)) askAgain(client, 'all');
}

/** @param revision that the record has reached: what was asked for as of it needs not be asked again */
export function askAgain(
  client: QueryClient,
  altered: readonly string[] | 'all',
  revision = Infinity,
): void {
  const stale = altered === 'all' ? null : new Set(altered);
  for (const one of stale ?? []) late.add(one);
  for (const one of late) if (late.size > MOST_LATE) late.delete(one);
  const holds = (query: Query): boolean => {
    if (query.queryKey[0] === 'session') return true;
    if (stale === null) return false;
    const given = marks.get(query);
    if (given?.startsWith(`${server}.`)) return !stale.has(given);
    const latest = newest.get(query);
    return latest !== undefined && latest.revision >= revision && query.state.status !== 'error';
  };
  for (const query of client.getQueryCache().findAll({ fetchStatus: 'fetching' }))
    // A first answer that is under way is waited for, whatever happens meanwhile.
    if (query.state.data === undefined && !holds(query)) onceThere(client, query, stale === null);
  void client.invalidateQueries({ predicate: (query) => !holds(query) });
}
