/** What is found by part of a name, an address or a MAC address. */
import type { SearchHit } from '@insel/contract';
import {
  addressesLike,
  canonical,
  holderOf,
  parseMac,
  subnetOf,
  type Fleet,
  type NamedKind,
  type Row,
} from '@insel/core';
import { firstAddress } from './guests.js';

const MOST_OF_A_KIND = 8;

export function searchHits(fleet: Fleet, wanted: string): SearchHit[] {
  const text = wanted.trim().toLowerCase();
  if (text === '') return [];
  const sure = [...addressHits(fleet, text), ...macHits(fleet, text), ...nameHits(fleet, text)];
  return [...sure, ...noteHits(fleet, text, new Set(sure.map(({ id }) => id)))];
}

function nameHits(fleet: Fleet, text: string): SearchHit[] {
  const of = <
    K extends SearchHit['kind'] &
      (
        | 'host'
        | 'guest'
        | 'network'
        | 'device'
        | 'physicalSwitch'
        | 'pool'
        | 'medium'
        | 'profile'
        | 'guestGroup'
        | 'template'
        | 'entitlement'
      ),
  >(
    kind: K,
    path: string,
    detail: (id: string) => string,
  ): SearchHit[] => {
    const found: { id: string; name: string; at: number }[] = [];
    for (const row of fleet.all(kind)) {
      const at = row.name.toLowerCase().indexOf(text);
      if (at >= 0) found.push({ id: row.id, name: row.name, at });
    }
    found.sort((a, b) => a.at - b.at || a.name.localeCompare(b.name));
    return found.slice(0, MOST_OF_A_KIND).map(({ id, name }) => ({
      kind,
      id,
      label: name,
      detail: detail(id),
      path: path.includes('=') ? `/${path}${id}` : `/${path}/${id}`,
    }));
  };
  return [
    ...of('host', 'hosts', (id) => `host, ${fleet.need('host', id).state}`),
    ...of(
      'guest',
      'guests',
      (id) =>
        `guest on ${fleet.need('host', fleet.need('guest', id).hostId).name} ${firstAddress(fleet, id)}`,
    ),
    ...of(
      'device',
      'networks/devices?open=',
      (id) => `${fleet.need('device', id).kind}, ${fleet.need('device', id).state}`,
    ),
    ...of('physicalSwitch', 'networks/switches?open=', () => 'switch'),
    ...of('pool', 'guests/pools?open=', () => 'pool'),
    ...of('medium', 'guests/media?open=', () => 'install medium'),
    ...of('profile', 'guests/roles?role=', () => 'role of guests'),
    ...of('template', 'clones/templates?open=', () => 'template'),
    ...of('entitlement', 'clones/licences?open=', () => 'licence'),
    ...of('guestGroup', 'guests/roles?open=', () => 'group of guests'),
    ...of(
      'network',
      'networks',
      (id) =>
        `network ${fleet
          .referring('subnet', 'networkId', id)
          .map((subnet) => subnet.prefix)
          .join(', ')}`,
    ),
  ];
}

/** Shorter words stand in every note. */
const SHORTEST_IN_NOTES = 3;
const AROUND = 24;

/** Records whose notes, purpose or owner hold the words, with what stands around them. */
function noteHits(fleet: Fleet, text: string, but: ReadonlySet<string>): SearchHit[] {
  if (text.length < SHORTEST_IN_NOTES) return [];
  const hits: SearchHit[] = [];
  for (const kind of ['host', 'guest', 'device', 'network'] as const)
    for (const row of fleet.all(kind)) {
      if (hits.length >= MOST_OF_A_KIND) return hits;
      if (but.has(row.id)) continue;
      const {
        notes,
        owner,
        purpose = '',
      } = row as { notes: string; owner: string; purpose?: string };
      const found = [notes, purpose, owner].find((one) => one.toLowerCase().includes(text));
      if (found === undefined) continue;
      const at = Math.max(0, found.toLowerCase().indexOf(text) - AROUND);
      const part = found.slice(at, at + text.length + 2 * AROUND).replace(/\s+/g, ' ');
      hits.push({
        kind,
        id: row.id,
        label: row.name,
        detail: `${at > 0 ? '… ' : ''}${part}`,
        path: kind === 'network' ? `/networks/${row.id}` : SHEET[kind](row.id),
      });
    }
  return hits;
}

function addressHits(fleet: Fleet, text: string): SearchHit[] {
  const read = canonical(text);
  if (!read.ok)
    return /^[0-9a-f.:]{3,}$/.test(text) && /[.:]/.test(text)
      ? addressesLike(fleet, text, MOST_OF_A_KIND).map((row) => heldHit(fleet, row))
      : [];
  return [...fleet.all('routingDomain')].flatMap((domain) => {
    const held = fleet.withIp(domain.id, read.value).map((row) => heldHit(fleet, row));
    const subnet = subnetOf(fleet, domain.id, read.value);
    if (held.length || !subnet) return held;
    const network = fleet.need('network', subnet.networkId);
    return [
      {
        kind: 'address',
        id: subnet.id,
        label: read.value,
        detail: `not held; in ${network.name} ${subnet.prefix}`,
        path: `/networks/${network.id}`,
      },
    ];
  });
}

const SHEET: Record<NamedKind, (id: string) => string> = {
  host: (id) => `/hosts/${id}`,
  guest: (id) => `/guests/${id}`,
  device: (id) => `/networks/devices?open=${id}`,
};

function heldHit(fleet: Fleet, row: Row<'address'>): SearchHit {
  const holder = holderOf(fleet, row);
  return {
    kind: 'address',
    id: row.id,
    label: row.ip,
    detail: `held by ${holder.name}`,
    path: SHEET[holder.kind](holder.id),
  };
}

function macHits(fleet: Fleet, text: string): SearchHit[] {
  const read = parseMac(text);
  if (!read.ok) return [];
  return fleet.macHolders(read.value).map(({ kind, id }): SearchHit => {
    const [owner, word]: [NamedKind, string] =
      kind === 'adapter'
        ? ['guest', 'adapter']
        : kind === 'port'
          ? ['host', 'port']
          : ['device', 'port'];
    const ownerId =
      kind === 'adapter'
        ? fleet.need('adapter', id).guestId
        : kind === 'port'
          ? fleet.need('port', id).hostId
          : fleet.need('devicePort', id).deviceId;
    return {
      kind: 'adapter',
      id,
      label: read.value,
      detail: `${word} of ${fleet.need(owner, ownerId).name}`,
      path: SHEET[owner](ownerId),
    };
  });
}
