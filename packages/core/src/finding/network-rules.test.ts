import { describe, expect, it, test } from 'vitest';
import type { Change } from '../change/index.js';
import { smallWorld, type World } from '../change/testing.js';
import type { Values } from '../record/index.js';
import { allFindings, allFindingsAt, placesOf, findingsOn } from './index.js';

const rules = (world: World): string[] =>
  allFindings(world.fleet, world.now).map((finding) => finding.rule);
const told = (world: World, rule: string) =>
  allFindings(world.fleet, world.now).find((finding) => finding.rule === rule);
const subnet = (world: World) => [...world.fleet.all('subnet')][0]!;
const editSubnet = (world: World, fields: Values) =>
  world.make({ type: 'subnet.edit', input: { id: subnet(world).id, ...fields } });
const guest = (world: World, name = 'tide', ip = '192.0.2.10', host = 'gannet') =>
  world.make(world.found(name, host, 256, ip));
const adapterOf = (world: World, name = 'tide') =>
  world.fleet.referring('adapter', 'guestId', world.id('guest', name))[0]!;
const addressOf = (world: World, name = 'tide') =>
  world.fleet.referring('address', 'adapterId', adapterOf(world, name).id)[0]!;
const editGuest = (world: World, fields: Values) =>
  world.make({ type: 'guest.edit', input: { id: world.id('guest', 'tide'), ...fields } });
const hill = (world: World, more: Values = {}) =>
  world.make({
    type: 'network.record',
    input: { name: 'hill', vlanId: 14, ...more, subnet: { prefix: '198.51.100.0/24' } },
  });
const switches = (
  world: World,
  name: string,
  ports: { name: string; taggedVlans?: string; untaggedVlan?: number }[],
  mtu = 1500,
) => {
  world.make({ type: 'physical-switch.record', input: { name, mtu } });
  world.make({
    type: 'physical-switch.set-ports',
    input: { id: world.id('physicalSwitch', name), ports },
  });
};
const portId = (world: World, name: string, n: string) =>
  world.fleet
    .referring('switchPort', 'physicalSwitchId', world.id('physicalSwitch', name))
    .find((port) => port.name === n)!.id;
const plug = (
  world: World,
  host: string,
  ports: [string, string, string][],
  network: string,
  wired = true,
) => {
  const hostId = world.id('host', host);
  world.make({
    type: 'host.set-hardware',
    input: { hostId, hardware: { ports: ports.map(([name]) => ({ name, wired })) } },
  });
  const mine = world.fleet.referring('port', 'hostId', hostId);
  for (const [name, to, n] of ports)
    if (to)
      world.make({
        type: 'port.edit',
        input: {
          id: mine.find((port) => port.name === name)!.id,
          switchPortId: portId(world, to, n),
        },
      });
  const found = world.fleet
    .referring('virtualSwitch', 'hostId', hostId)
    .find((one) => one.name === network)!;
  world.make({
    type: 'switch.set-uplinks',
    input: { switchId: found.id, portIds: mine.map((port) => port.id) },
  });
};
/** A network inside gannet, which translates for its guests. */
const inside = (world: World) =>
  world.make({
    type: 'host.add-inside',
    input: {
      hostId: world.id('host', 'gannet'),
      name: 'lab',
      mode: 'NAT',
      prefix: '192.168.60.0/24',
    },
  });
const editInside = (world: World, gateway: string) =>
  world.make({
    type: 'subnet.edit',
    input: {
      id: [...world.fleet.all('subnet')].find(({ prefix }) => prefix === '192.168.60.0/24')!.id,
      gateway,
    },
  });
const carry = (world: World, host: string, network: string) =>
  world.make({
    type: 'host.carry',
    input: {
      hostId: world.id('host', host),
      networkId: world.id('network', network),
      mode: 'bridged',
    },
  });
const zone = (lines: [string, 'A' | 'PTR' | 'CNAME', string][]): string =>
  lines
    .map(([owner, type, data]) => `${owner}. IN ${type} ${data}${type === 'A' ? '' : '.'}`)
    .join('\n');
const names = (world: World, ...lines: [string, 'A' | 'PTR' | 'CNAME', string][]) =>
  world.make({
    type: 'names.take',
    input: { source: 'zone', text: zone(lines) },
  });
const mended = (world: World, rule: string): void => {
  const { mend } = told(world, rule)!;
  if (mend?.kind !== 'change') throw new Error(`${rule} offers no change`);
  world.make(mend.change as Change);
};

/** Each case: what is wrong, the rule that says so, and what mends it; "offered" is the change of the finding's own button. */
const CASES: [string, (world: World) => void, ((world: World) => void) | 'offered'][] = [
  [
    'prefix-differs',
    (world) => {
      guest(world);
      world.make({ type: 'address.edit', input: { id: addressOf(world).id, prefixLength: 16 } });
    },
    'offered',
  ],
  [
    'address-on-wrong-network',
    (world) => {
      guest(world);
      hill(world);
      world.make({
        type: 'adapter.edit',
        input: { id: adapterOf(world).id, networkId: world.id('network', 'hill') },
      });
    },
    'offered',
  ],
  [
    'address-on-wrong-network',
    (world) => {
      guest(world, 'tide', '198.51.100.9');
      hill(world);
      world.make({
        type: 'adapter.add',
        input: {
          guestId: world.id('guest', 'tide'),
          networkId: world.id('network', 'hill'),
          address: { as: 'given', ip: '192.0.2.9' },
        },
      });
    },
    'offered',
  ],
  [
    'machine-gateway',
    (world) => {
      guest(world);
      editGuest(world, { gateway: '192.0.3.1' });
    },
    'offered',
  ],
  [
    'machine-gateway',
    (world) => {
      guest(world);
      editGuest(world, { gateway: '192.0.3.1' });
    },
    (world) => editGuest(world, { gatewayOnLink: true, gateway: '192.0.2.1' }),
  ],
  [
    'gateway-nobody',
    (world) => editSubnet(world, { gateway: '192.0.2.254' }),
    (world) => editSubnet(world, { gateway: '192.0.2.1' }),
  ],
  [
    'gateway-nobody',
    (world) => {
      guest(world);
      guest(world, 'ebb', '192.0.2.11');
      editSubnet(world, { gateway: null });
    },
    (world) => editSubnet(world, { gateway: '192.0.2.1' }),
  ],
  [
    'nat-gateway',
    (world) => {
      inside(world);
      editInside(world, '192.168.60.254');
    },
    (world) => editInside(world, '192.168.60.1'),
  ],
  [
    'name-server',
    (world) => editSubnet(world, { nameServers: ['192.0.2.53'] }),
    (world) => {
      guest(world, 'names', '192.0.2.53', 'tern');
      editSubnet(world, { nameServers: ['192.0.2.53', '203.0.113.53'] });
    },
  ],
  [
    'name-server',
    (world) => {
      guest(world);
      editSubnet(world, { nameServers: [] });
    },
    (world) => editSubnet(world, { nameServers: ['203.0.113.53'] }),
  ],
  [
    'mtu-differs',
    (world) => {
      hill(world, { mtu: 9000 });
      switches(world, 'core', [{ name: '1', taggedVlans: '14' }]);
    },
    (world) =>
      world.make({
        type: 'physical-switch.edit',
        input: { id: world.id('physicalSwitch', 'core'), mtu: 9216 },
      }),
  ],
  [
    'vlan-missing-on-port',
    (world) => {
      hill(world);
      carry(world, 'gannet', 'hill');
      switches(world, 'core', [{ name: '1', taggedVlans: '12' }]);
      plug(world, 'gannet', [['p1', 'core', '1']], 'hill');
    },
    'offered',
  ],
  [
    'vlan-missing-on-port',
    (world) => {
      switches(world, 'core', [{ name: '1', taggedVlans: '12' }]);
      plug(world, 'gannet', [['p1', 'core', '1']], 'shore');
    },
    (world) =>
      world.make({
        type: 'switch-port.edit',
        input: { ids: [portId(world, 'core', '1')], untaggedVlan: 12 },
      }),
  ],
  [
    'wireless-bridge',
    (world) => plug(world, 'gannet', [['w0', '', '']], 'shore', false),
    (world) =>
      world.make({
        type: 'switch.edit',
        input: {
          id: world.fleet.referring('virtualSwitch', 'hostId', world.id('host', 'gannet'))[0]!.id,
          mode: 'NAT',
        },
      }),
  ],
  [
    'port-leads-nowhere',
    (world) =>
      world.make({
        type: 'forwarded-port.record',
        input: {
          ...{ hostId: world.id('host', 'gannet'), port: 8443, toPort: 443 },
          toIp: '198.51.100.77',
        },
      }),
    (world) =>
      world.make({
        type: 'forwarded-port.remove',
        input: { id: [...world.fleet.all('forwardedPort')][0]!.id },
      }),
  ],
  [
    'uplinks-loop',
    (world) => {
      for (const name of ['left', 'right'])
        switches(world, name, [
          { name: '1', untaggedVlan: 1 },
          { name: '8', untaggedVlan: 1 },
        ]);
      world.make({
        type: 'line.record',
        input: {
          name: 'tie',
          aPortId: portId(world, 'left', '8'),
          bPortId: portId(world, 'right', '8'),
        },
      });
      plug(
        world,
        'gannet',
        [
          ['p1', 'left', '1'],
          ['p2', 'right', '1'],
        ],
        'shore',
      );
    },
    (world) =>
      world.make({
        type: 'switch.edit',
        input: {
          id: world.fleet
            .referring('virtualSwitch', 'hostId', world.id('host', 'gannet'))
            .find((found) => found.networkId === world.id('network', 'shore'))!.id,
          bundle: 'failover',
        },
      }),
  ],
  [
    'uplinks-loop',
    (world) => {
      switches(world, 'core', [
        { name: '1', untaggedVlan: 1 },
        { name: '2', untaggedVlan: 1 },
      ]);
      plug(
        world,
        'gannet',
        [
          ['p1', 'core', '1'],
          ['p2', 'core', '2'],
        ],
        'shore',
      );
    },
    (world) =>
      world.make({
        type: 'switch-port.edit',
        input: { ids: [portId(world, 'core', '2')], up: false },
      }),
  ],
  [
    'single-switch',
    (world) => {
      switches(world, 'core', [
        { name: '1', untaggedVlan: 1 },
        { name: '2', untaggedVlan: 1 },
      ]);
      switches(world, 'other', [{ name: '1', untaggedVlan: 1 }]);
      plug(
        world,
        'gannet',
        [
          ['p1', 'core', '1'],
          ['p2', 'core', '2'],
        ],
        'shore',
      );
    },
    (world) =>
      world.make({
        type: 'port.edit',
        input: {
          id: world.fleet
            .referring('port', 'hostId', world.id('host', 'gannet'))
            .find((port) => port.name === 'p2')!.id,
          switchPortId: portId(world, 'other', '1'),
        },
      }),
  ],
  [
    'single-line',
    (world) => {
      for (const name of ['left', 'right'])
        switches(world, name, [
          { name: '1', untaggedVlan: 1 },
          { name: '8', untaggedVlan: 1 },
          { name: '9', untaggedVlan: 1 },
        ]);
      plug(world, 'gannet', [['p1', 'left', '1']], 'shore');
      plug(world, 'tern', [['p1', 'right', '1']], 'shore');
      world.make({
        type: 'line.record',
        input: {
          name: 'tie',
          aPortId: portId(world, 'left', '9'),
          bPortId: portId(world, 'right', '9'),
        },
      });
    },
    (world) =>
      world.make({
        type: 'line.record',
        input: {
          name: 'second',
          aPortId: portId(world, 'left', '8'),
          bPortId: portId(world, 'right', '8'),
        },
      }),
  ],
  [
    'network-missing-in-group',
    (world) => {
      world.make({ type: 'host-group.record', input: { name: 'pair' } });
      world.make({
        type: 'host.edit-many',
        input: {
          ids: [world.id('host', 'gannet'), world.id('host', 'tern')],
          groupId: [...world.fleet.all('hostGroup')][0]!.id,
        },
      });
      hill(world);
      carry(world, 'gannet', 'hill');
      guest(world);
      world.make({
        type: 'adapter.add',
        input: {
          guestId: world.id('guest', 'tide'),
          networkId: world.id('network', 'hill'),
          address: { as: 'none' },
        },
      });
    },
    'offered',
  ],
  [
    'management-shared',
    (world) => {
      guest(world);
      world.make({
        type: 'address.set',
        input: { hostId: world.id('host', 'gannet'), ip: '192.0.2.7', assigned: false },
      });
    },
    (world) => {
      hill(world);
      world.make({
        type: 'address.set',
        input: {
          hostId: world.id('host', 'gannet'),
          networkId: world.id('network', 'hill'),
          ip: '198.51.100.7',
          assigned: false,
          replaces: world.fleet.referring('address', 'hostId', world.id('host', 'gannet'))[0]!.id,
        },
      });
    },
  ],
  [
    'console-reachable',
    (world) => {
      guest(world);
      world.make({
        type: 'address.set',
        input: { hostId: world.id('host', 'tern'), ip: '192.0.2.7', assigned: false },
      });
      world.make({
        type: 'network.edit',
        input: { id: world.id('network', 'shore'), untrusted: true },
      });
    },
    (world) =>
      world.make({ type: 'adapter.edit', input: { id: adapterOf(world).id, connected: false } }),
  ],
  [
    'list-unread',
    (world) => world.make({ type: 'list.take', input: { text: 'lamp 192.0.2.300' } }),
    (world) =>
      world.make({ type: 'device.edit', input: { id: world.id('device', 'lamp'), unread: [] } }),
  ],
  [
    'device-twice',
    (world) =>
      world.make({
        type: 'list.take',
        input: { text: 'gannet-2 192.0.2.20\ngannet-2 192.0.2.21' },
      }),
    (world) =>
      world.make({
        type: 'device.edit',
        input: { id: world.id('device', 'gannet-2'), name: 'lamp' },
      }),
  ],
  [
    'device-twice',
    (world) =>
      world.make({
        type: 'list.take',
        input: { text: 'lamp 192.0.2.20 00:00:5e:00:53:01\nhorn 192.0.2.21 00:00:5e:00:53:01' },
      }),
    (world) => world.make({ type: 'device.remove', input: { id: world.id('device', 'lamp') } }),
  ],
  [
    'illegal-name',
    (world) => world.make({ type: 'list.take', input: { text: 'bad_host 192.0.2.20' } }),
    (world) =>
      world.make({
        type: 'device.edit',
        input: { id: world.id('device', 'bad_host'), name: 'good-host' },
      }),
  ],
  [
    'inside-domain',
    (world) => {
      guest(world);
      editGuest(world, { domain: 'local' });
    },
    (world) => editGuest(world, { domain: 'home.arpa' }),
  ],
  [
    'inside-domain',
    (world) => {
      guest(world);
      editGuest(world, { domain: 'lan' });
    },
    (world) => editGuest(world, { domain: 'station.internal' }),
  ],
  [
    'search-domain-differs',
    (world) => {
      editSubnet(world, { domain: 'shore.example' });
      guest(world);
      editGuest(world, { domain: 'hill.example' });
    },
    (world) => editGuest(world, { domain: '' }),
  ],
  [
    'name-missing',
    (world) => {
      editSubnet(world, { domain: 'shore.example' });
      guest(world);
      names(world, ['gate.shore.example', 'A', '192.0.2.1']);
    },
    (world) =>
      names(
        world,
        ['gate.shore.example', 'A', '192.0.2.1'],
        ['tide.shore.example', 'A', '192.0.2.10'],
      ),
  ],
  [
    'name-differs',
    (world) => {
      editSubnet(world, { domain: 'shore.example' });
      guest(world);
      names(world, ['tide.shore.example', 'A', '192.0.2.11']);
    },
    (world) => names(world, ['tide.shore.example', 'A', '192.0.2.10']),
  ],
  [
    'reverse-differs',
    (world) => {
      editSubnet(world, { domain: 'shore.example' });
      guest(world);
      names(
        world,
        ['tide.shore.example', 'A', '192.0.2.10'],
        ['10.2.0.192.in-addr.arpa', 'PTR', 'ebb.shore.example'],
      );
    },
    (world) =>
      names(
        world,
        ['tide.shore.example', 'A', '192.0.2.10'],
        ['10.2.0.192.in-addr.arpa', 'PTR', 'tide.shore.example'],
      ),
  ],
  [
    'reverse-missing',
    (world) => {
      editSubnet(world, { domain: 'shore.example' });
      guest(world);
      names(
        world,
        ['tide.shore.example', 'A', '192.0.2.10'],
        ['1.2.0.192.in-addr.arpa', 'PTR', 'gate.shore.example'],
      );
    },
    (world) =>
      names(
        world,
        ['tide.shore.example', 'A', '192.0.2.10'],
        ['1.2.0.192.in-addr.arpa', 'PTR', 'gate.shore.example'],
        ['10.2.0.192.in-addr.arpa', 'PTR', 'tide.shore.example'],
      ),
  ],
  [
    'two-names-for-one-address',
    (world) => {
      editSubnet(world, { domain: 'shore.example' });
      guest(world);
      names(
        world,
        ['tide.shore.example', 'A', '192.0.2.10'],
        ['10.2.0.192.in-addr.arpa', 'PTR', 'tide.shore.example'],
        ['10.2.0.192.in-addr.arpa', 'PTR', 'old.shore.example'],
      );
    },
    (world) =>
      names(
        world,
        ['tide.shore.example', 'A', '192.0.2.10'],
        ['10.2.0.192.in-addr.arpa', 'PTR', 'tide.shore.example'],
      ),
  ],
];

describe('a rule speaks when its fault is there, and is silent when it is mended', () => {
  test.each(CASES)('%s', (rule, wrong, mend) => {
    const world = smallWorld();
    expect(rules(world)).not.toContain(rule);
    wrong(world);
    const finding = told(world, rule)!;
    expect(finding).toBeDefined();
    expect(allFindingsAt(world.fleet, placesOf(finding.id), world.now)).toContainEqual(finding);
    for (const text of [finding.evidence, finding.consequence, finding.remedy])
      expect(text).toMatch(/^[\dA-Za-z].*[.]$/);
    expect(finding.source.text.length).toBeGreaterThan(5);
    if (mend === 'offered') mended(world, rule);
    else mend(world);
    expect(rules(world)).not.toContain(rule);
  });
});

it('a bare public domain is a note for machines with inside addresses only', () => {
  const world = smallWorld();
  world.make({
    type: 'network.record',
    input: { name: 'inner', subnet: { prefix: '10.1.0.0/24' } },
  });
  world.make({
    type: 'guest.record',
    input: {
      name: 'tide',
      hostId: world.id('host', 'gannet'),
      state: 'in service',
      family: 'Linux',
      vcpu: 1,
      memoryMiB: 256,
      volumes: [],
      adapters: [
        { networkId: world.id('network', 'inner'), address: { as: 'given', ip: '10.1.0.9' } },
      ],
    },
  });
  world.make({
    type: 'guest.edit',
    input: { id: world.id('guest', 'tide'), domain: 'harbour.org' },
  });
  expect(told(world, 'inside-domain')!.evidence).toBe(
    'tide.harbour.org has inside addresses only and stands right in the public domain harbour.org.',
  );
});

it('what is found of its parts stands on the sheet of a device, a guest, a switch', () => {
  const world = smallWorld();
  world.make({ type: 'list.take', input: { text: 'lamp 192.0.2.150' } });
  expect(
    findingsOn(world.fleet, 'device', world.id('device', 'lamp'), world.now).map(
      (finding) => finding.rule,
    ),
  ).toEqual(['static-in-dynamic']);
  guest(world);
  world.make({ type: 'address.edit', input: { id: addressOf(world).id, prefixLength: 16 } });
  expect(
    findingsOn(world.fleet, 'guest', world.id('guest', 'tide'), world.now).map(
      (finding) => finding.rule,
    ),
  ).toEqual(['prefix-differs']);
});
