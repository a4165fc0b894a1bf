import { describe, expect, it, test } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import {
  compareNames,
  forwardZone,
  hostNameComplaint,
  hostsFile,
  machineNames,
  nextSerial,
  readHosts,
  readNames,
  readZone,
  reservationsJson,
  reservationsOf,
  reservationsText,
  reverseZoneFiles,
  serialNewer,
  zoneDefaults,
  type ZoneHead,
} from './index.js';

const HEAD: ZoneHead = {
  serial: 2026010101,
  primary: 'ns1.lab.example',
  mailbox: 'hostmaster.lab.example',
  servers: ['ns1.lab.example'],
  ttl: 3600,
};

function named(): World {
  const world = smallWorld();
  const [subnet] = world.fleet.all('subnet');
  world.make({ type: 'subnet.edit', input: { id: subnet!.id, domain: 'lab.example' } });
  world.make(world.found('web', 'gannet', 512, '192.0.2.10', 'in service', '02:00:00:00:00:0a'));
  world.make(world.found('Mail', 'gannet', 512, '192.0.2.11'));
  return world;
}

describe('names of machines', () => {
  it('take the domain of their subnet unless they say their own', () => {
    const world = named();
    world.make({
      type: 'guest.edit',
      input: { id: world.id('guest', 'web'), domain: 'www.example.' },
    });
    expect(machineNames(world.fleet).map((machine) => machine.full)).toEqual([
      'gate.lab.example',
      'mail.lab.example',
      'web.www.example',
    ]);
  });
  // RFC 1123, section 2.1; RFC 1035, section 2.3.4.
  test.each([
    'bad_host.example',
    '-a.example',
    `${'x'.repeat(64)}.example`,
    'a..example',
    `${'abcdefg.'.repeat(32)}example`,
  ])('%s cannot stand in a zone', (name) => expect(hostNameComplaint(name)).toMatch(/[.]$/));
  it('a label may begin with a digit', () =>
    expect(hostNameComplaint('3com.example')).toBeUndefined());
});

describe('what the head of a zone says', () => {
  it('is the domain most subnets name, their name servers by name, and hostmaster there (RFC 2142, section 7)', () => {
    const world = named();
    const [subnet] = world.fleet.all('subnet');
    expect(zoneDefaults(world.fleet)).toEqual({
      domain: 'lab.example',
      servers: [],
      mailbox: 'hostmaster.lab.example',
    });
    world.make({
      type: 'subnet.edit',
      input: { id: subnet!.id, nameServers: ['192.0.2.11', '203.0.113.5'] },
    });
    expect(zoneDefaults(world.fleet).servers).toEqual(['mail.lab.example']);
  });
  it('is empty where nothing is recorded', () =>
    expect(zoneDefaults(smallWorld().fleet)).toEqual({ domain: '', servers: [], mailbox: '' }));
});

describe('a file of names compared', () => {
  const compared = (text: string) =>
    compareNames(named().fleet, readZone(text, 'lab.example').names, 10);
  it('agrees with the zone that the record makes', () => {
    const { text } = forwardZone(named().fleet, 'lab.example', HEAD);
    expect(compared(text)).toEqual({ agree: 3, differ: [] });
  });
  it.each([
    ['web IN A 192.0.2.99', 'web.lab.example is 192.0.2.10 in the record, not 192.0.2.99.'],
    ['old IN A 192.0.2.10', '192.0.2.10 is web.lab.example in the record, not old.lab.example.'],
    ['gone IN A 192.0.2.77', 'gone.lab.example (192.0.2.77) is not in the record.'],
    [
      '10.2.0.192.in-addr.arpa. IN PTR mail.lab.example.',
      'mail.lab.example is 192.0.2.11 in the record, not 192.0.2.10.',
    ],
    [
      'shop IN CNAME nobody',
      'shop.lab.example is another name of nobody.lab.example, which the record does not know.',
    ],
  ])('%s', (line, sentence) => expect(compared(line).differ).toEqual([{ line: 1, sentence }]));
  it('tells at most as many differences as asked', () =>
    expect(
      compareNames(
        named().fleet,
        readZone('a IN A 192.0.2.50\nb IN A 192.0.2.51', 'lab.example').names,
        1,
      ).differ,
    ).toHaveLength(1));
});

describe('zones', () => {
  it('say every machine below the domain, and come back as they were written', () => {
    const { text } = forwardZone(named().fleet, 'lab.example', HEAD);
    const read = readZone(text, '');
    expect(read.faults).toEqual([]);
    expect(read.passedOver).toEqual({ SOA: 1, NS: 1 });
    expect(read.names.map(({ owner, type, data }) => `${owner} ${type} ${data}`)).toEqual([
      'gate.lab.example A 192.0.2.1',
      'mail.lab.example A 192.0.2.11',
      'web.lab.example A 192.0.2.10',
    ]);
  });
  it('leave out what cannot stand there, and say so', () => {
    const world = named();
    world.make({ type: 'list.take', input: { text: 'bad_host 192.0.2.20' } });
    const { text } = forwardZone(world.fleet, 'lab.example', HEAD);
    expect(text).toContain('; left out bad_host.lab.example');
    expect(text).not.toMatch(/^bad_host/m);
  });
  it('carry aliases that were read elsewhere and lead to a machine', () => {
    const world = named();
    world.make({
      type: 'names.take',
      input: {
        source: 'old',
        origin: 'lab.example',
        text: 'www IN CNAME web\ngone IN CNAME nobody',
      },
    });
    const { text } = forwardZone(world.fleet, 'lab.example', HEAD);
    expect(text).toContain('www IN CNAME web.lab.example.');
    expect(text).not.toContain('gone');
  });
  // RFC 2317, section 4.
  it('reverse: a part of a /24 with the lines for its parent', () => {
    const files = reverseZoneFiles(named().fleet, '192.0.2.0/28', HEAD);
    expect(files.map((file) => file.name)).toEqual([
      '0/28.2.0.192.in-addr.arpa.',
      '2.0.192.in-addr.arpa.',
    ]);
    expect(files[0]!.text).toContain('10 IN PTR web.lab.example.');
    expect(files[1]!.text).toContain('10 IN CNAME 10.0/28.2.0.192.in-addr.arpa.');
    expect(files[1]!.text).toContain('0/28 IN NS ns1.lab.example.');
  });
  it('reverse: one pointer for an address', () => {
    const world = named();
    world.make(world.found('other', 'tern', 512, '192.0.2.10'));
    expect(
      reverseZoneFiles(world.fleet, '192.0.2.0/24', HEAD)[0]!.text.match(/^10 IN PTR/gm),
    ).toHaveLength(1);
  });
});

describe('serials', () => {
  // RFC 1982, section 3.2; habit YYYYMMDDnn: RFC 1912, section 2.2.
  test.each([
    [2026010101, 2026010102, true],
    [2025123105, 2026010100, true],
    [4294967295, 0, true],
    [0, 2147483647, true],
    [0, 2147483648, false],
    [1, 2147483649, false],
    [2026010100, 2025123199, false],
    [5, 5, false],
  ])('%d, then %d: newer %s', (a, b, newer) => expect(serialNewer(a, b)).toBe(newer));
  test.each([
    [2025123105, 2026010100],
    [2026010101, 2026010102],
    [2026010199, 2026010200],
    [4294967295, null],
  ])('after %d on 2026-01-01 comes %d', (old, next) =>
    expect(nextSerial(old, '2026-01-01')).toBe(next),
  );
});

describe('reading a zone', () => {
  // Syntax: RFC 1035, section 5.1.
  const zone = `$ORIGIN lab.example.
$TTL 3600
@ IN SOA ns1 hostmaster ( 2026010101 ; serial
   7200 900 1209600 600 )
  IN NS ns1
ns1 IN A 192.0.2.2
host01 3600 IN A 192.0.2.10
       IN AAAA 2001:db8::10
WWW IN CNAME host01
10.2.0.192.in-addr.arpa. IN PTR host01
txt IN TXT "a ; b" "c (d"
$ORIGIN sub.lab.example.
deep IN A 192.0.2.30`;
  it('joins lines, keeps the owner, follows origins', () => {
    const { names, faults, passedOver } = readZone(zone, '');
    expect(faults).toEqual([]);
    expect(passedOver).toEqual({ SOA: 1, NS: 1, TXT: 1 });
    expect(names.map(({ owner, type, data }) => `${owner} ${type} ${data}`)).toEqual([
      'ns1.lab.example A 192.0.2.2',
      'host01.lab.example A 192.0.2.10',
      'host01.lab.example AAAA 2001:db8::10',
      'www.lab.example CNAME host01.lab.example',
      '10.2.0.192.in-addr.arpa PTR host01.lab.example',
      'deep.sub.lab.example A 192.0.2.30',
    ]);
  });
  it.each([
    ['a IN A 192.0.2.300', /each part is 0 to 255/],
    ['$INCLUDE other', /not followed/],
    ['a IN A', /says nothing/],
    ['a IN AAAA 192.0.2.1', /no address for AAAA/],
    ['a IN SOA ( 1 2', /never closed/],
  ])('%s gets a sentence with its line', (text, sentence) => {
    const { faults } = readZone(`$ORIGIN lab.example.\n${text}`, '');
    expect(faults).toHaveLength(1);
    expect(faults[0]).toMatchObject({
      line: 2,
      sentence: expect.stringMatching(sentence) as string,
    });
  });
  it('a text of millions of characters is refused before it is read', () =>
    expect(readNames('x'.repeat(2_000_001), '').faults[0]!.sentence).toContain('at most'));
});

describe('hosts files', () => {
  // hosts(5): address, canonical name, aliases.
  it('are read with aliases, and faults by line', () => {
    const { names, faults } = readHosts(
      '127.0.0.1 localhost\n192.0.2.10 host01.lab.example host01 www # rack 3\n192.0.2.11\n192.0.2.300 x\n2001:db8::10 host01.lab.example',
    );
    expect(names.map(({ owner, type, data }) => `${owner} ${type} ${data}`)).toEqual([
      'host01.lab.example A 192.0.2.10',
      'www CNAME host01.lab.example',
      'host01.lab.example AAAA 2001:db8::10',
    ]);
    expect(faults.map(({ line }) => line)).toEqual([3, 4]);
  });
  it('are written and come back', () => {
    const text = hostsFile(named().fleet);
    expect(readNames(text, '').names.map(({ owner, data }) => `${owner} ${data}`)).toEqual([
      'gate.lab.example 192.0.2.1',
      'mail.lab.example 192.0.2.11',
      'web.lab.example 192.0.2.10',
    ]);
    expect(text).toContain('192.0.2.10 web.lab.example web');
  });
});

describe('reservations', () => {
  it('are the addresses marked so, with the MAC of their holder; who lacks one is named', () => {
    const world = named();
    const [subnet] = world.fleet.all('subnet');
    for (const row of world.fleet.referring('address', 'subnetId', subnet!.id))
      if (row.adapterId)
        world.make({ type: 'address.edit', input: { id: row.id, use: 'reservation' } });
    expect(reservationsOf(world.fleet, subnet!.id)).toEqual({
      rows: [{ mac: '02:00:00:00:00:0a', ip: '192.0.2.10', name: 'web' }],
      left: [{ name: 'mail', why: '192.0.2.11 is reserved for it, but its MAC is not recorded' }],
    });
    const document = JSON.parse(reservationsJson(world.fleet, subnet!.id)) as {
      Dhcp4: { subnet4: { subnet: string; pools: object[]; reservations: object[] }[] };
    };
    expect(document.Dhcp4.subnet4[0]).toMatchObject({
      subnet: '192.0.2.0/24',
      pools: [{ pool: '192.0.2.100 - 192.0.2.199' }],
      reservations: [
        { 'hw-address': '02:00:00:00:00:0a', 'ip-address': '192.0.2.10', hostname: 'web' },
      ],
    });
    expect(reservationsText(world.fleet, subnet!.id)).toContain(
      'dhcp-host=02:00:00:00:00:0a,192.0.2.10,web\n',
    );
  });
});

it('names of a file replace those of the same file, and are forgotten with it', () => {
  const world = named();
  const take = (names: string[]) =>
    world.make({
      type: 'names.take',
      input: {
        source: 'zone',
        text: names.map((owner) => `${owner}. IN A 192.0.2.10`).join('\n'),
      },
    });
  take(['a.lab.example', 'b.lab.example']);
  take(['b.lab.example', 'c.lab.example']);
  expect([...world.fleet.all('nameRecord')].map((row) => row.owner).sort()).toEqual([
    'b.lab.example',
    'c.lab.example',
  ]);
  world.make({ type: 'names.forget', input: { source: 'zone' } });
  expect(world.fleet.count('nameRecord')).toBe(0);
});
