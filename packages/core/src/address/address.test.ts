import fc from 'fast-check';
import { Address4, Address6 } from 'ip-address';
import ipaddr from 'ipaddr.js';
import { Netmask } from 'netmask';
import { describe, expect, it, test } from 'vitest';
import {
  broadcast,
  canonical,
  containing,
  formatAddress,
  formatPrefix,
  generateMac,
  last,
  macComplaint,
  netmask,
  overlap,
  parseAddress,
  parseMac,
  parseName,
  parsePrefix,
  prefixOf,
  smallestLength,
  total,
  usable,
} from './index.js';

const say = (family: 4 | 6, value: bigint) => formatAddress({ family, value });

describe('IPv4 blocks', () => {
  // Hand-worked from RFC 4632 section 3.1 and RFC 1122 section 3.2.1.3; /31: RFC 3021.
  test.each([
    ['192.0.2.128/25', '255.255.255.128', '192.0.2.255', '192.0.2.129', '192.0.2.254', 128n, 126n],
    ['192.0.2.64/26', '255.255.255.192', '192.0.2.127', '192.0.2.65', '192.0.2.126', 64n, 62n],
    ['203.0.113.4/30', '255.255.255.252', '203.0.113.7', '203.0.113.5', '203.0.113.6', 4n, 2n],
    ['192.0.2.0/31', '255.255.255.254', undefined, '192.0.2.0', '192.0.2.1', 2n, 2n],
    ['192.0.2.5/32', '255.255.255.255', undefined, '192.0.2.5', '192.0.2.5', 1n, 1n],
    ['10.20.16.0/20', '255.255.240.0', '10.20.31.255', '10.20.16.1', '10.20.31.254', 4096n, 4094n],
    [
      '172.16.0.0/12',
      '255.240.0.0',
      '172.31.255.255',
      '172.16.0.1',
      '172.31.255.254',
      1_048_576n,
      1_048_574n,
    ],
    [
      '0.0.0.0/0',
      '0.0.0.0',
      '255.255.255.255',
      '0.0.0.1',
      '255.255.255.254',
      4_294_967_296n,
      4_294_967_294n,
    ],
  ])('%s', (text, mask, top, first, end, all, count) => {
    const prefix = prefixOf(text);
    const room = usable(prefix);
    const highest = broadcast(prefix);
    expect([
      netmask(prefix),
      highest === undefined ? undefined : say(4, highest),
      say(4, room.first),
      say(4, room.last),
      total(prefix),
      room.count,
    ]).toEqual([mask, top, first, end, all, count]);
  });

  test.each([
    [1, 30],
    [2, 30],
    [3, 29],
    [6, 29],
    [7, 28],
    [14, 28],
    [15, 27],
    [62, 26],
    [63, 25],
    [126, 25],
    [127, 24],
    [254, 24],
    [255, 23],
    [1022, 22],
    [1023, 21],
    [65534, 16],
  ])('%d machines need a /%d', (n, length) => expect(smallestLength(n)).toBe(length));

  it('agrees with two general libraries on random blocks', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 2 ** 32 - 1 }),
        fc.integer({ min: 0, max: 32 }),
        (value, length) => {
          const prefix = containing({ family: 4, value: BigInt(value) }, length);
          const text = `${say(4, BigInt(value))}/${length}`;
          const theirs = new Address4(text);
          expect(say(4, prefix.first)).toBe(theirs.startAddress().correctForm());
          expect(say(4, last(prefix))).toBe(theirs.endAddress().correctForm());
          const block = new Netmask(text);
          expect(netmask(prefix)).toBe(block.mask);
          expect(total(prefix)).toBe(BigInt(block.size));
        },
      ),
    );
  });
});

describe('strict reading of addresses', () => {
  // RFC 6943 section 3.1.1: forms that tools read differently.
  test.each([
    '010.0.0.1',
    '10.1',
    '0x0a000001',
    '167772161',
    '1.2.3',
    '10.20.4.300',
    '',
    '1.2.3.4.5',
    '1..2.3',
    'fe80::1%eth0',
    '1::2::3',
    '12345::',
    '::1/64',
    '1:2:3:4:5:6:7',
    '1:2:3:4:5:6:7:8:9',
  ])('%s is refused', (text) => {
    const read = parseAddress(text);
    expect(read.ok).toBe(false);
  });
  it('says what is wrong', () =>
    expect(parseAddress('10.20.4.300')).toEqual({
      ok: false,
      sentence: '10.20.4.300: each part is 0 to 255.',
    }));
  it('suggests the block where host bits are set', () =>
    expect(parsePrefix('192.0.2.5/24')).toMatchObject({ ok: false, suggestion: '192.0.2.0/24' }));
  it('refuses lengths beyond the family', () =>
    expect([
      parsePrefix('192.0.2.0/33').ok,
      parsePrefix('2001:db8::/129').ok,
      parsePrefix('192.0.2.0/024').ok,
    ]).toEqual([false, false, false]));
});

describe('IPv6 text', () => {
  // RFC 5952, sections 1, 2 and 4 (from memory of the text, recomputed).
  test.each([
    ['2001:db8:0:0:1:0:0:1', '2001:db8::1:0:0:1'],
    ['2001:0db8:0:0:1:0:0:1', '2001:db8::1:0:0:1'],
    ['2001:DB8:0:0:1::1', '2001:db8::1:0:0:1'],
    ['2001:0db8::0001', '2001:db8::1'],
    ['2001:db8:0:0:0:0:2:1', '2001:db8::2:1'],
    ['2001:db8::1:1:1:1:1', '2001:db8:0:1:1:1:1:1'],
    ['2001:0:0:1:0:0:0:1', '2001:0:0:1::1'],
    ['0:0:0:0:0:0:0:0', '::'],
    ['0:0:0:0:0:0:0:1', '::1'],
    ['1:0:0:2:0:0:3:4', '1::2:0:0:3:4'],
    ['::ffff:c000:0201', '::ffff:192.0.2.1'],
    ['64:ff9b::192.0.2.33', '64:ff9b::c000:221'],
  ])('%s is %s', (text, wanted) => expect(canonical(text)).toEqual({ ok: true, value: wanted }));

  it('agrees with two general libraries on random addresses', () => {
    fc.assert(
      fc.property(
        fc.array(fc.oneof(fc.constant(0), fc.integer({ min: 0, max: 0xffff })), {
          minLength: 8,
          maxLength: 8,
        }),
        (fields) => {
          const text = fields.map((field) => field.toString(16)).join(':');
          const read = canonical(text);
          fc.pre(!text.startsWith('0:0:0:0:0:ffff:'));
          expect(read).toEqual({ ok: true, value: ipaddr.IPv6.parse(text).toRFC5952String() });
          expect(read.ok && read.value).toBe(new Address6(text).correctForm());
        },
      ),
    );
  });

  it('leaves out the subnet-router anycast address', () => {
    // RFC 4291 section 2.6.1; RFC 6164 for /127.
    expect(say(6, usable(prefixOf('2001:db8:0:1::/64')).first)).toBe('2001:db8:0:1::1');
    expect(usable(prefixOf('2001:db8::/127')).count).toBe(2n);
  });
});

it('blocks overlap if and only if one contains the other', () => {
  const clash = (a: string, b: string) => overlap(prefixOf(a), prefixOf(b));
  expect([
    clash('10.0.0.0/23', '10.0.1.0/24'),
    clash('10.0.0.0/24', '10.0.1.0/24'),
    clash('10.0.0.0/8', '10.255.255.255/32'),
  ]).toEqual([true, false, true]);
  expect(formatPrefix(prefixOf('2001:db8::/32'))).toBe('2001:db8::/32');
});

describe('MAC addresses', () => {
  // Notations and bits: IEEE Std 802, clause 8; RFC 9542 section 2.
  test.each(['02-00-5E-10-00-01', '02:00:5e:10:00:01', '0200.5e10.0001', '02005e100001'])(
    '%s reads alike',
    (text) => expect(parseMac(text)).toEqual({ ok: true, value: '02:00:5e:10:00:01' }),
  );
  test.each(['2:0:5e:10:0:1', '02:00:5e:10:00', '02:00:5e:10:00:0g', ''])('%s is refused', (text) =>
    expect(parseMac(text).ok).toBe(false),
  );
  test.each([
    ['02:00:00:00:00:01', true],
    ['00:00:5e:00:53:01', true],
    ['01:00:5e:00:00:fb', false],
    ['33:33:00:00:00:01', false],
    ['ff:ff:ff:ff:ff:ff', false],
    ['00:00:00:00:00:00', false],
    ['00:00:5e:00:01:0a', false],
  ])('%s on a guest: %s', (mac, fine) => expect(macComplaint(mac) === undefined).toBe(fine));
  it('generates local unicast addresses and draws again where one is taken', () => {
    const bytes = [0, 0, 0, 0, 1, 0, 0, 0, 0, 2];
    expect(
      generateMac(
        (mac) => mac === '02:00:00:00:00:01',
        () => bytes.shift()!,
      ),
    ).toBe('02:00:00:00:00:02');
    expect(() =>
      generateMac(
        () => true,
        () => 0,
      ),
    ).toThrow();
  });
});

describe('names', () => {
  // RFC 1123, section 2.1.
  test.each(['tide-1', '3com', 'a'])('%s is a name', (name) =>
    expect(parseName(name).ok).toBe(true),
  );
  test.each(['-a', 'a-', 'a_b', 'a b', '', 'x'.repeat(64)])('"%s" is none', (name) =>
    expect(parseName(name).ok).toBe(false),
  );
});
