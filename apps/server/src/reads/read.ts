/**
 * A read of the record: a pure function of a fleet and what is asked. Handlers hand in the fleet; nothing here reaches
 * for the one that is held, so that a fleet of another time or with a plan drawn in answers in the same way.
 */
import type { Account, ReadAnswer, ReadName, ReadQuery } from '@insel/contract';
import type { Fleet, HourlyUse, Row } from '@insel/core';
import type { MikroORM } from '@mikro-orm/postgresql';
import { notFound } from '../problem-exception.js';
import type { Samples } from '../record/samples.js';
import type { OrderCache } from '../views/orders.js';

/** Who asks, and when. */
export interface Asking {
  now: string;
  account: Pick<Account, 'id' | 'name' | 'role'>;
  /** Orders of lists at the fleet's revision. */
  orders: OrderCache;
  /** The record as it was when what is asked is compared with: asked for by `newSince`. */
  then?: { fleet: Fleet; now: string };
  /** What guests were measured to use, where the read names them. */
  use?: HourlyUse[];
}

/** What lies beside the fleet: the log, samples, attachments. */
export interface Tables {
  orm: MikroORM;
  samples: Samples;
}

export type FromFleet<N extends ReadName> = (
  fleet: Fleet,
  query: ReadQuery<N>,
  asking: Asking,
) => ReadAnswer<N>;
type InWorker<N extends ReadName> = (
  fleet: Fleet,
  query: ReadQuery<N>,
  asking: Asking,
) => ReadAnswer<N> | Promise<ReadAnswer<N>>;
type FromTables<N extends ReadName> = (
  tables: Tables,
  query: ReadQuery<N>,
  fleet: Fleet,
  asking: Asking,
) => Promise<ReadAnswer<N>>;

/** At once from the fleet; or in the worker, where it looks at all of it; or from tables beside it. */
export type Read<N extends ReadName> =
  | FromFleet<N>
  | {
      inWorker: InWorker<N>;
      /** Guests whose measured use is read beforehand: the worker reads no tables. */
      measured?: (fleet: Fleet, query: ReadQuery<N>) => string[];
    }
  | { fromTables: FromTables<N> };

/** Reads of one subject. */
export type Reads<N extends ReadName = ReadName> = { [K in N]: Read<K> };

type Findable =
  'host' | 'guest' | 'network' | 'subnet' | 'device' | 'migration' | 'volume' | 'pool' | 'platform';

/** @throws ProblemException 404 where the fleet holds no such row */
export function found<K extends Findable>(fleet: Fleet, kind: K, id: string): Row<K> {
  const row = fleet.get(kind, id);
  if (!row) throw notFound(kind);
  return row;
}
