/**
 * Zone files from the record: forward zones (RFC 1035, section 5; RFC 3596 for AAAA), reverse zones and the aliases that
 * delegate a part of a /24 (RFC 2317). Names that cannot stand in a zone are left out and listed in a comment.
 */
import {
  addressOf,
  contains,
  prefixOf,
  reverseName,
  reverseZones,
  type ReverseZone,
} from '../address/index.js';
import type { Fleet } from '../record/index.js';
import { hostNameComplaint, machineNames, trimDomain } from './machine-names.js';

export interface ZoneHead {
  /** Serial number, 32 bits (RFC 1982). */
  serial: number;
  /** Name of the primary server, full. */
  primary: string;
  /** Mailbox as a name: hostmaster.example. for hostmaster@example. */
  mailbox: string;
  /** Servers of the zone, full names. */
  servers: readonly string[];
  /** Seconds. */
  ttl: number;
}

export interface ZoneFile {
  name: string;
  fileName: string;
  text: string;
}

const point = (name: string): string => `${name.replace(/\.$/, '')}.`;

function head(zone: string, { serial, primary, mailbox, servers, ttl }: ZoneHead): string[] {
  return [
    `$ORIGIN ${point(zone)}`,
    `$TTL ${ttl}`,
    `@ IN SOA ${point(primary)} ${point(mailbox)} ( ${serial} 7200 900 1209600 600 )`,
    ...servers.map((server) => `@ IN NS ${point(server)}`),
  ];
}

/** The forward zone of a domain: an address record for every machine below it, and aliases read elsewhere that lead to one. */
export function forwardZone(fleet: Fleet, domain: string, zone: ZoneHead): ZoneFile {
  const origin = trimDomain(domain);
  const lines = head(origin, zone);
  const left: string[] = [];
  const known = new Set<string>();
  for (const machine of machineNames(fleet)) {
    if (!machine.full.endsWith(`.${origin}`)) continue;
    const complaint = hostNameComplaint(machine.full);
    if (complaint) left.push(`; left out ${comment(machine.full)}: ${comment(complaint)}`);
    else {
      known.add(machine.full);
      const owner = machine.full.slice(0, -origin.length - 1);
      for (const { ip } of machine.addresses)
        lines.push(`${owner} IN ${ip.includes(':') ? 'AAAA' : 'A'} ${ip}`);
    }
  }
  for (const record of fleet.all('nameRecord')) {
    if (
      record.type !== 'CNAME' ||
      !record.owner.endsWith(`.${origin}`) ||
      known.has(record.owner) ||
      !known.has(record.data) ||
      hostNameComplaint(record.owner)
    )
      continue;
    known.add(record.owner);
    lines.push(`${record.owner.slice(0, -origin.length - 1)} IN CNAME ${point(record.data)}`);
  }
  return { name: origin, fileName: `${origin}.zone`, text: [...lines, ...left, ''].join('\n') };
}

const comment = (text: string): string => text.replace(/[\r\n]/g, ' ');

/** The reverse zones of a block, one file each; for a part of a /24 also the lines its parent must hold. */
export function reverseZoneFiles(fleet: Fleet, prefixText: string, zone: ZoneHead): ZoneFile[] {
  const block = prefixOf(prefixText);
  const pointers = machineNames(fleet).flatMap((machine) =>
    machine.domain && !hostNameComplaint(machine.full)
      ? machine.addresses.flatMap(({ ip }) =>
          contains(block, addressOf(ip))
            ? [{ name: reverseName(addressOf(ip)), target: machine.full }]
            : [],
        )
      : [],
  );
  // One pointer for an address: two names for one address are a finding, and the first stands.
  const once = [...new Map(pointers.reverse().map((found) => [found.name, found])).values()].sort(
    (a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }),
  );
  return reverseZones(block).flatMap((found) => zoneFiles(found, once, zone));
}

function zoneFiles(
  { name, parent }: ReverseZone,
  pointers: readonly { name: string; target: string }[],
  zone: ZoneHead,
): ZoneFile[] {
  const fileName = (text: string) => `${text.replace(/\.$/, '').replaceAll('/', '-')}.zone`;
  if (!parent) {
    const mine = pointers.filter((found) => found.name.endsWith(`.${name}`));
    const lines = mine.map(
      (found) => `${found.name.slice(0, -name.length - 1)} IN PTR ${point(found.target)}`,
    );
    return [
      { name, fileName: fileName(name), text: [...head(name, zone), ...lines, ''].join('\n') },
    ];
  }
  const last = (full: string) => full.slice(0, full.indexOf('.'));
  const child = [
    ...head(name, zone),
    ...pointers.map((found) => `${last(found.name)} IN PTR ${point(found.target)}`),
    '',
  ];
  const above = [
    `; lines for the zone ${parent.name}`,
    ...zone.servers.map((server) => `${parent.label} IN NS ${point(server)}`),
    ...pointers.map((found) => `${last(found.name)} IN CNAME ${last(found.name)}.${name}`),
    '',
  ];
  return [
    { name, fileName: fileName(name), text: child.join('\n') },
    { name: parent.name, fileName: `lines-for-${fileName(parent.name)}`, text: above.join('\n') },
  ];
}

/** Whether serial b is newer than a, in 32 bits (RFC 1982, section 3.2). */
export function serialNewer(a: number, b: number): boolean {
  const ahead = (((b - a) % 2 ** 32) + 2 ** 32) % 2 ** 32;
  return ahead > 0 && ahead < 2 ** 31;
}

/**
 * The serial after an old one by the habit YYYYMMDDnn (RFC 1912, section 2.2): today's first where that is larger, else one more.
 *
 * @param today YYYY-MM-DD
 * @returns null where counting on would wrap: that takes a person
 */
export function nextSerial(old: number, today: string): number | null {
  const first = Number(`${today.replaceAll('-', '')}00`);
  const next = Math.max(old + 1, first);
  return next < 2 ** 32 && serialNewer(old, next) ? next : null;
}

/** A hosts file, hosts(5): address, full name, short name; machines without a domain by their name alone. */
export function hostsFile(fleet: Fleet): string {
  const lines = machineNames(fleet)
    .filter((machine) => !hostNameComplaint(machine.full))
    .flatMap((machine) =>
      machine.addresses.map(({ ip }) =>
        [ip, machine.full, ...(machine.domain ? [machine.name] : [])].join(' '),
      ),
    );
  return ['127.0.0.1 localhost', '::1 localhost', ...lines, ''].join('\n');
}
