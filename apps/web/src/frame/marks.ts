/**
 * Answers that hold until the server says otherwise: each is told apart by the mark it came with. What has none is asked again
 * after every change.
 */
import type { Query, QueryClient } from '@tanstack/react-query';

const marks = new WeakMap<Query, string>();
let any = false;
/** Told of lately: an answer may arrive after it was told that it no longer holds. */
const late = new Set<string>();
const MOST_LATE = 1000;
/** The server that the stream of events comes from: the marks of another say nothing. */
let server = '';

/** While a question is under way no mark is known of it. */
export function unmark(query: Query | undefined): void {
  if (query) marks.delete(query);
}

export function mark(query: Query | undefined, given: string): void {
  any = true;
  if (!query) return;
  if (!late.has(given)) marks.set(query, given);
  // Once it is there: whoever looks at it next asks again.
  else setTimeout(() => query.invalidate());
}

/** What the stream of events says as it begins. */
export function begun(client: QueryClient, said: { server: string; known: boolean }): void {
  const anew = server !== '';
  ({ server } = said);
  // With the stream before ended what was watched for it; what altered since was told to nobody.
  if (any && (anew || !said.known)) askAgain(client, 'all');
}

/** Asks again for what is altered, and for what nobody watches. */
export function askAgain(client: QueryClient, altered: readonly string[] | 'all'): void {
  const told = altered === 'all' ? null : new Set(altered);
  for (const one of told ?? []) late.add(one);
  for (const one of late) if (late.size > MOST_LATE) late.delete(one);
  void client.invalidateQueries({
    predicate: (query) => {
      if (query.queryKey[0] === 'session') return false;
      const given = marks.get(query);
      const watched = told !== null && given?.startsWith(`${server}.`);
      return !watched || told.has(given!);
    },
  });
}
