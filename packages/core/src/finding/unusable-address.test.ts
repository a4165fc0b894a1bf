import { describe, expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import { allFindings, type Finding } from './index.js';

const findings = (world: World, rule: string): Finding[] =>
  allFindings(world.fleet, world.now).filter((finding) => finding.rule === rule);
const mend = (world: World, finding: Finding) => {
  if (finding.mend?.kind !== 'change') throw new Error('no change mends it');
  world.make(finding.mend.change);
};

describe('an address that names no machine (RFC 1122, section 3.2.1.3)', () => {
  it.each([
    ['192.0.2.0', 'which is the address of the subnet itself: 192.0.2.0/24'],
    ['192.0.2.255', 'which is the broadcast address of 192.0.2.0/24'],
  ])('%s', (ip, words) => {
    const world = smallWorld();
    world.make(world.found('lost', 'gannet', 512, ip));
    const [finding] = findings(world, 'unusable-address');
    expect(finding).toMatchObject({ severity: 'blocker', about: { kind: 'guest', name: 'lost' } });
    expect(finding!.evidence).toBe(`lost carries ${ip}, ${words}.`);
    mend(world, finding!);
    expect(findings(world, 'unusable-address')).toEqual([]);
  });
  it('its neighbours are addresses like any other', () => {
    const world = smallWorld();
    world.make(world.found('first', 'gannet', 512, '192.0.2.2'));
    world.make(world.found('last', 'gannet', 512, '192.0.2.254'));
    expect(findings(world, 'unusable-address')).toEqual([]);
  });
  it('is told of hosts and devices as well', () => {
    const world = smallWorld();
    world.make({
      type: 'address.set',
      input: { hostId: world.id('host', 'tern'), ip: '192.0.2.255', assigned: false },
    });
    world.make({
      type: 'device.record',
      input: {
        name: 'printer',
        kind: 'printer',
        ports: [
          {
            name: 'lan',
            networkId: world.id('network', 'shore'),
            addresses: [{ ip: '192.0.2.0' }],
          },
        ],
      },
    });
    expect(
      findings(world, 'unusable-address').map(({ about }) => [about.kind, about.name]),
    ).toEqual(
      expect.arrayContaining([
        ['host', 'tern'],
        ['device', 'printer'],
      ]),
    );
  });
  it.each([
    ['198.51.100.0/31', '198.51.100.0', 0, 'both are machines (RFC 3021)'],
    ['198.51.100.0/30', '198.51.100.3', 1, 'the last of four is the broadcast address'],
    ['2001:db8:5::/64', '2001:db8:5::', 1, 'any router answers (RFC 4291, section 2.6.1)'],
    ['2001:db8:5::/64', '2001:db8:5:0:ffff:ffff:ffff:ffff', 0, 'IPv6 has no broadcast'],
    ['2001:db8:5::/127', '2001:db8:5::', 0, 'both are machines (RFC 6164)'],
  ])('%s, %s: %i — %s', (prefix, ip, wanted) => {
    const world = smallWorld();
    world.make({ type: 'network.record', input: { name: 'link', subnet: { prefix } } });
    world.make({
      type: 'address.set',
      input: {
        hostId: world.id('host', 'tern'),
        networkId: world.id('network', 'link'),
        ip,
        assigned: false,
      },
    });
    expect(findings(world, 'unusable-address')).toHaveLength(wanted);
  });
});

describe('an address outside every subnet of its network (RFC 1122, section 3.3.1.1)', () => {
  it('is told with the subnets there are, and mended by the next free one', () => {
    const world = smallWorld();
    world.make(world.found('stray', 'gannet', 512, '203.0.113.9'));
    const [finding] = findings(world, 'address-outside-network');
    expect(finding).toMatchObject({
      severity: 'blocker',
      about: { name: 'stray' },
      evidence: 'stray carries 203.0.113.9 on shore, which has 192.0.2.0/24.',
    });
    mend(world, finding!);
    expect(findings(world, 'address-outside-network')).toEqual([]);
    const [adapter] = world.fleet.referring('adapter', 'guestId', world.id('guest', 'stray'));
    expect(world.fleet.referring('address', 'adapterId', adapter!.id)[0]!.ip).toMatch(
      /^192\.0\.2\./,
    );
  });
  it('is silent where the missing subnet is recorded, or the network has none of that family', () => {
    const world = smallWorld();
    world.make(world.found('six', 'gannet', 512, '2001:db8:77::9'));
    expect(findings(world, 'address-outside-network')).toEqual([]);
    world.make(world.found('stray', 'gannet', 512, '203.0.113.9'));
    world.make({
      type: 'subnet.record',
      input: { networkId: world.id('network', 'shore'), prefix: '203.0.113.0/24' },
    });
    expect(findings(world, 'address-outside-network')).toEqual([]);
  });
});
