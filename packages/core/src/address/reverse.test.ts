import fc from 'fast-check';
import { Address6 } from 'ip-address';
import { describe, expect, it, test } from 'vitest';
import {
  addressOf,
  addressOfReverse,
  formatAddress,
  prefixOf,
  reverseName,
  reverseZones,
} from './index.js';

describe('reverse names', () => {
  // IPv4: RFC 1035, section 3.5; IPv6: RFC 3596, section 2.5, whose example is the third line.
  test.each([
    ['192.0.2.130', '130.2.0.192.in-addr.arpa.'],
    ['10.20.30.4', '4.30.20.10.in-addr.arpa.'],
    [
      '4321:0:1:2:3:4:567:89ab',
      'b.a.9.8.7.6.5.0.4.0.0.0.3.0.0.0.2.0.0.0.1.0.0.0.0.0.0.0.1.2.3.4.ip6.arpa.',
    ],
    ['2001:db8::1', '1.0.0.0.0.0.0.0.0.0.0.0.0.0.0.0.0.0.0.0.0.0.0.0.8.b.d.0.1.0.0.2.ip6.arpa.'],
  ])('%s', (ip, name) => {
    expect(reverseName(addressOf(ip))).toBe(name);
    expect(addressOfReverse(name)).toBe(ip);
  });
  it('agree with a general library on random IPv6 addresses, and lead back', () => {
    fc.assert(
      fc.property(fc.bigInt({ min: 0n, max: 2n ** 128n - 1n }), (value) => {
        const text = formatAddress({ family: 6, value });
        fc.pre(!text.startsWith('::ffff:'));
        expect(reverseName({ family: 6, value })).toBe(new Address6(text).reverseForm());
        expect(addressOfReverse(reverseName({ family: 6, value }))).toBe(text);
      }),
    );
  });
  it('read the aliases of RFC 2317, and nothing else', () => {
    expect(addressOfReverse('130.128/26.2.0.192.in-addr.arpa')).toBe('192.0.2.130');
    expect(
      ['host.example', '300.2.0.192.in-addr.arpa', '2.0.192.in-addr.arpa', '1.2.ip6.arpa'].map(
        addressOfReverse,
      ),
    ).toEqual([undefined, undefined, undefined, undefined]);
  });
});

describe('zones of a block', () => {
  const names = (block: string) => reverseZones(prefixOf(block)).map((zone) => zone.name);
  test.each([
    ['192.0.2.0/24', ['2.0.192.in-addr.arpa.']],
    ['10.20.0.0/16', ['20.10.in-addr.arpa.']],
    ['10.0.0.0/8', ['10.in-addr.arpa.']],
    [
      '10.20.4.0/22',
      [
        '4.20.10.in-addr.arpa.',
        '5.20.10.in-addr.arpa.',
        '6.20.10.in-addr.arpa.',
        '7.20.10.in-addr.arpa.',
      ],
    ],
    ['2001:db8::/32', ['8.b.d.0.1.0.0.2.ip6.arpa.']],
    ['2001:db8:0:1::/64', ['1.0.0.0.0.0.0.0.8.b.d.0.1.0.0.2.ip6.arpa.']],
    [
      '2001:db8::/46',
      [
        '0.0.0.0.8.b.d.0.1.0.0.2.ip6.arpa.',
        '1.0.0.0.8.b.d.0.1.0.0.2.ip6.arpa.',
        '2.0.0.0.8.b.d.0.1.0.0.2.ip6.arpa.',
        '3.0.0.0.8.b.d.0.1.0.0.2.ip6.arpa.',
      ],
    ],
  ])('%s', (block, wanted) => expect(names(block)).toEqual(wanted));
  it('172.16.0.0/12 takes 16', () => expect(names('172.16.0.0/12')).toHaveLength(16));
  // RFC 2317, section 4: 192.0.2.128/26 is delegated as 128/26.
  it('a part of a /24 is a child of its zone', () =>
    expect(reverseZones(prefixOf('192.0.2.128/26'))).toEqual([
      {
        name: '128/26.2.0.192.in-addr.arpa.',
        parent: { name: '2.0.192.in-addr.arpa.', label: '128/26' },
      },
    ]));
});
