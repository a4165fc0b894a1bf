/** Everything that refers to a guest: what has to be settled, or can go with it, when it is retired. */
import { counted } from '../quantity/index.js';
import { type Fleet, type Kind } from '../record/index.js';

export interface Referrer {
  /** What it is, in words: "provides staff accounts". */
  sentence: string;
  kind: Kind;
  id: string;
  /** Part of what can be cleared away in the same change; the others have to be settled first, or break. */
  clears: Cleared | null;
  /** The record with a sheet where it is settled. */
  open: {
    kind: 'service' | 'guest' | 'host' | 'pool' | 'migration' | 'network';
    id: string;
  } | null;
}

export const CLEARED = ['addresses', 'media', 'needs', 'rules', 'snapshots'] as const;
export type Cleared = (typeof CLEARED)[number];

export function guestReferrers(fleet: Fleet, guestId: string): Referrer[] {
  const found: Referrer[] = [];
  const add = (
    kind: Kind,
    id: string,
    sentence: string,
    clears: Cleared | null = null,
    open: Referrer['open'] = null,
  ) => found.push({ kind, id, sentence, clears, open });
  const guest = (id: string) => fleet.get('guest', id)?.name ?? 'a guest';
  for (const row of fleet.referring('provider', 'guestId', guestId))
    add(
      'provider',
      row.id,
      `it provides ${fleet.need('service', row.serviceId).name}, which ${counted(fleet.referringCount('dependency', 'serviceId', row.serviceId), 'machine')} need`,
      null,
      { kind: 'service', id: row.serviceId },
    );
  for (const row of fleet.referring('dependency', 'onGuestId', guestId))
    add(
      'dependency',
      row.id,
      `${row.guestId ? guest(row.guestId) : (fleet.get('host', row.hostId)?.name ?? 'a host')} needs it to start`,
      null,
      row.guestId ? { kind: 'guest', id: row.guestId } : { kind: 'host', id: row.hostId! },
    );
  for (const row of fleet.referring('pool', 'serverGuestId', guestId))
    add(
      'pool',
      row.id,
      `it serves pool ${row.name}, with ${counted(fleet.referringCount('volume', 'poolId', row.id), 'volume')} on it`,
      null,
      { kind: 'pool', id: row.id },
    );
  for (const row of fleet.referring('host', 'outerGuestId', guestId))
    add('host', row.id, `${row.name} is a host inside of it`, null, { kind: 'host', id: row.id });
  for (const row of fleet.referring('backup', 'storeGuestId', guestId))
    add('backup', row.id, `it keeps the ${row.way} of ${guest(row.guestId)}`, null, {
      kind: 'guest',
      id: row.guestId,
    });
  for (const row of fleet.referring('clone', 'originId', guestId))
    add('clone', row.id, `${guest(row.guestId)} is a ${row.copy} copy of it`, null, {
      kind: 'guest',
      id: row.guestId,
    });
  for (const row of fleet.referring('migration', 'guestId', guestId))
    if (row.state !== 'accepted' && row.state !== 'rolled back')
      add('migration', row.id, `a migration of it is ${row.state}`, null, {
        kind: 'migration',
        id: row.id,
      });
  for (const row of fleet.referring('backup', 'guestId', guestId))
    add('backup', row.id, `a ${row.way} is made of it`);
  const addresses = fleet
    .referring('adapter', 'guestId', guestId)
    .flatMap((adapter) => fleet.referring('address', 'adapterId', adapter.id));
  for (const row of addresses) {
    add('address', row.id, `it holds ${row.ip}`, 'addresses');
    for (const subnet of subnetsServed(fleet, row.ip))
      add('subnet', subnet.id, `${subnet.as} of ${subnet.prefix} is ${row.ip}`, null, {
        kind: 'network',
        id: subnet.networkId,
      });
    for (const host of fleet.all('host'))
      if (host.state !== 'retired' && host.nameServers.includes(row.ip))
        add('host', host.id, `${host.name} asks it for names`, null, { kind: 'host', id: host.id });
  }
  for (const row of fleet.referring('drive', 'guestId', guestId))
    add('drive', row.id, `${fleet.need('medium', row.mediumId).name} is attached to it`, 'media');
  for (const row of fleet.referring('dependency', 'guestId', guestId))
    add(
      'dependency',
      row.id,
      `it needs ${fleet.get('service', row.serviceId)?.name ?? guest(row.onGuestId ?? '')} to start`,
      'needs',
    );
  for (const row of fleet.referring('placementMember', 'guestId', guestId))
    add(
      'placementMember',
      row.id,
      `the rule ${fleet.need('placementRule', row.ruleId).name} holds it`,
      'rules',
    );
  for (const row of fleet.referring('snapshot', 'guestId', guestId))
    add('snapshot', row.id, `its snapshot ${row.name} still takes room`, 'snapshots');
  for (const row of fleet.referring('volume', 'guestId', guestId)) {
    const base = fleet.referringCount('volume', 'baseId', row.id);
    add(
      'volume',
      row.id,
      base
        ? `${row.label} is the base of ${counted(base, 'volume')}`
        : `${row.label} still takes its room: free only when its deletion is recorded`,
    );
  }
  return found;
}

function subnetsServed(
  fleet: Fleet,
  ip: string,
): { id: string; networkId: string; prefix: string; as: string }[] {
  return [...fleet.all('subnet')].flatMap(({ id, networkId, prefix, gateway, nameServers }) => [
    ...(gateway === ip ? [{ id, networkId, prefix, as: 'the gateway' }] : []),
    ...(nameServers.includes(ip) ? [{ id, networkId, prefix, as: 'a name server' }] : []),
  ]);
}
