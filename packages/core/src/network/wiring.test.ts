/** What is plugged in where: switches, ports, lines, devices; what the record never holds. */
import { beforeEach, describe, expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';

let world: World;
let switchId: string;
beforeEach(() => {
  world = smallWorld();
  world.make({ type: 'physical-switch.record', input: { name: 'rack switch' } });
  switchId = world.id('physicalSwitch', 'rack switch');
  world.make({
    type: 'physical-switch.set-ports',
    input: {
      id: switchId,
      ports: [
        { name: '1', taggedVlans: '12, 10-11' },
        { name: '2', untaggedVlan: 20 },
        { name: '3' },
      ],
    },
  });
});
const ports = () =>
  world.fleet
    .referring('switchPort', 'physicalSwitchId', switchId)
    .sort((a, b) => a.name.localeCompare(b.name));
const port = (name: string) => ports().find((found) => found.name === name)!;
const gate = () => world.id('device', 'gate');
const devicePorts = () => world.fleet.referring('devicePort', 'deviceId', gate());

describe('ports of a switch', () => {
  it('say their VLANs in one way, and are known by name', () => {
    expect(ports().map((found) => [found.name, found.taggedVlans, found.untaggedVlan])).toEqual([
      ['1', '10-12', null],
      ['2', '', 20],
      ['3', '', null],
    ]);
    const { id } = port('1');
    world.make({
      type: 'physical-switch.set-ports',
      input: { id: switchId, ports: [{ name: '1', taggedVlans: '30' }, { name: '4' }] },
    });
    expect(ports().map((found) => [found.name, found.taggedVlans])).toEqual([
      ['1', '30'],
      ['4', ''],
    ]);
    expect(port('1').id).toBe(id);
  });
  it.each([
    ['4095', 'ports.0.taggedVlans'],
    ['0', 'ports.0.taggedVlans'],
    ['twelve', 'ports.0.taggedVlans'],
    ['20-10', 'ports.0.taggedVlans'],
  ])('VLANs "%s" cannot be (IEEE Std 802.1Q: 1 to 4094)', (taggedVlans, field) =>
    expect(
      world.try({
        type: 'physical-switch.set-ports',
        input: { id: switchId, ports: [{ name: '1', taggedVlans }] },
      }),
    ).toMatchObject({ code: 'bad-vlans', field }),
  );
  it('two of one name are refused at the second', () =>
    expect(
      world.try({
        type: 'physical-switch.set-ports',
        input: { id: switchId, ports: [{ name: '1' }, { name: ' 1' }] },
      }),
    ).toMatchObject({ code: 'twice', field: 'ports.1.name' }));
  it('are edited alike: a VLAN is added to what each carries', () => {
    const decision = world.make({
      type: 'switch-port.edit',
      input: { ids: [port('1').id, port('2').id], addVlans: [13, 40] },
    });
    expect(ports().map((found) => found.taggedVlans)).toEqual(['10-13,40', '13,40', '']);
    expect(decision.title).toBe('edited port 1 of rack switch, port 2 of rack switch');
    expect(world.try({ type: 'switch-port.edit', input: { ids: ['nothing'] } })).toMatchObject({
      code: 'not-found',
    });
  });
});

describe('cables', () => {
  it('one port takes one, whatever is at its other end', () => {
    world.make({
      type: 'device.set-ports',
      input: { id: gate(), ports: [{ name: 'inner', switchPortId: port('2').id }] },
    });
    expect(
      world.try({
        type: 'device.set-ports',
        input: {
          id: gate(),
          ports: [
            { name: 'inner', switchPortId: port('2').id },
            { name: 'outer', switchPortId: port('2').id },
          ],
        },
      }),
    ).toMatchObject({ code: 'port-taken' });
    expect(
      world.try({
        type: 'line.record',
        input: { name: 'tie', aPortId: port('2').id, bPortId: port('3').id },
      }),
    ).toMatchObject({
      code: 'port-taken',
      field: 'aPortId',
      sentence: 'Port 2 of rack switch has a cable already.',
    });
    expect(
      world.try({
        type: 'line.record',
        input: { name: 'tie', aPortId: port('3').id, bPortId: port('3').id },
      }),
    ).toMatchObject({ code: 'line-to-itself' });
  });
  it('a switch that something is plugged into is not removed', () => {
    world.make({
      type: 'device.set-ports',
      input: { id: gate(), ports: [{ name: 'inner', switchPortId: port('2').id }] },
    });
    expect(world.try({ type: 'physical-switch.remove', input: { id: switchId } })).toHaveProperty(
      'code',
    );
    world.make({
      type: 'device.set-ports',
      input: { id: gate(), ports: [{ name: 'inner', switchPortId: null }] },
    });
    world.make({ type: 'physical-switch.remove', input: { id: switchId } });
    expect([...world.fleet.all('switchPort')]).toEqual([]);
  });
});

describe('devices', () => {
  const shore = () => world.id('network', 'shore');
  it('keep an address that stays, drop one that went, take one that is new', () => {
    const held = world.fleet.referring('address', 'devicePortId', devicePorts()[0]!.id)[0]!;
    world.make({
      type: 'device.set-ports',
      input: {
        id: gate(),
        ports: [
          {
            name: 'inner',
            networkId: shore(),
            addresses: [{ ip: '192.0.2.1', prefixLength: 25 }, { ip: '192.0.2.126' }],
          },
        ],
      },
    });
    const now = world.fleet
      .referring('address', 'devicePortId', devicePorts()[0]!.id)
      .sort((a, b) => (a.id < b.id ? -1 : 1));
    expect(now.map((row) => [row.ip, row.prefixLength])).toEqual([
      ['192.0.2.1', 25],
      ['192.0.2.126', null],
    ]);
    expect(now[0]!.id).toBe(held.id);
    world.make({ type: 'device.set-ports', input: { id: gate(), ports: [{ name: 'outer' }] } });
    expect([...world.fleet.all('address')]).toEqual([]);
  });
  it('an address that cannot be read is refused at its field', () =>
    expect(
      world.try({
        type: 'device.record',
        input: {
          name: 'printer',
          kind: 'printer',
          ports: [{ name: 'net', networkId: shore(), addresses: [{ ip: '192.0.2.300' }] }],
        },
      }),
    ).toMatchObject({
      code: 'bad-address',
      field: 'ports.0.addresses.0.ip',
      sentence: '192.0.2.300: each part is 0 to 255.',
    }));
  it('go with their ports, addresses and routes', () => {
    world.make({
      type: 'route.record',
      input: { deviceId: gate(), destination: '198.51.100.0/24', via: '192.0.2.9', purpose: '' },
    });
    world.make({ type: 'device.remove', input: { id: gate() } });
    for (const kind of ['device', 'devicePort', 'address', 'route'] as const)
      expect([...world.fleet.all(kind)]).toEqual([]);
  });
  it('may be double in name where both were found', () => {
    world.make({ type: 'device.record', input: { name: 'gate', kind: 'router', ports: [] } });
    expect([...world.fleet.all('device')].map((device) => device.name)).toEqual(['gate', 'gate']);
  });
});

describe('networks inside a host', () => {
  const inside = (
    mode: 'NAT' | 'routed' | 'host and guests' | 'guests only',
    prefix = '192.168.9.0/24',
    more: { hostId?: string; name?: string } = {},
  ) => ({
    type: 'host.add-inside' as const,
    input: { hostId: world.id('host', 'gannet'), name: `in ${mode}`, mode, prefix, ...more },
  });
  it.each([
    ['NAT', '192.168.9.1', ['192.168.9.1']],
    ['routed', '192.168.9.1', ['192.168.9.1']],
    ['host and guests', null, ['192.168.9.1']],
    ['guests only', null, []],
  ] as const)('%s: gateway %s, the host holds %o', (mode, gateway, held) => {
    world.make(inside(mode));
    const subnet = [...world.fleet.all('subnet')].find(
      (found) => found.prefix === '192.168.9.0/24',
    )!;
    expect(subnet.gateway).toBe(gateway);
    expect(world.fleet.referring('address', 'subnetId', subnet.id).map((row) => row.ip)).toEqual(
      held,
    );
    // A block of its own: the same one may be used in the next host.
    expect(
      world.try(inside(mode, undefined, { hostId: world.id('host', 'tern'), name: 'another' })),
    ).not.toHaveProperty('code');
  });
  it('where the platform keeps its translated guests apart, the host itself has no address there', () => {
    const platform = world.fleet.need('host', world.id('host', 'gannet')).platformId;
    world.make({ type: 'platform.edit', input: { id: platform, natShared: false } });
    world.make(inside('NAT'));
    const subnet = [...world.fleet.all('subnet')].find(
      (found) => found.prefix === '192.168.9.0/24',
    )!;
    expect(world.fleet.referring('address', 'subnetId', subnet.id)).toEqual([]);
  });
  it('a block that cannot be, and a name that is taken, are refused at their fields', () => {
    expect(world.try(inside('NAT', '192.168.9.1/24'))).toMatchObject({
      code: 'bad-prefix',
      field: 'prefix',
      remedy: 'Write 192.168.9.0/24.',
    });
    expect(world.try(inside('NAT', undefined, { name: 'Shore' }))).toMatchObject({
      code: 'name-taken',
      field: 'name',
    });
  });
});

describe('ways out of a virtual switch', () => {
  it('are ports of the same host, replaced as a set; the host must be verified anew', () => {
    world.make({
      type: 'host.set-hardware',
      input: {
        hostId: world.id('host', 'gannet'),
        hardware: { ports: [{ name: 'p1' }, { name: 'p2' }] },
      },
    } as never);
    world.make({
      type: 'host.set-hardware',
      input: { hostId: world.id('host', 'tern'), hardware: { ports: [{ name: 'p1' }] } },
    } as never);
    const portsOf = (host: string) =>
      world.fleet
        .referring('port', 'hostId', world.id('host', host))
        .sort((a, b) => a.name.localeCompare(b.name));
    const [found] = world.fleet.referring('virtualSwitch', 'hostId', world.id('host', 'gannet'));
    world.now = '2026-11-21T08:00:00.000Z';
    expect(
      world.make({
        type: 'switch.set-uplinks',
        input: { switchId: found!.id, portIds: portsOf('gannet').map((one) => one.id) },
      }).title,
    ).toBe('shore of gannet goes out by p1 + p2');
    expect(world.fleet.need('host', world.id('host', 'gannet')).networkChangedAt).toBe(world.now);
    world.make({
      type: 'switch.set-uplinks',
      input: { switchId: found!.id, portIds: [portsOf('gannet')[1]!.id] },
    });
    expect(
      world.fleet
        .referring('uplink', 'switchId', found!.id)
        .map((uplink) => world.fleet.need('port', uplink.portId).name),
    ).toEqual(['p2']);
    expect(
      world.try({
        type: 'switch.set-uplinks',
        input: { switchId: found!.id, portIds: [portsOf('tern')[0]!.id] },
      }),
    ).toMatchObject({ code: 'port-of-another-host' });
    world.make({ type: 'host.drop-switch', input: { id: found!.id } });
    expect([...world.fleet.all('uplink')]).toEqual([]);
  });
});
