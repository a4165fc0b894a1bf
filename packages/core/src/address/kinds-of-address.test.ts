import { describe, expect, it, test } from 'vitest';
import {
  addressOf,
  autoconfigured,
  formatAddress,
  linkLocal,
  macNotations,
  macOrigin,
  parseMacBlock,
  generateMac,
  prefixOf,
  repetitionChance,
  routedOutside,
  specialUse,
  uniqueLocalPrefix,
} from './index.js';

describe('special-purpose addresses', () => {
  // Boundaries from the sources named in the table: RFC 1918, 6598, 2544, 5771, 4291, 4193.
  test.each([
    ['172.15.255.255', undefined],
    ['172.16.0.0', 'private'],
    ['172.31.255.255', 'private'],
    ['172.32.0.0', undefined],
    ['100.63.255.255', undefined],
    ['100.64.0.0', 'shared'],
    ['100.127.255.255', 'shared'],
    ['100.128.0.0', undefined],
    ['198.17.255.255', undefined],
    ['198.18.0.0', 'benchmarking'],
    ['198.19.255.255', 'benchmarking'],
    ['198.20.0.0', undefined],
    ['223.255.255.255', undefined],
    ['224.0.0.0', 'multicast'],
    ['239.255.255.255', 'multicast'],
    ['240.0.0.0', 'reserved'],
    ['255.255.255.255', 'broadcast'],
    ['febf::', 'link-local'],
    ['fec0::', undefined],
    ['fbff::', undefined],
    ['fc00::', 'unique local'],
    ['fdff::', 'unique local'],
    ['fe00::', undefined],
    ['192.0.2.1', 'documentation'],
    ['2001:db8::1', 'documentation'],
    ['::1', 'loopback'],
    ['127.0.0.1', 'loopback'],
    ['169.254.9.9', 'link-local'],
  ])('%s is %s', (ip, use) => expect(specialUse(addressOf(ip))?.use).toBe(use));
  it('private ones are carried nowhere outside', () =>
    expect(
      ['10.1.1.1', 'fd00::1', '203.0.113.9', '8.8.4.4'].map((ip) => routedOutside(addressOf(ip))),
    ).toEqual([false, false, true, true]));
});

describe('addresses made of MACs', () => {
  // RFC 4291, appendix A: 34-56-78-9A-BC-DE becomes 36-56-78-FF-FE-9A-BC-DE.
  it('interface identifiers invert the universal bit', () =>
    expect(linkLocal('34-56-78-9A-BC-DE')).toEqual({
      ok: true,
      value: 'fe80::3656:78ff:fe9a:bcde',
    }));
  it('autoconfiguration joins prefix and identifier', () =>
    expect(formatAddress(autoconfigured(prefixOf('2001:db8:0:1::/64'), '34:56:78:9a:bc:de'))).toBe(
      '2001:db8:0:1:3656:78ff:fe9a:bcde',
    ));
  it('and takes a /64 only', () =>
    expect(() => autoconfigured(prefixOf('2001:db8::/48'), '34:56:78:9a:bc:de')).toThrow(
      RangeError,
    ));
  it('what is no MAC gets a sentence', () =>
    expect(linkLocal('34:56')).toMatchObject({ ok: false }));
  // RFC 4193, section 3.1: fd, 40 bits of global id, a /48.
  it('a unique local prefix is fd and 40 random bits', () => {
    const bytes = [0x12, 0x34, 0x56, 0x78, 0x9a];
    expect(uniqueLocalPrefix(() => bytes.shift()!)).toBe('fd12:3456:789a::/48');
  });
});

describe('MAC blocks', () => {
  it('are one to four locally administered octets', () => {
    expect(
      [parseMacBlock('02-1F-0A'), parseMacBlock('02')].map((read) => read.ok && read.value),
    ).toEqual(['02:1f:0a', '02']);
    expect(parseMacBlock('00:1f:0a')).toMatchObject({ ok: false, suggestion: '02:1f:0a' });
    for (const text of ['03:00', '', '02:1', '02:1f:0a:00:00'])
      expect(parseMacBlock(text).ok).toBe(false);
  });
  it('generated addresses begin with them', () =>
    expect(
      generateMac(
        () => false,
        () => 0xab,
        '02:1f:0a',
      ),
    ).toBe('02:1f:0a:ab:ab:ab'));
  it('are printed in the usual notations, and say where they come from', () => {
    expect(macNotations('02:00:5e:10:00:01')).toEqual([
      '02:00:5e:10:00:01',
      '02-00-5E-10-00-01',
      '0200.5e10.0001',
      '02005e100001',
    ]);
    // IEEE Std 802c: second digit 2 free use, 6 reserved, a company id, e by a protocol.
    expect(
      ['02', '06', '0a', '0e', '00', '01'].map((octet) =>
        macOrigin(`${octet}:00:00:00:00:00`).split(', ').at(-1),
      ),
    ).toEqual([
      'free use',
      'quadrant reserved',
      'holds a company id',
      'given by a protocol',
      'given by a maker of hardware',
      'group address',
    ]);
  });
  // Exact products, recomputed in rational arithmetic by another program.
  test.each([
    [46, 100, 7.034373e-11],
    [46, 1000, 7.098322e-9],
    [46, 10_000, 7.104714e-7],
    [40, 1000, 4.542925e-7],
    [24, 100, 2.950001e-4],
    [24, 1000, 0.029334],
    [24, 10_000, 0.949234],
    [16, 100, 0.072784],
  ])('%d free bits, %d drawn', (bits, n, wanted) =>
    expect(Math.abs(repetitionChance(bits, n) - wanted)).toBeLessThan(wanted * 2e-5),
  );
  it('half from 4,823 draws on 24 bits and 302 on 16', () =>
    expect([
      repetitionChance(24, 4822) < 0.5,
      repetitionChance(24, 4823) >= 0.5,
      repetitionChance(16, 301) < 0.5,
      repetitionChance(16, 302) >= 0.5,
    ]).toEqual([true, true, true, true]));
});
