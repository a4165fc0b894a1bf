/** Names out of the record as zones, hosts file and reservations; names and pasted lists beside it. */
import type { ZoneQuery } from '@insel/contract';
import {
  compareNames,
  forwardZone,
  hostsFile,
  nextSerial,
  parsePrefix,
  prefixOf,
  previewList,
  readList,
  readNames,
  refuse,
  reservationsJson,
  reservationsOf,
  reservationsText,
  reverseZoneFiles,
  zoneDefaults,
  today,
} from '@insel/core';
import { refused } from '../problem-exception.js';
import { found, type Reads } from './read.js';

const MOST_DIFFERENCES = 200;
const MOST_NAMES = 1000;
const MOST_LINES = 2000;

export const NAME_READS: Reads<
  | 'zoneDefaults'
  | 'zones'
  | 'hostsFile'
  | 'reservations'
  | 'namesCompared'
  | 'nameSources'
  | 'listPreview'
> = {
  zoneDefaults: (fleet) => zoneDefaults(fleet),

  zones(fleet, query, { now }) {
    const serial = serialOf(query, today(fleet, now));
    const servers = query.servers.split(/[\s,]+/).filter(Boolean);
    const mailbox = query.mailbox.replace('@', '.');
    checkNames(query, mailbox, servers);
    const head = { serial, primary: query.primary, mailbox, servers, ttl: query.ttl ?? 3600 };
    return {
      serial,
      files: [
        forwardZone(fleet, query.domain, head),
        ...(query.prefix ? reverseZoneFiles(fleet, query.prefix, head) : []),
      ],
    };
  },

  hostsFile: (fleet) => ({ text: hostsFile(fleet) }),

  reservations(fleet, { id }) {
    if (prefixOf(found(fleet, 'subnet', id).prefix).family === 6)
      throw refused(
        refuse({ code: 'not-ipv4', sentence: 'Reservations are written for IPv4 subnets.' }),
      );
    const { rows, left } = reservationsOf(fleet, id);
    return {
      json: reservationsJson(fleet, id),
      text: reservationsText(fleet, id),
      rows: rows.length,
      left,
    };
  },

  namesCompared: {
    inWorker(fleet, { text, origin }) {
      const read = readNames(text, origin ?? '');
      return {
        ...read,
        names: read.names.slice(0, MOST_NAMES),
        faults: read.faults.slice(0, MOST_DIFFERENCES),
        ...compareNames(fleet, read.names, MOST_DIFFERENCES),
      };
    },
  },

  nameSources(fleet) {
    const counts = new Map<string, number>();
    for (const row of fleet.all('nameRecord'))
      counts.set(row.source, (counts.get(row.source) ?? 0) + 1);
    return [...counts]
      .map(([source, names]) => ({ source, names }))
      .sort((a, b) => a.source.localeCompare(b.source));
  },

  listPreview: {
    inWorker(fleet, { text }) {
      const rows = previewList(fleet, readList(text));
      return {
        rows: rows.slice(0, MOST_LINES),
        faults: rows.reduce((sum, row) => sum + row.unread.length, 0),
      };
    },
  },
};

function serialOf({ oldSerial }: ZoneQuery, today: string): number {
  if (oldSerial === undefined) return Number(`${today.replaceAll('-', '')}00`);
  const serial = nextSerial(oldSerial, today);
  if (serial !== null) return serial;
  throw refused(
    refuse({
      code: 'serial-wraps',
      field: 'oldSerial',
      sentence:
        'Counting this serial on would wrap round at 2^32: secondary servers would keep the old zone.',
      remedy: 'Start it anew as RFC 1982 and RFC 2182 describe, then give the new one.',
    }),
  );
}

/** @throws ProblemException 422 at the first field that is no full name or no block */
function checkNames({ domain, primary, prefix }: ZoneQuery, mailbox: string, servers: string[]) {
  if (servers.length === 0)
    throw refused(
      refuse({
        code: 'bad-name',
        field: 'servers',
        sentence: 'Name at least one server of the zone.',
      }),
    );
  const named: [string, string][] = [
    ['domain', domain],
    ['primary', primary],
    ['mailbox', mailbox],
    ...servers.map((server): [string, string] => ['servers', server]),
  ];
  const bad = named.find(([, text]) => !/^[A-Za-z0-9]([A-Za-z0-9.-]*[A-Za-z0-9])?\.?$/.test(text));
  if (bad)
    throw refused(
      refuse({ code: 'bad-name', field: bad[0], sentence: `"${bad[1]}" is no full name.` }),
    );
  const block = prefix ? parsePrefix(prefix) : undefined;
  if (block && !block.ok)
    throw refused(refuse({ code: 'bad-prefix', field: 'prefix', sentence: block.sentence }));
}
