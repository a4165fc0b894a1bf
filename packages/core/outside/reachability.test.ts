/**
 * The simulator against the Linux kernel: the same topologies built of real namespaces, bridges, routes and translation,
 * every pair pinged, both the yes and the no compared. Source: the kernel of the machine the tests run on.
 */
import { afterAll, describe, expect, it } from 'vitest';
import { build, random, type MachineWish } from './build.js';
import { compared, disagreements } from './compare.js';
import { whyNot } from './kernel.js';

const reason = whyNot();
if (reason && process.env.CI && process.getuid?.() === 0)
  throw new Error(`As root in CI the kernel must take part: ${reason}`);
if (reason) console.log(`Skipped, and counted as skipped: ${reason}.`);

const inside = (n: number, more: Partial<MachineWish> = {}): MachineWish => ({
  ifs: [{ seg: 1, ip: [`10.77.1.${n}/24`] }],
  gw: '10.77.1.1',
  ...more,
});

const TOPOLOGIES: Record<string, Record<string, MachineWish>> = {
  'one network': { a: inside(10), b: inside(11), c: inside(12) },
  'a router between two networks': {
    a: inside(10),
    b: { ifs: [{ seg: 2, ip: ['10.77.2.10/24'] }], gw: '10.77.2.1' },
    r: {
      ifs: [
        { seg: 1, ip: ['10.77.1.1/24'] },
        { seg: 2, ip: ['10.77.2.1/24'] },
      ],
      forwards: true,
    },
  },
  'the router does not forward': {
    a: inside(10),
    b: { ifs: [{ seg: 2, ip: ['10.77.2.10/24'] }], gw: '10.77.2.1' },
    r: {
      ifs: [
        { seg: 1, ip: ['10.77.1.1/24'] },
        { seg: 2, ip: ['10.77.2.1/24'] },
      ],
    },
  },
  'a gateway outside the own subnet': {
    a: inside(10, { gw: '10.77.9.1' }),
    b: inside(11),
    r: { ifs: [{ seg: 1, ip: ['10.77.1.1/24', '10.77.9.1/24'] }], forwards: true },
  },
  'a gateway outside the own subnet, meant so': {
    a: inside(10, { gw: '10.77.9.1', onLink: true }),
    r: {
      ifs: [
        { seg: 1, ip: ['10.77.1.1/24', '10.77.9.1/24'] },
        { seg: 2, ip: ['10.77.2.1/24'] },
      ],
      forwards: true,
    },
    b: { ifs: [{ seg: 2, ip: ['10.77.2.10/24'] }], gw: '10.77.2.1' },
  },
  'too narrow a prefix': {
    a: { ifs: [{ seg: 1, ip: ['10.77.1.10/29'] }] },
    b: inside(100),
    r: { ifs: [{ seg: 1, ip: ['10.77.1.1/24'] }], forwards: true },
  },
  'too wide a prefix': {
    a: { ifs: [{ seg: 1, ip: ['10.77.1.10/16'] }], gw: '10.77.1.1' },
    b: { ifs: [{ seg: 2, ip: ['10.77.2.10/24'] }], gw: '10.77.2.1' },
    r: {
      ifs: [
        { seg: 1, ip: ['10.77.1.1/24'] },
        { seg: 2, ip: ['10.77.2.1/24'] },
      ],
      forwards: true,
    },
  },
  'no way back': {
    a: inside(10),
    b: { ifs: [{ seg: 2, ip: ['10.77.2.10/24'] }] },
    r: {
      ifs: [
        { seg: 1, ip: ['10.77.1.1/24'] },
        { seg: 2, ip: ['10.77.2.1/24'] },
      ],
      forwards: true,
    },
  },
  'a router that translates, asked from both sides': {
    a: { ifs: [{ seg: 1, ip: ['10.77.1.10/24'] }], gw: '10.77.1.1' },
    b: { ifs: [{ seg: 2, ip: ['10.77.2.10/24'] }] },
    c: { ifs: [{ seg: 2, ip: ['10.77.2.11/24'] }], routes: [['10.77.1.0/24', '10.77.2.1']] },
    r: {
      ifs: [
        { seg: 1, ip: ['10.77.1.1/24'] },
        { seg: 2, ip: ['10.77.2.1/24'], masq: true },
      ],
      forwards: true,
    },
  },
  'the two adapters of a router changed over': {
    a: inside(10),
    b: { ifs: [{ seg: 2, ip: ['10.77.2.10/24'] }], gw: '10.77.2.1' },
    r: {
      ifs: [
        { seg: 2, ip: ['10.77.1.1/24'] },
        { seg: 1, ip: ['10.77.2.1/24'] },
      ],
      forwards: true,
    },
  },
  'a host with shared translation, asked from all sides': {
    g: { ifs: [{ seg: 5, ip: ['192.168.77.10/24'] }], gw: '192.168.77.1' },
    g2: { ifs: [{ seg: 5, ip: ['192.168.77.11/24'] }], gw: '192.168.77.1' },
    h: {
      ifs: [
        { seg: 1, ip: ['10.77.1.20/24'], side: 'uplink' },
        { seg: 5, ip: ['192.168.77.1/24'], side: 'nat' },
      ],
      host: true,
    },
    n: inside(10),
    o: { ifs: [{ seg: 1, ip: ['10.77.1.30/24'] }], routes: [['192.168.77.0/24', '10.77.1.20']] },
  },
  'a host that routes for its guests': {
    g: { ifs: [{ seg: 5, ip: ['192.168.78.10/24'] }], gw: '192.168.78.1' },
    h: {
      ifs: [
        { seg: 1, ip: ['10.77.1.20/24'], side: 'uplink' },
        { seg: 5, ip: ['192.168.78.1/24'], side: 'routed' },
      ],
      host: true,
    },
    n: inside(10),
    o: { ifs: [{ seg: 1, ip: ['10.77.1.30/24'] }], routes: [['192.168.78.0/24', '10.77.1.20']] },
  },
  'a network of host and guests': {
    g: { ifs: [{ seg: 5, ip: ['192.168.79.10/24'] }], gw: '192.168.79.1' },
    h: {
      ifs: [
        { seg: 1, ip: ['10.77.1.20/24'], side: 'uplink' },
        { seg: 5, ip: ['192.168.79.1/24'], side: 'local' },
      ],
      host: true,
    },
    o: { ifs: [{ seg: 1, ip: ['10.77.1.30/24'] }], routes: [['192.168.79.0/24', '10.77.1.20']] },
  },
  'a cable out and a machine off': {
    a: inside(10),
    b: inside(11, { on: false }),
    c: { ifs: [{ seg: 1, ip: ['10.77.1.12/24'], up: false }] },
    d: {
      ifs: [
        { seg: 1, ip: ['10.77.1.13/24'] },
        { seg: 2, ip: ['10.77.2.13/24'], up: false },
      ],
    },
  },
  'an answer for the address of another adapter': {
    a: inside(10, { gw: undefined, routes: [['10.77.2.0/24', '10.77.1.13']] }),
    d: {
      ifs: [
        { seg: 1, ip: ['10.77.1.13/24'] },
        { seg: 2, ip: ['10.77.2.13/24'] },
      ],
    },
    e: { ifs: [{ seg: 2, ip: ['10.77.2.10/24', '10.77.1.40/32'] }] },
  },
  'equal subnets on two adapters': {
    a: {
      ifs: [
        { seg: 1, ip: ['10.77.1.10/24'] },
        { seg: 2, ip: ['10.77.1.11/24'] },
      ],
    },
    b: inside(20),
    c: { ifs: [{ seg: 2, ip: ['10.77.1.30/24'] }] },
  },
  'two routers in a row, one route missing': {
    a: inside(10),
    r: {
      ifs: [
        { seg: 1, ip: ['10.77.1.1/24'] },
        { seg: 2, ip: ['10.77.2.1/24'] },
      ],
      forwards: true,
      routes: [['10.77.3.0/24', '10.77.2.2']],
    },
    s: {
      ifs: [
        { seg: 2, ip: ['10.77.2.2/24'] },
        { seg: 3, ip: ['10.77.3.1/24'] },
      ],
      forwards: true,
    },
    b: { ifs: [{ seg: 3, ip: ['10.77.3.10/24'] }], gw: '10.77.3.1' },
  },
  'routers that send to each other': {
    a: inside(10),
    r: {
      ifs: [
        { seg: 1, ip: ['10.77.1.1/24'] },
        { seg: 2, ip: ['10.77.2.1/24'] },
      ],
      forwards: true,
      gw: '10.77.2.2',
    },
    s: { ifs: [{ seg: 2, ip: ['10.77.2.2/24'] }], forwards: true, gw: '10.77.2.1' },
    b: { ifs: [{ seg: 9, ip: ['10.77.9.9/24'] }] },
  },
  'IPv6, a router between two networks': {
    a: { ifs: [{ seg: 1, ip: ['2001:db8:77:1::10/64'] }], gw6: '2001:db8:77:1::1' },
    b: { ifs: [{ seg: 2, ip: ['2001:db8:77:2::10/64'] }], gw6: '2001:db8:77:2::1' },
    c: { ifs: [{ seg: 2, ip: ['2001:db8:77:2::11/64'] }] },
    r: {
      ifs: [
        { seg: 1, ip: ['2001:db8:77:1::1/64'] },
        { seg: 2, ip: ['2001:db8:77:2::1/64'] },
      ],
      forwards: true,
    },
  },
  'IPv6 does not answer for another adapter': {
    a: { ifs: [{ seg: 1, ip: ['2001:db8:77:1::10/48'] }] },
    d: {
      ifs: [
        { seg: 1, ip: ['2001:db8:77:1::13/64'] },
        { seg: 2, ip: ['2001:db8:77:2::13/64'] },
      ],
    },
  },
  'its own twin': {
    a: inside(10),
    t: { ifs: [{ seg: 2, ip: ['10.77.1.10/24'] }], gw: '10.77.1.1' },
    r: { ifs: [{ seg: 1, ip: ['10.77.1.1/24'] }], forwards: true },
  },
};

describe.skipIf(reason !== undefined)('the kernel agrees', () => {
  it.each(Object.entries(TOPOLOGIES))(
    '%s',
    (_, wishes) => expect(disagreements(build(wishes))).toEqual([]),
    30_000,
  );

  it.each(Array.from({ length: 12 }, (_, i) => i + 1))(
    'a random place, seed %d',
    (seed) => expect(disagreements(build(randomPlace(seed)))).toEqual([]),
    30_000,
  );

  afterAll(() => console.log(`${compared()} pairs compared with the kernel.`));
});

/** Two to four networks, routers between them, prefixes, gateways and routes that are sometimes wrong. */
function randomPlace(seed: number): Record<string, MachineWish> {
  const below = random(seed);
  const one = <T>(list: readonly T[]): T => list[below(list.length)]!;
  const nets = 2 + below(3);
  const wishes: Record<string, MachineWish> = {};
  const gateways: string[] = [];
  for (let r = 0; r < 2; r += 1) {
    const [a, b] = [1 + below(nets), 1 + below(nets)];
    const ifs = [...new Set([a, b])].map((net) => {
      gateways.push(`10.77.${net}.${r + 1}`);
      return {
        seg: below(8) === 0 ? 1 + below(nets) : net,
        ip: [`10.77.${net}.${r + 1}/24`],
        masq: below(4) === 0,
      };
    });
    wishes[`r${r}`] = { ifs, forwards: below(5) !== 0, gw: below(2) ? one(gateways) : undefined };
  }
  for (let m = 0; m < 5; m += 1) {
    const net = 1 + below(nets);
    const length = one([24, 24, 24, 24, 16, 28, 30]);
    wishes[`m${m}`] = {
      ifs: [
        {
          seg: below(10) === 0 ? 1 + below(nets) : net,
          ip: [`10.77.${net}.${10 + m}/${length}`],
          up: below(12) !== 0,
        },
        ...(below(5) === 0
          ? [{ seg: 1 + below(nets), ip: [`10.77.${1 + below(nets)}.${100 + m}/24`] }]
          : []),
      ],
      gw: below(6) ? one(gateways) : undefined,
      routes: below(4) === 0 ? [[`10.77.${1 + below(nets)}.0/24`, one(gateways)]] : [],
      forwards: below(6) === 0,
    };
  }
  return wishes;
}
