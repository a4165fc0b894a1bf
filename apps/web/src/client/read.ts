/** Reading the record by the names of the contract: what is asked and what comes back have their types, no path is written. */
import type { ReadAnswer, ReadQuery } from '@insel/contract';
import { requestOf, type ReadName } from '@insel/contract/read-paths';
import {
  hashKey,
  queryOptions,
  useQuery,
  type Query,
  type UseQueryResult,
} from '@tanstack/react-query';
import { call } from './api.js';
import { asking, type PendingRead } from './marks.js';
import { fromStandpoint, standpoint, useStandpoint, type Standpoint } from './standpoint.js';

export interface ReadOptions {
  /** The last answer stays while another is fetched. */
  keep?: boolean;
  /** A question that is refused is not asked again. */
  once?: boolean;
  /** How often it is asked again, in milliseconds. */
  every?: number | false;
}

/** What is asked may be left out where nothing needs to be said. */
type QueryArgs<N extends ReadName> =
  Record<never, never> extends ReadQuery<N> ? [query?: ReadQuery<N>] : [query: ReadQuery<N>];
/** Null where there is nothing to ask yet. */
type OptionalQueryArgs<N extends ReadName> =
  Record<never, never> extends ReadQuery<N>
    ? [query?: ReadQuery<N> | null, options?: ReadOptions]
    : [query: ReadQuery<N> | null, options?: ReadOptions];

export const read = <N extends ReadName>(
  name: N,
  ...[query]: QueryArgs<N>
): Promise<ReadAnswer<N>> => ask<N>(name, query as object | undefined) as Promise<ReadAnswer<N>>;

function ask<N extends ReadName>(
  name: N,
  query: object | undefined,
  now?: PendingRead,
): Promise<ReadAnswer<N> | undefined> {
  const { method, path, body } = requestOf(name, query);
  return call<ReadAnswer<N> | undefined>(method, pathOf(name, path), { body, ...now });
}

/** The log is of no time; plans are told from the record as it is. */
const OF_NOW: ReadonlySet<ReadName> = new Set([
  'log',
  'attachment',
  'plans',
  'plan',
  'planRunbook',
  'plansCompared',
]);
const pathOf = (name: ReadName, path: string): string =>
  OF_NOW.has(name) ? path : fromStandpoint(path);

/** Where a browser finds an answer that is a page or a file of its own. */
export const hrefOf = <N extends ReadName>(name: N, ...[query]: QueryArgs<N>): string =>
  `/api/${pathOf(name, requestOf(name, query as object | undefined).path)}`;

/** For reads of which a page needs a number that is not fixed. */
export const readOptions = <N extends ReadName>(
  name: N,
  ...[query, options = {}]: OptionalQueryArgs<N>
) =>
  queryOptions({
    queryKey: [name, query ?? null, OF_NOW.has(name) ? null : standpoint()],
    queryFn: async ({ client, queryKey }) => {
      const cached = client.getQueryCache().find<ReadAnswer<N>>({ queryKey, exact: true });
      const answer = await ask<N>(name, query ?? undefined, asking(client, cached as Query));
      // Nothing is sent where it is what is shown already.
      return answer === undefined ? cached!.state.data! : answer;
    },
    enabled: query !== null,
    placeholderData: ((before: unknown, previous: Query | undefined) =>
      options.keep || isTheSame(previous, name, query) ? before : undefined) as never,
    ...(options.once ? { retry: false } : {}),
    ...(options.every === undefined ? {} : { refetchInterval: options.every }),
  });

/**
 * Whether only the plan that is drawn in was another: what stands there is looked at until it is read anew, so that what is typed in
 * it stays. What is past is never shown as now, nor the other way round.
 */
function isTheSame(previous: Query | undefined, name: ReadName, query: unknown): boolean {
  const [before, of, from] = previous?.queryKey ?? [];
  const { asOf } = (from ?? standpoint()) as Standpoint;
  return (
    before === name && asOf === standpoint().asOf && hashKey([of]) === hashKey([query ?? null])
  );
}

export function useRead<N extends ReadName>(
  name: N,
  ...args: OptionalQueryArgs<N>
): UseQueryResult<ReadAnswer<N>> {
  // Read anew when the standpoint alters.
  useStandpoint();
  return useQuery(readOptions(name, ...args)) as UseQueryResult<ReadAnswer<N>>;
}
