/**
 * What the record writes, given to programs that read such files in earnest: Debian's zone checker (bind9-utils) and two
 * DHCP servers in their test mode (kea-dhcp4-server, dnsmasq-base). None of them is started as a server.
 */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import {
  forwardZone,
  readNames,
  reservationsJson,
  reservationsText,
  reverseZoneFiles,
  type ZoneHead,
} from '../src/index.js';
import { smallWorld, type World } from '../src/change/testing.js';

const folder = mkdtempSync(join(tmpdir(), 'insel-outside-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const has = (program: string) => !spawnSync(program, ['-v']).error;
const missing = ['named-checkzone', 'kea-dhcp4', 'dnsmasq'].filter((program) => !has(program));
if (missing.length && process.env.CI && process.getuid?.() === 0)
  throw new Error(`As root in CI these must take part: ${missing.join(', ')}`);

const HEAD: ZoneHead = {
  serial: 2026112400,
  primary: 'ns1.lab.example',
  mailbox: 'hostmaster.lab.example',
  servers: ['ns1.lab.example'],
  ttl: 3600,
};

/** A subnet with a name server, guests with and without reservations, IPv6, a name that is none, an alias. */
function place(): World {
  const world = smallWorld();
  const [subnet] = world.fleet.all('subnet');
  world.make({
    type: 'subnet.edit',
    input: { id: subnet!.id, domain: 'lab.example', nameServers: ['192.0.2.2', '192.0.2.3'] },
  });
  world.make({
    type: 'subnet.record',
    input: {
      networkId: world.id('network', 'shore'),
      prefix: '2001:db8:0:1::/64',
      domain: 'lab.example',
    },
  });
  const names: [string, string, string][] = [
    ['ns1', '192.0.2.2', '02:00:00:00:00:02'],
    ['web01', '192.0.2.10', '02:00:00:00:00:01'],
    ['db01', '192.0.2.11', '02:00:00:00:00:03'],
    ['3com', '192.0.2.12', '02:00:00:00:00:04'],
  ];
  for (const [name, ip, mac] of names)
    world.make(world.found(name, 'gannet', 256, ip, 'in service', mac));
  world.make({
    type: 'address.set',
    input: {
      adapterId: world.fleet.referring('adapter', 'guestId', world.id('guest', 'web01'))[0]!.id,
      ip: '2001:db8:0:1::10',
      assigned: false,
    },
  });
  world.make({ type: 'list.take', input: { text: 'bad_host 192.0.2.20' } });
  world.make({
    type: 'names.take',
    input: { source: 'old', text: 'www.lab.example. IN CNAME web01.lab.example.' },
  });
  for (const row of world.fleet.referring('address', 'subnetId', subnet!.id))
    if (row.adapterId && row.ip !== '192.0.2.2')
      world.make({ type: 'address.edit', input: { id: row.id, use: 'reservation' } });
  return world;
}

function check(
  program: string,
  args: (file: string) => string[],
  text: string,
): { status: number | null; said: string } {
  const file = join(
    folder,
    `${Math.abs(text.length * 31 + args('x').join().length)}-${Date.now()}`,
  );
  writeFileSync(file, text);
  const done = spawnSync(program, args(file), { encoding: 'utf8' });
  return { status: done.status, said: `${done.stdout}${done.stderr}` };
}

const zone = (name: string) => (file: string) => ['-k', 'fail', '-i', 'local', name, file];

describe.skipIf(missing.includes('named-checkzone'))('the zone checker takes', () => {
  const world = place();
  it('the forward zone, and reads from it what was meant', () => {
    const { text } = forwardZone(world.fleet, 'lab.example', HEAD);
    expect(check('named-checkzone', zone('lab.example'), text)).toMatchObject({ status: 0 });
    const normal = check('named-checkzone', (file) => ['-D', 'lab.example', file], text).said;
    expect(normal).toMatch(/web01\.lab\.example\.\s+3600 IN A\s+192\.0\.2\.10/);
    expect(normal).toMatch(/web01\.lab\.example\.\s+3600 IN AAAA\s+2001:db8:0:1::10/);
    expect(normal).toMatch(/www\.lab\.example\.\s+3600 IN CNAME\s+web01\.lab\.example\./);
    expect(normal).not.toContain('bad_host');
    // What the checker writes is read back alike.
    const mine = readNames(
      normal
        .split('\n')
        .filter((line) => /\sIN\s/.test(line))
        .join('\n'),
      '',
    ).names.map(({ owner, type, data }) => `${owner} ${type} ${data}`);
    expect(mine.sort()).toEqual(
      readNames(text, '')
        .names.map(({ owner, type, data }) => `${owner} ${type} ${data}`)
        .sort(),
    );
  });
  it.each(['192.0.2.0/24', '192.0.2.0/26', '192.0.2.8/29', '2001:db8:0:1::/64', '192.0.0.0/22'])(
    'the reverse zones of %s',
    (prefix) => {
      const files = reverseZoneFiles(world.fleet, prefix, HEAD).filter(
        (file) => !file.fileName.startsWith('lines-for'),
      );
      expect(files.length).toBeGreaterThan(0);
      for (const file of files)
        expect([file.name, check('named-checkzone', zone(file.name), file.text).status]).toEqual([
          file.name,
          0,
        ]);
    },
  );
  it('the parent of a part of a /24 with the lines made for it', () => {
    const [, above] = reverseZoneFiles(world.fleet, '192.0.2.0/26', HEAD);
    const parent = `$TTL 3600\n@ IN SOA ns1.lab.example. hostmaster.lab.example. ( 1 7200 900 1209600 600 )\n@ IN NS ns1.lab.example.\n${above!.text}`;
    const checked = check('named-checkzone', zone('2.0.192.in-addr.arpa'), parent);
    expect(checked).toMatchObject({ status: 0 });
  });
  it('and refuses a zone that is spoiled, so that its yes means something', () => {
    const { text } = forwardZone(world.fleet, 'lab.example', HEAD);
    expect(
      check('named-checkzone', zone('lab.example'), text.replace('192.0.2.10', '192.0.2.300'))
        .status,
    ).not.toBe(0);
  });
});

describe.skipIf(missing.includes('kea-dhcp4'))('a DHCP server takes the JSON document', () => {
  const world = place();
  const text = reservationsJson(world.fleet, [...world.fleet.all('subnet')][0]!.id);
  /** The interfaces and the lease file are the server's own affair. */
  const complete = (document: string) => {
    const { Dhcp4 } = JSON.parse(document) as { Dhcp4: object };
    return JSON.stringify({
      Dhcp4: {
        'interfaces-config': { interfaces: [] },
        'lease-database': { type: 'memfile', persist: false },
        ...Dhcp4,
      },
    });
  };
  const test = (document: string) => check('kea-dhcp4', (file) => ['-t', file], complete(document));
  it('as it is', () => expect(test(text)).toMatchObject({ status: 0 }));
  it('and refuses it spoiled', () =>
    expect(test(text.replace('192.0.2.10', '198.51.100.10')).status).not.toBe(0));
});

describe.skipIf(missing.includes('dnsmasq'))('another DHCP server takes the lines', () => {
  const world = place();
  const text = reservationsText(world.fleet, [...world.fleet.all('subnet')][0]!.id);
  const test = (lines: string) => check('dnsmasq', (file) => ['--test', '-C', file], lines);
  it('as they are', () => expect(test(text)).toMatchObject({ status: 0 }));
  it('and refuses them spoiled', () =>
    expect(test(text.replace('02:00:00:00:00:01', '02:00:00:00:00:0Z')).status).not.toBe(0));
});
