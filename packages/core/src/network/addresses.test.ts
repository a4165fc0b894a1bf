import { describe, expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import { addressOf, formatAddress, prefixOf } from '../address/index.js';
import { addressesLike, nextFree, runsOf, subnetFigures, subnetRuns } from './index.js';
import { readList } from '../exchange/index.js';
import { allFindings } from '../finding/index.js';

const subnet = (world: World) => [...world.fleet.all('subnet')][0]!;
const next = (world: World, n = 1, randomByte?: () => number) =>
  nextFree(world.fleet, subnet(world).id, { n, now: world.now, randomByte });

describe('which address comes next', () => {
  it('the lowest, after the last, or any: as the subnet says', () => {
    const world = smallWorld();
    world.make(world.found('a', 'gannet', 256, '192.0.2.60'));
    expect(next(world)).toEqual(['192.0.2.2']);
    world.make({ type: 'subnet.edit', input: { id: subnet(world).id, policy: 'after last' } });
    expect(next(world, 2)).toEqual(['192.0.2.61', '192.0.2.62']);
    world.make(world.found('b', 'gannet', 256, '192.0.2.254'));
    expect(next(world)).toEqual(['192.0.2.2']);
    world.make({ type: 'subnet.edit', input: { id: subnet(world).id, policy: 'random' } });
    let seed = 0;
    const many = next(world, 40, () => (seed = (seed * 167 + 13) % 256));
    expect(new Set(many).size).toBe(40);
    for (const ip of many)
      expect(
        subnetRuns(world.fleet, subnet(world).id).find(
          (run) => run.first <= addressOf(ip).value && addressOf(ip).value <= run.last,
        )!.kind,
      ).toBe('free');
  });
  it('the first ones last, as many as the policy of the subnet keeps', () => {
    const world = smallWorld();
    const id = subnet(world).id;
    world.make({ type: 'subnet.edit', input: { id, lowKept: 20 } });
    expect(next(world, 2)).toEqual(['192.0.2.21', '192.0.2.22']);
    expect(nextFree(world.fleet, id, { n: 3, taking: 'run', now: world.now })[0]).toBe(
      '192.0.2.21',
    );
    world.make({ type: 'subnet.edit', input: { id, lowKept: 4096 } });
    expect(next(world)).toEqual(['192.0.2.2']);
  });
  it('only from the static ranges, where there are any', () => {
    const world = smallWorld();
    world.make({
      type: 'range.record',
      input: {
        subnetId: subnet(world).id,
        use: 'static',
        firstIp: '192.0.2.40',
        lastIp: '192.0.2.41',
      },
    });
    expect(next(world, 3)).toEqual(['192.0.2.40', '192.0.2.41']);
    // 254 usable, less the gateway, 100 dynamic, 2 offered: 151 lie outside the static range.
    expect(subnetFigures(world.fleet, subnet(world).id).free).toMatchObject({
      value: 2,
      lines: expect.arrayContaining([
        expect.objectContaining({ label: 'Outside the static ranges', value: 151 }),
      ]) as object,
    });
  });
  it('of an IPv6 /64 at random, without listing it', () => {
    const runs = runsOf({ prefix: prefixOf('2001:db8::/64'), gateway: null, held: [], ranges: [] });
    expect(runs.map((run) => run.kind)).toEqual(['anycast', 'free']);
    const world = smallWorld();
    world.make({
      type: 'network.record',
      input: { name: 'six', subnet: { prefix: '2001:db8::/64', policy: 'random' } },
    });
    const six = [...world.fleet.all('subnet')].find((row) => row.prefix === '2001:db8::/64')!;
    const [ip] = nextFree(world.fleet, six.id, { randomByte: () => 0x5a });
    expect(ip).toBe(
      formatAddress({
        family: 6,
        value: prefixOf('2001:db8::/64').first + 1n + 0x5a5a5a5a5a5a5a5an,
      }),
    );
  });
});

describe('released addresses', () => {
  it('rest as long as their subnet says, then they are free again', () => {
    const world = smallWorld();
    world.make({ type: 'subnet.edit', input: { id: subnet(world).id, quarantineDays: 14 } });
    world.make(world.plan('tide', 'gannet', 512));
    const [row] = world.fleet
      .referring('address', 'subnetId', subnet(world).id)
      .filter((address) => address.adapterId);
    expect(row!.ip).toBe('192.0.2.2');
    world.make({ type: 'address.release', input: { id: row!.id } });
    expect([...world.fleet.all('quarantine')]).toMatchObject([
      { ip: '192.0.2.2', until: '2026-12-04', was: 'tide' },
    ]);
    expect(next(world)).toEqual(['192.0.2.3']);
    expect(world.try(world.plan('ebb', 'gannet', 512, { ip: '192.0.2.2' }))).toMatchObject({
      code: 'resting',
      overridable: true,
    });
    world.now = '2026-12-04T08:00:00.000Z';
    expect(next(world)).toEqual(['192.0.2.2']);
  });
  it('are free at once where nothing is said, and when their rest is ended', () => {
    const world = smallWorld();
    world.make(world.plan('tide', 'gannet', 512));
    const [row] = world.fleet
      .referring('address', 'subnetId', subnet(world).id)
      .filter((address) => address.adapterId);
    world.make({ type: 'address.release', input: { id: row!.id, restDays: 3 } });
    expect(next(world)).toEqual(['192.0.2.3']);
    world.make({
      type: 'address.end-rest',
      input: { id: [...world.fleet.all('quarantine')][0]!.id },
    });
    expect(next(world)).toEqual(['192.0.2.2']);
  });
});

describe('a subnet cut and joined', () => {
  function split(): World {
    const world = smallWorld();
    world.make(world.found('a', 'gannet', 256, '192.0.2.10'));
    world.make(world.found('b', 'gannet', 256, '192.0.2.210'));
    return world;
  }
  it('takes its addresses and ranges along', () => {
    const world = split();
    world.make({ type: 'range.remove', input: { id: [...world.fleet.all('range')][0]!.id } });
    world.make({
      type: 'range.record',
      input: {
        subnetId: subnet(world).id,
        use: 'dynamic',
        firstIp: '192.0.2.200',
        lastIp: '192.0.2.205',
      },
    });
    world.make({ type: 'subnet.split', input: { id: subnet(world).id, length: 26 } });
    const parts = [...world.fleet.all('subnet')];
    expect(
      parts.map((part) => [
        part.prefix,
        part.gateway,
        world.fleet.referringCount('address', 'subnetId', part.id),
        world.fleet.referringCount('range', 'subnetId', part.id),
      ]),
    ).toEqual([
      ['192.0.2.0/26', '192.0.2.1', 2, 0],
      ['192.0.2.64/26', null, 0, 0],
      ['192.0.2.128/26', null, 0, 0],
      ['192.0.2.192/26', null, 1, 1],
    ]);
    world.make({ type: 'subnet.join', input: { id: parts[0]!.id, otherId: parts[1]!.id } });
    world.make({ type: 'subnet.join', input: { id: parts[3]!.id, otherId: parts[2]!.id } });
    expect(
      [...world.fleet.all('subnet')].map((part) => [
        part.prefix,
        world.fleet.referringCount('address', 'subnetId', part.id),
      ]),
    ).toEqual([
      ['192.0.2.0/25', 2],
      ['192.0.2.128/25', 1],
    ]);
  });
  it('not through a range', () =>
    expect(
      split().try({ type: 'subnet.split', input: { id: subnet(split()).id, length: 26 } }),
    ).toMatchObject({ code: 'range-torn' }));
  it('joins only what makes one block', () => {
    const world = smallWorld();
    world.make({
      type: 'network.record',
      input: { name: 'far', subnet: { prefix: '192.0.4.0/24' } },
    });
    const [a, b] = [...world.fleet.all('subnet')];
    expect(world.try({ type: 'subnet.join', input: { id: a!.id, otherId: b!.id } })).toMatchObject({
      code: 'not-joinable',
      sentence: expect.stringContaining('1536 addresses of others') as string,
    });
  });
  it('a whole plan is recorded at once, or nothing of it', () => {
    const world = smallWorld();
    const networks = (second: string) =>
      ['10.8.0.0/26', second].map((prefix, i) => ({
        name: `net ${i}`,
        subnet: { prefix },
      }));
    expect(
      world.try({ type: 'network.record-many', input: { networks: networks('10.8.0.32/27') } }),
    ).toMatchObject({ code: 'subnet-overlaps' });
    world.make({ type: 'network.record-many', input: { networks: networks('10.8.0.64/27') } });
    expect(world.fleet.count('network')).toBe(3);
  });
});

describe('a pasted list', () => {
  const LIST = [
    '# annex',
    'name ip mac',
    'lamp 192.0.2.10 00-00-5E-00-53-01',
    'lamp; 192.0.2.10',
    '192.0.2.300 horn',
    'gannet,192.0.2.12',
    'bell 0000.5e00.5303 192.0.2.13 extra',
    'siren 00:00:5e:00:53:zz',
    '2001:db8::9',
  ].join('\n');
  it('is read in any order and notation', () => {
    expect(
      readList(LIST).map(({ line, name, ip, mac, unread }) => [line, name, ip, mac, unread.length]),
    ).toEqual([
      [3, 'lamp', '192.0.2.10', '00:00:5e:00:53:01', 0],
      [4, 'lamp', '192.0.2.10', null, 0],
      [5, 'horn', null, null, 1],
      [6, 'gannet', '192.0.2.12', null, 0],
      [7, 'bell', '192.0.2.13', '00:00:5e:00:53:03', 1],
      [8, 'siren', null, null, 1],
      [9, '', '2001:db8::9', null, 0],
    ]);
  });
  it('is taken whole: nothing is refused, every fault is one finding', () => {
    const world = smallWorld();
    const before = new Set(allFindings(world.fleet, world.now).map((finding) => finding.id));
    world.make({ type: 'list.take', input: { text: LIST } });
    const found = allFindings(world.fleet, world.now)
      .filter((finding) => !before.has(finding.id))
      .map((finding) => finding.rule);
    expect(found.filter((rule) => rule === 'list-unread')).toHaveLength(3);
    // lamp stands there twice, with one address.
    expect(found.filter((rule) => rule === 'duplicate-address')).toHaveLength(1);
    expect(found.filter((rule) => rule === 'device-twice')).toHaveLength(1);
    expect(
      world.fleet
        .referring('address', 'hostId', world.id('host', 'gannet'))
        .map((row) => [row.ip, row.assigned]),
    ).toEqual([['192.0.2.12', false]]);
  });
  it('what has no name is called by its address, else by its MAC', () => {
    const world = smallWorld();
    const before = new Set([...world.fleet.all('device')].map(({ id }) => id));
    const text = '192.0.2.40\n00:00:5e:00:53:44\nbuoy 192.0.2.41';
    world.make({ type: 'list.take', input: { text } });
    const names = [...world.fleet.all('device')].filter(({ id }) => !before.has(id));
    expect(names.map(({ name }) => name).sort()).toEqual([
      '00:00:5e:00:53:44',
      '192.0.2.40',
      'buoy',
    ]);
  });
  it('taken again alters nothing that is known', () => {
    const world = smallWorld();
    world.make({ type: 'list.take', input: { text: 'gannet 192.0.2.12' } });
    expect(world.try({ type: 'list.take', input: { text: 'gannet 192.0.2.12' } })).toMatchObject({
      code: 'nothing-changed',
    });
  });
  it('hundreds of faulty lines go in as they are', () => {
    const world = smallWorld();
    const lines = Array.from(
      { length: 400 },
      (_, i) => `m${i} 192.0.2.${(i * 7) % 400} ${i % 3 === 0 ? '00:00:5e:00:53:xx' : ''}`,
    );
    world.make({ type: 'list.take', input: { text: lines.join('\n') } });
    expect(world.fleet.count('device')).toBe(401);
    const unread = allFindings(world.fleet, world.now).filter(
      (finding) => finding.rule === 'list-unread',
    ).length;
    expect(unread).toBe(
      lines.filter((line) => Number(/2\.(\d+) /.exec(line)![1]) > 255).length + 134,
    );
  });
});

it('addresses are found by any part', () => {
  const world = smallWorld();
  world.make(world.found('a', 'gannet', 256, '192.0.2.77'));
  expect(
    [
      addressesLike(world.fleet, '2.7', 5),
      addressesLike(world.fleet, '192.0.2.77', 5),
      addressesLike(world.fleet, '192.0.2.7', 5),
    ].map((rows) => rows.map((row) => row.ip)),
  ).toEqual([['192.0.2.77'], ['192.0.2.77'], []]);
});

describe('switches', () => {
  it('the hosts of a site get what one of them has, and keep their own', () => {
    const world = smallWorld();
    world.make({
      type: 'network.record',
      input: { name: 'hill', vlanId: 9, subnet: { prefix: '10.9.0.0/24' } },
    });
    world.make({
      type: 'host.carry',
      input: {
        hostId: world.id('host', 'gannet'),
        networkId: world.id('network', 'hill'),
        mode: 'bridged',
      },
    });
    world.make({
      type: 'host.add-inside',
      input: {
        hostId: world.id('host', 'gannet'),
        name: 'lab',
        mode: 'NAT',
        prefix: '192.168.9.0/24',
      },
    });
    world.make({
      type: 'host.switches-alike',
      input: {
        likeId: world.id('host', 'gannet'),
        hostIds: [world.id('host', 'gannet'), world.id('host', 'tern')],
      },
    });
    expect(
      world.fleet
        .referring('virtualSwitch', 'hostId', world.id('host', 'tern'))
        .map((found) => found.name),
    ).toEqual(['shore', 'hill']);
    expect(
      world.try({
        type: 'host.switches-alike',
        input: { likeId: world.id('host', 'gannet'), hostIds: [world.id('host', 'tern')] },
      }),
    ).toMatchObject({ code: 'nothing-changed' });
  });
  it('a network is carried once', () =>
    expect(
      smallWorld().try({
        type: 'host.carry',
        input: {
          hostId: smallWorld().id('host', 'tern'),
          networkId: smallWorld().id('network', 'shore'),
          mode: 'NAT',
        },
      }),
    ).toMatchObject({ code: 'carried-already' }));
  it('ports are replaced as a list, and known by name', () => {
    const world = smallWorld();
    world.make({ type: 'physical-switch.record', input: { name: 'core' } });
    const id = world.id('physicalSwitch', 'core');
    world.make({
      type: 'physical-switch.set-ports',
      input: {
        id,
        ports: [
          { name: '1', taggedVlans: '12, 10-11' },
          { name: '2', untaggedVlan: 5 },
        ],
      },
    });
    const kept = world.fleet
      .referring('switchPort', 'physicalSwitchId', id)
      .find((port) => port.name === '1')!.id;
    world.make({
      type: 'physical-switch.set-ports',
      input: { id, ports: [{ name: '1', taggedVlans: '10-12', up: false }] },
    });
    expect(world.fleet.referring('switchPort', 'physicalSwitchId', id)).toMatchObject([
      { id: kept, taggedVlans: '10-12', up: false },
    ]);
    expect(
      world.try({
        type: 'physical-switch.set-ports',
        input: { id, ports: [{ name: '1', taggedVlans: '4095' }] },
      }),
    ).toMatchObject({ code: 'bad-vlans', field: 'ports.0.taggedVlans' });
    world.make({ type: 'physical-switch.remove', input: { id } });
    expect(world.fleet.count('switchPort')).toBe(0);
  });
});

describe('a range', () => {
  it.each([
    ['198.51.100.5', '192.0.2.60', 'range-outside', 'firstIp'],
    ['192.0.2.50', '198.51.100.5', 'range-outside', 'lastIp'],
    ['192.0.2.60', '192.0.2.50', 'range-backwards', 'lastIp'],
  ])('from %s to %s is refused: %s at %s', (firstIp, lastIp, code, field) => {
    const world = smallWorld();
    const [subnet] = world.fleet.all('subnet');
    expect(
      world.try({
        type: 'range.record',
        input: { subnetId: subnet!.id, use: 'reserved', firstIp, lastIp },
      }),
    ).toMatchObject({ code, field });
  });
});

describe('where nobody has recorded a gateway', () => {
  const link = (prefix: string, gateway: string | null = null) => {
    const world = smallWorld();
    world.make({ type: 'network.record', input: { name: 'link', subnet: { prefix, gateway } } });
    const [subnet] = world.fleet.referring('subnet', 'networkId', world.id('network', 'link'));
    return { world, id: subnet!.id };
  };
  it('its usual places, first and last, are offered last', () => {
    const { world, id } = link('198.51.100.0/29');
    expect(nextFree(world.fleet, id, { n: 6 })).toEqual(
      [2, 3, 4, 5, 1, 6].map((n) => `198.51.100.${n}`),
    );
  });
  it('a run goes round them while it can', () => {
    const { world, id } = link('198.51.100.0/29');
    const run = (n: number) => nextFree(world.fleet, id, { n, taking: 'run' });
    expect(run(4)[0]).toBe('198.51.100.2');
    expect(run(5)[0]).toBe('198.51.100.1');
  });
  it('they are addresses like any other once a gateway is, and in subnets of two, and of IPv6', () => {
    const first = (prefix: string, gateway: string | null = null) => {
      const { world, id } = link(prefix, gateway);
      return nextFree(world.fleet, id)[0];
    };
    expect(first('198.51.100.0/29', '198.51.100.6')).toBe('198.51.100.1');
    expect(first('198.51.100.0/31')).toBe('198.51.100.0');
    expect(first('2001:db8:9::/64')).toBe('2001:db8:9::1');
  });
});

it('what was found before its subnet was recorded belongs to it from then on, and nothing else does', () => {
  const world = smallWorld();
  const hostId = world.id('host', 'gannet');
  for (const ip of ['198.51.100.5', '192.0.2.7'])
    world.make({ type: 'address.set', input: { hostId, ip, assigned: false } });
  const subnetOf = (ip: string) => {
    const found = [...world.fleet.all('address')].find((one) => one.ip === ip)!;
    const { prefix } = world.fleet.get('subnet', found.subnetId) ?? { prefix: null };
    return prefix;
  };
  expect([subnetOf('198.51.100.5'), subnetOf('192.0.2.7')]).toEqual([null, '192.0.2.0/24']);
  const record = (name: string, prefix: string) =>
    world.make({ type: 'network.record', input: { name, subnet: { prefix } } });
  record('far', '203.0.113.0/24');
  expect(subnetOf('198.51.100.5')).toBeNull();
  record('near', '198.51.100.0/24');
  expect([subnetOf('198.51.100.5'), subnetOf('192.0.2.7')]).toEqual([
    '198.51.100.0/24',
    '192.0.2.0/24',
  ]);
});
