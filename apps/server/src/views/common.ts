import type { AddressView, FindingMark, ListWindow, Named } from '@insel/contract';
import {
  addressOf,
  markOn,
  prefixOf,
  type Expectation,
  type Fleet,
  type Row,
  type SheetKind,
} from '@insel/core';

/** A row as somebody reads it: its change names this revision. */
export const asRead = ({ id, revision }: Expectation): Expectation => ({ id, revision });

export const named = (row: { id: string; name: string }): Named => ({ id: row.id, name: row.name });

export const byName = (a: { name: string }, b: { name: string }): number =>
  a.name.localeCompare(b.name, undefined, { numeric: true });

export function namedById(
  fleet: Fleet,
  kind: 'host' | 'guest' | 'network' | 'pool' | 'site' | 'service' | 'hostGroup' | 'powerFeed',
  id: string,
): Named {
  return named(fleet.need(kind, id));
}

export function siteName(fleet: Fleet, siteId: string | null): string {
  return fleet.get('site', siteId)?.name ?? '';
}

/** Gravest finding at a record, for its line in a list. */
export const markOf: (
  fleet: Fleet,
  kind: SheetKind,
  id: string,
  now: string,
) => FindingMark | null = markOn;

export function addressView(fleet: Fleet, row: Row<'address'>): AddressView {
  const subnet = fleet.get('subnet', row.subnetId);
  return {
    ...asRead(row),
    ip: row.ip,
    assigned: row.assigned,
    use: row.use,
    purpose: row.purpose,
    network: subnet ? namedById(fleet, 'network', subnet.networkId) : null,
    prefixLength: row.prefixLength ?? (subnet ? prefixOf(subnet.prefix).length : null),
    gateway: subnet?.gateway ?? null,
  };
}

export const byIp = (a: { ip: string }, b: { ip: string }): number => {
  const [one, two] = [addressOf(a.ip), addressOf(b.ip)];
  return one.family - two.family || (one.value < two.value ? -1 : one.value > two.value ? 1 : 0);
};

export interface Ordering {
  sort?: string;
  order?: 'up' | 'down';
  from?: number;
  take?: number;
}

export function windowOf<T>(
  fleet: Fleet,
  sorted: readonly { id: string }[],
  { from = 0, take = 100 }: Ordering,
  view: (id: string) => T,
): ListWindow<T> {
  return {
    rows: sorted.slice(from, from + take).map(({ id }) => view(id)),
    total: sorted.length,
    from,
    revision: fleet.revision,
  };
}
