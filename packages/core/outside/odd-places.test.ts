/**
 * Places that nobody plans and many have: the simulator against the kernel where prefixes overlap, hosts forward beside
 * translating, sources must be chosen, and machines are stricter than usual. Source: the kernel of the machine the tests run on.
 */
import { afterAll, describe, expect, it } from 'vitest';
import { restsOn, Topology } from '../src/index.js';
import { build, random, type MachineWish } from './build.js';
import { askAll, compared, disagreements } from './compare.js';
import { whyNot } from './kernel.js';

const reason = whyNot();

const PLACES: Record<string, Record<string, MachineWish>> = {
  'a host that forwards between all its networks still translates': {
    g: { ifs: [{ seg: 5, ip: ['192.168.77.10/24'] }], gw: '192.168.77.1' },
    g2: { ifs: [{ seg: 6, ip: ['192.168.76.10/24'] }], gw: '192.168.76.1' },
    h: {
      ifs: [
        { seg: 1, ip: ['10.77.1.20/24'], side: 'uplink' },
        { seg: 5, ip: ['192.168.77.1/24'], side: 'nat' },
        { seg: 6, ip: ['192.168.76.1/24'], side: 'nat' },
      ],
      forwards: true,
    },
    pc: { ifs: [{ seg: 1, ip: ['10.77.1.10/24'] }], gw: '10.77.1.1' },
    o: { ifs: [{ seg: 1, ip: ['10.77.1.30/24'] }], routes: [['192.168.77.0/24', '10.77.1.20']] },
  },
  'a router for whose own prefix the asker is the broadcast address': {
    pc: { ifs: [{ seg: 1, ip: ['192.168.1.127/24'] }], gw: '192.168.1.1' },
    near: { ifs: [{ seg: 1, ip: ['192.168.1.20/25'] }] },
    r: {
      ifs: [
        { seg: 1, ip: ['192.168.1.1/25'] },
        { seg: 2, ip: ['10.77.2.1/24'] },
      ],
      forwards: true,
    },
    s: { ifs: [{ seg: 2, ip: ['10.77.2.10/24'] }], gw: '10.77.2.1' },
  },
  'a translator whose outer address is a broadcast address to who replies': {
    g: { ifs: [{ seg: 5, ip: ['192.168.77.10/24'] }], gw: '192.168.77.1' },
    h: {
      ifs: [
        { seg: 1, ip: ['10.77.1.127/24'], masq: true },
        { seg: 5, ip: ['192.168.77.1/24'] },
      ],
      forwards: true,
    },
    o: { ifs: [{ seg: 1, ip: ['10.77.1.10/25'] }] },
  },
  'an address that an earlier prefix of the machine makes a broadcast address': {
    m: { ifs: [{ seg: 1, ip: ['10.77.1.1/25', '10.77.1.127/24'] }] },
    n: { ifs: [{ seg: 1, ip: ['10.77.1.127/24', '10.77.1.2/25'] }] },
    a: { ifs: [{ seg: 1, ip: ['10.77.1.200/24'] }] },
  },
  'the same, on one machine alone': {
    m: { ifs: [{ seg: 1, ip: ['10.77.1.1/25', '10.77.1.127/24'] }] },
    a: { ifs: [{ seg: 1, ip: ['10.77.1.200/24'] }] },
    b: { ifs: [{ seg: 1, ip: ['10.77.1.20/25'] }] },
  },
  'a later prefix takes nothing away': {
    m: { ifs: [{ seg: 1, ip: ['10.77.1.127/24', '10.77.1.1/25'] }] },
    a: { ifs: [{ seg: 1, ip: ['10.77.1.200/24'] }] },
  },
  'IPv6: the source is chosen for the destination, not for the next hop': {
    a: {
      ifs: [{ seg: 1, ip: ['fd00:1::5/64', '2001:db8:1::5/64'] }],
      gw6: 'fd00:1::1',
    },
    b: { ifs: [{ seg: 1, ip: ['2001:db8:1::6/64', 'fd00:1::6/64'] }], gw6: '2001:db8:1::1' },
    r: {
      ifs: [
        { seg: 1, ip: ['fd00:1::1/64', '2001:db8:1::1/64'] },
        { seg: 2, ip: ['2001:db8:2::1/64', 'fd00:2::1/64'] },
      ],
      forwards: true,
    },
    // Each knows the way back to one of both only.
    c: {
      ifs: [{ seg: 2, ip: ['2001:db8:2::9/64'] }],
      routes: [['2001:db8:1::/64', '2001:db8:2::1']],
    },
    d: { ifs: [{ seg: 2, ip: ['fd00:2::9/64'] }], routes: [['fd00:1::/64', 'fd00:2::1']] },
  },
  'IPv6: the longer common prefix': {
    a: {
      ifs: [{ seg: 1, ip: ['2001:db8:1::5/64', '2001:db8:8000::5/64'] }],
      gw6: '2001:db8:1::1',
    },
    r: {
      ifs: [
        { seg: 1, ip: ['2001:db8:1::1/64', '2001:db8:8000::1/64'] },
        { seg: 2, ip: ['2001:db8:8000:2::1/64', '2001:db8:2::1/64'] },
      ],
      forwards: true,
    },
    c: {
      ifs: [{ seg: 2, ip: ['2001:db8:8000:2::9/64'] }],
      routes: [['2001:db8:8000::/64', '2001:db8:8000:2::1']],
    },
    d: {
      ifs: [{ seg: 2, ip: ['2001:db8:2::9/64'] }],
      routes: [['2001:db8:1::/64', '2001:db8:2::1']],
    },
  },
  'strict reverse-path filtering drops what comes in another way': {
    a: {
      ifs: [
        { seg: 1, ip: ['10.77.1.10/24'] },
        { seg: 2, ip: ['10.77.2.10/24'] },
      ],
      gw: '10.77.1.1',
    },
    r: {
      ifs: [
        { seg: 1, ip: ['10.77.1.1/24'] },
        { seg: 2, ip: ['10.77.2.1/24'] },
        { seg: 3, ip: ['10.77.3.1/24'] },
      ],
      forwards: true,
      reversePath: 'strict',
    },
    c: { ifs: [{ seg: 3, ip: ['10.77.3.10/24'] }], gw: '10.77.3.1' },
    d: {
      ifs: [
        { seg: 3, ip: ['10.77.3.11/24'] },
        { seg: 2, ip: ['10.77.2.11/24'] },
      ],
      gw: '10.77.3.1',
      reversePath: 'strict',
    },
    e: { ifs: [{ seg: 2, ip: ['10.77.2.12/24'] }], reversePath: 'loose' },
  },
  'a route that leads nowhere on purpose': {
    a: { ifs: [{ seg: 1, ip: ['10.77.1.10/24'] }], gw: '10.77.1.1' },
    r: {
      ifs: [
        { seg: 1, ip: ['10.77.1.1/24'] },
        { seg: 2, ip: ['10.77.2.1/24'] },
      ],
      forwards: true,
      routes: [['10.77.2.8/29', null]],
    },
    b: { ifs: [{ seg: 2, ip: ['10.77.2.10/24'] }], gw: '10.77.2.1' },
    c: { ifs: [{ seg: 2, ip: ['10.77.2.20/24'] }], gw: '10.77.2.1' },
  },
  'of two routes with equal prefix the lower metric leads': {
    a: {
      ifs: [{ seg: 1, ip: ['10.77.1.10/24'] }],
      routes: [
        ['10.77.2.0/24', '10.77.1.1', 200],
        ['10.77.2.0/24', '10.77.1.2', 100],
      ],
    },
    dead: { ifs: [{ seg: 1, ip: ['10.77.1.1/24'] }] },
    r: {
      ifs: [
        { seg: 1, ip: ['10.77.1.2/24'] },
        { seg: 2, ip: ['10.77.2.1/24'] },
      ],
      forwards: true,
    },
    b: { ifs: [{ seg: 2, ip: ['10.77.2.10/24'] }], gw: '10.77.2.1' },
  },
};

describe.skipIf(reason !== undefined)('the kernel agrees on', () => {
  it.each(Object.entries(PLACES))(
    '%s',
    (_, wishes) => expect(disagreements(build(wishes))).toEqual([]),
    30_000,
  );
  it.each(Array.from({ length: 12 }, (_, i) => i + 1))(
    'a random odd place, seed %d',
    (seed) => expect(disagreements(build(oddPlace(seed)))).toEqual([]),
    30_000,
  );
});

describe.skipIf(reason !== undefined)('what a yes rests on', () => {
  it.each(Array.from({ length: 12 }, (_, i) => i + 1))(
    'is named wherever stricter kernels say no, and nowhere else (seed %d)',
    (seed) => {
      const place = oddPlace(seed, false);
      const yes = (strict: Partial<MachineWish>) =>
        new Map(
          askAll(
            build(
              Object.fromEntries(
                Object.entries(place).map(([id, wish]) => [id, { ...wish, ...strict }]),
              ),
            ),
          ).map(({ from, to, real }) => [`${from.id} → ${to}`, real]),
        );
      const [strong, strict] = [yes({ strongHost: true }), yes({ reversePath: 'strict' })];
      const machines = build(place);
      const topology = new Topology(machines);
      const wrong = askAll(machines).flatMap(({ from, to, address, echo, real }) => {
        if (!real || echo.verdict !== 'yes') return [];
        const pair = `${from.id} → ${to}`;
        const named = new Set(restsOn(topology, from, address).map(({ on }) => on));
        const flips = {
          strongHost: strong.get(pair) === false,
          reversePath: strict.get(pair) === false,
        };
        return flips.strongHost === named.has('strongHost') &&
          flips.reversePath === named.has('reversePath')
          ? []
          : [`${pair}: flips ${JSON.stringify(flips)}, named ${[...named].join()}`];
      });
      expect(wrong).toEqual([]);
    },
    60_000,
  );
  afterAll(() => console.log(`${compared()} pairs compared with the kernel.`));
});

/** Two or three networks, machines with overlapping prefixes and several addresses, some of them strict. */
function oddPlace(seed: number, facts = true): Record<string, MachineWish> {
  const below = random(1000 + seed);
  const one = <T>(list: readonly T[]): T => list[below(list.length)]!;
  const nets = 2 + below(2);
  const wishes: Record<string, MachineWish> = {};
  const gateways: string[] = [];
  const fact = (): Partial<MachineWish> =>
    facts
      ? {
          strongHost: below(4) === 0,
          reversePath: one(['off', 'off', 'strict', 'loose'] as const),
        }
      : {};
  for (let r = 0; r < 2; r += 1) {
    const ifs = [...new Set([1 + below(nets), 1 + below(nets)])].map((net) => {
      gateways.push(`10.77.${net}.${r + 1}`);
      return {
        seg: net,
        ip: [`10.77.${net}.${r + 1}/${one([24, 24, 25])}`],
        masq: below(5) === 0,
      };
    });
    wishes[`r${r}`] = { ifs, forwards: true, gw: below(2) ? one(gateways) : undefined, ...fact() };
  }
  for (let m = 0; m < 5; m += 1) {
    const net = 1 + below(nets);
    const n = one([10, 63, 127, 130, 254]) - m * (below(2) ? 0 : 1);
    const other = 1 + below(nets);
    wishes[`m${m}`] = {
      ifs: [
        {
          seg: net,
          ip: [
            `10.77.${net}.${n}/${one([24, 24, 25, 26])}`,
            ...(below(4) === 0 ? [`10.77.${net}.${20 + m}/${one([24, 25])}`] : []),
          ],
        },
        ...(below(2) === 0 && other !== net
          ? [{ seg: other, ip: [`10.77.${other}.${100 + m}/24`] }]
          : []),
      ],
      gw: below(5) ? one(gateways) : undefined,
      routes:
        below(3) === 0
          ? [
              [
                `10.77.${1 + below(nets)}.0/${one([24, 25])}`,
                below(4) ? one(gateways) : null,
                one([undefined, 50]),
              ],
            ]
          : [],
      ...fact(),
    };
  }
  return wishes;
}
