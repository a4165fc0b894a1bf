/**
 * Ports that lead on, translation by one uplink, translation of some sources: the simulator against the kernel. Source: the
 * kernel of the machine the tests run on, its rules set by nftables.
 */
import { describe, expect, it } from 'vitest';
import { formatAddress, ping, Topology } from '../src/index.js';
import { build, type MachineWish } from './build.js';
import { disagreements } from './compare.js';
import { Kernel, whyNot } from './kernel.js';

const reason = whyNot();
/** Everybody listens here. */
const LISTENS = [80, 443];
const ASKED = [80, 443, 8080, 8443];

const PLACES: Record<string, Record<string, MachineWish>> = {
  'a host leads ports on to guests behind it': {
    pc: { ifs: [{ seg: 1, ip: ['10.77.1.10/24'] }], gw: '10.77.1.1' },
    h: {
      ifs: [
        { seg: 1, ip: ['10.77.1.20/24', '10.77.1.21/24'], side: 'uplink' },
        { seg: 5, ip: ['192.168.77.1/24'], side: 'nat' },
      ],
      host: true,
      gw: '10.77.1.1',
      ports: [
        [8080, '192.168.77.10', 80],
        [8443, '192.168.77.11', 443, '10.77.1.21'],
      ],
    },
    // One of them has no way back.
    a: { ifs: [{ seg: 5, ip: ['192.168.77.10/24'] }], gw: '192.168.77.1' },
    b: { ifs: [{ seg: 5, ip: ['192.168.77.11/24'] }] },
    c: { ifs: [{ seg: 5, ip: ['192.168.77.12/24'] }], gw: '192.168.77.1' },
  },
  'a router leads ports on, once with a translation of the asker': {
    pc: { ifs: [{ seg: 1, ip: ['203.0.113.10/24'] }] },
    r: {
      ifs: [
        { seg: 1, ip: ['203.0.113.1/24'], masq: true },
        { seg: 2, ip: ['10.77.2.1/24'] },
        { seg: 3, ip: ['10.77.3.1/24'], masq: true },
      ],
      forwards: true,
      ports: [
        [8080, '10.77.2.10', 80],
        [8443, '10.77.3.10', 443],
        [443, '10.77.2.10', 8080],
      ],
    },
    // Asks by the outer address what stands beside it: the answer comes from another.
    near: { ifs: [{ seg: 2, ip: ['10.77.2.11/24'] }], gw: '10.77.2.1' },
    web: { ifs: [{ seg: 2, ip: ['10.77.2.10/24'] }], gw: '10.77.2.1' },
    deaf: { ifs: [{ seg: 3, ip: ['10.77.3.10/24'] }] },
  },
  'a machine that does not forward leads nothing on': {
    pc: { ifs: [{ seg: 1, ip: ['10.77.1.10/24'] }] },
    r: {
      ifs: [
        { seg: 1, ip: ['10.77.1.1/24'] },
        { seg: 2, ip: ['10.77.2.1/24'] },
      ],
      ports: [[8080, '10.77.2.10', 80]],
    },
    web: { ifs: [{ seg: 2, ip: ['10.77.2.10/24'] }], gw: '10.77.2.1' },
  },
  'one translator after another, and IPv6': {
    pc: { ifs: [{ seg: 1, ip: ['203.0.113.10/24', '2001:db8:1::10/64'] }] },
    r: {
      ifs: [
        { seg: 1, ip: ['203.0.113.1/24', '2001:db8:1::1/64'], masq: true },
        { seg: 2, ip: ['10.77.2.1/24', 'fd00:2::1/64'] },
      ],
      forwards: true,
      ports: [
        [8080, '10.77.2.20', 8080],
        [8443, 'fd00:2::10', 443],
      ],
    },
    h: {
      ifs: [
        { seg: 2, ip: ['10.77.2.20/24'], side: 'uplink' },
        { seg: 5, ip: ['192.168.77.1/24'], side: 'nat' },
      ],
      host: true,
      gw: '10.77.2.1',
      ports: [[8080, '192.168.77.10', 80]],
    },
    g: { ifs: [{ seg: 5, ip: ['192.168.77.10/24'] }], gw: '192.168.77.1' },
    six: { ifs: [{ seg: 2, ip: ['fd00:2::10/64'] }], gw6: 'fd00:2::1' },
  },
};

const ECHOES: Record<string, Record<string, MachineWish>> = {
  'a host translates by one of two uplinks': {
    g: { ifs: [{ seg: 5, ip: ['192.168.77.10/24'] }], gw: '192.168.77.1' },
    k: { ifs: [{ seg: 6, ip: ['192.168.76.10/24'] }], gw: '192.168.76.1' },
    h: {
      ifs: [
        { seg: 1, ip: ['10.77.1.20/24'], side: 'uplink' },
        { seg: 2, ip: ['10.77.2.20/24'], side: 'uplink' },
        { seg: 5, ip: ['192.168.77.1/24'], side: 'nat', by: 0 },
        { seg: 6, ip: ['192.168.76.1/24'], side: 'nat' },
      ],
      host: true,
    },
    o: { ifs: [{ seg: 1, ip: ['10.77.1.10/24'] }] },
    p: { ifs: [{ seg: 2, ip: ['10.77.2.10/24'] }] },
    // Knows the way back, so that an untranslated packet is answered.
    q: { ifs: [{ seg: 2, ip: ['10.77.2.11/24'] }], routes: [['192.168.77.0/24', '10.77.2.20']] },
  },
  'the same where it forwards between all its networks': {
    g: { ifs: [{ seg: 5, ip: ['192.168.77.10/24'] }], gw: '192.168.77.1' },
    h: {
      ifs: [
        { seg: 1, ip: ['10.77.1.20/24'], side: 'uplink' },
        { seg: 2, ip: ['10.77.2.20/24'], side: 'uplink' },
        { seg: 5, ip: ['192.168.77.1/24'], side: 'nat', by: 1 },
      ],
      forwards: true,
    },
    o: { ifs: [{ seg: 1, ip: ['10.77.1.10/24'] }] },
    p: { ifs: [{ seg: 2, ip: ['10.77.2.10/24'] }] },
  },
  'a router translates what comes from some blocks': {
    r: {
      ifs: [
        { seg: 1, ip: ['203.0.113.1/24'], masq: true, from: ['10.77.2.0/25', '10.77.3.0/24'] },
        { seg: 2, ip: ['10.77.2.1/24'] },
        { seg: 3, ip: ['10.77.3.1/24', 'fd00:3::1/64'] },
      ],
      forwards: true,
    },
    o: { ifs: [{ seg: 1, ip: ['203.0.113.10/24'] }] },
    low: { ifs: [{ seg: 2, ip: ['10.77.2.10/24'] }], gw: '10.77.2.1' },
    high: { ifs: [{ seg: 2, ip: ['10.77.2.200/24'] }], gw: '10.77.2.1' },
    other: { ifs: [{ seg: 3, ip: ['10.77.3.10/24'] }], gw: '10.77.3.1' },
  },
};

describe.skipIf(reason !== undefined)('the kernel agrees on', () => {
  it.each(Object.entries(ECHOES))('%s', (_, wishes) =>
    expect(disagreements(build(wishes))).toEqual([]),
  );
  it.each(Object.entries(PLACES))('%s', (_, wishes) =>
    expect(disagreements(build(wishes))).toEqual([]),
  );
});

let serial = 0;
describe.skipIf(reason !== undefined)('who answers a connection:', () => {
  it.each(Object.entries(PLACES))('%s', (_, wishes) => {
    const machines = build(wishes);
    const kernel = new Kernel(machines, 5000 + (serial += 1));
    try {
      kernel.build();
      const topology = new Topology(machines);
      const pairs = machines.flatMap((sender) =>
        machines.flatMap((other) =>
          other.ifaces.flatMap((iface) =>
            iface.addresses.flatMap((address) =>
              ASKED.map((port) => ({
                ...{ from: sender.id, to: formatAddress(address), port },
                ...{ sender, address },
              })),
            ),
          ),
        ),
      );
      const real = kernel.connectAll(pairs, LISTENS);
      const wrong = pairs.flatMap(({ sender, address, to, port }, i) => {
        const echo = ping(topology, sender, address, null, { protocol: 'tcp', port });
        const last = echo.request.hops.findLast(({ forwardedTo }) => forwardedTo)?.forwardedTo;
        const listened = LISTENS.includes(last?.port ?? port);
        const said = echo.verdict === 'yes' && listened ? echo.answeredBy!.id : null;
        return said === real[i]
          ? []
          : [`${sender.id} → ${to}:${port}: kernel ${real[i]}, simulator ${echo.verdict} ${said}`];
      });
      expect(pairs.length).toBeGreaterThan(20);
      expect(real.some((who) => who !== null)).toBe(true);
      expect(wrong).toEqual([]);
    } finally {
      kernel.remove();
    }
  });
});
