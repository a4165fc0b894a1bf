/**
 * How the observatory is wired, routed and named, and what is wrong with it: a VLAN missing on a port, a packet size that
 * differs, two adapters changed over, a route nobody gave, strangers who reach a console, names that differ. All invented.
 */
import { addressesOf, forwardZone, type Change, type Fleet, type Input } from '@insel/core';

export interface Wirer {
  make: (change: Change) => Promise<void>;
  fleet: Fleet;
  id: (
    kind: 'site' | 'network' | 'host' | 'guest' | 'device' | 'physicalSwitch' | 'platform' | 'pool',
    name: string,
  ) => string;
}

const SOUND = 'sound-link';

interface PortLine {
  name: string;
  untaggedVlan?: number;
  taggedVlans?: string;
  purpose?: string;
}

const many = (from: number, to: number, fields: Omit<PortLine, 'name'>): PortLine[] =>
  Array.from({ length: to - from + 1 }, (_, i) => ({ name: String(from + i), ...fields }));

const SWITCHES: { name: string; site: string; mtu: number; ports: PortLine[] }[] = [
  {
    name: 'harbour switch 1',
    site: 'Harbour house',
    mtu: 9216,
    ports: [
      ...many(1, 12, { taggedVlans: '31,210,212' }),
      { name: '20', untaggedVlan: 210, purpose: 'harbour-gate, management' },
      { name: '21', untaggedVlan: 212, purpose: 'harbour-gate, guests' },
      { name: '22', untaggedVlan: 250, purpose: 'harbour-gate, between the houses' },
      { name: '23', taggedVlans: '250', purpose: 'sea cable' },
      { name: '24', taggedVlans: '31,210,212,250', purpose: 'to switch 2' },
    ],
  },
  {
    name: 'harbour switch 2',
    site: 'Harbour house',
    mtu: 1500,
    ports: [
      ...many(1, 3, { taggedVlans: '31,210,212' }),
      { name: '4', taggedVlans: '31,210' },
      ...many(5, 12, { taggedVlans: '31,210,212' }),
      { name: '24', taggedVlans: '31,210,212,250', purpose: 'to switch 1' },
    ],
  },
  {
    name: 'annex switch',
    site: 'Lighthouse annex',
    mtu: 1500,
    ports: [
      ...many(1, 10, { taggedVlans: '214,216,290' }),
      { name: '21', untaggedVlan: 214, purpose: 'annex-gate, guests' },
      { name: '22', untaggedVlan: 250, purpose: 'annex-gate, between the houses' },
      { name: '23', taggedVlans: '250', purpose: 'sea cable' },
      { name: '24', taggedVlans: '250', purpose: 'radio link' },
    ],
  },
  {
    name: 'office switch',
    site: 'Mainland office',
    mtu: 1500,
    ports: [
      ...many(1, 8, { taggedVlans: '232,240' }),
      { name: '18', untaggedVlan: 232, purpose: 'printer' },
      { name: '21', untaggedVlan: 232, purpose: 'office-gate, desks' },
      { name: '22', untaggedVlan: 250, purpose: 'office-gate, between the houses' },
      { name: '23', taggedVlans: '250', purpose: 'radio link' },
    ],
  },
];

const LINES: [string, [string, string], [string, string]][] = [
  ['rack tie', ['harbour switch 1', '24'], ['harbour switch 2', '24']],
  ['sea cable', ['harbour switch 1', '23'], ['annex switch', '23']],
  ['radio link', ['annex switch', '24'], ['office switch', '23']],
];

/** Host, its port, the switch and its port. */
const CABLES: [string, string, string, string][] = [
  ...['gannet', 'fulmar'].flatMap((host, i): [string, string, string, string][] => [
    [host, 'p1', 'harbour switch 1', String(i * 2 + 1)],
    [host, 'p2', 'harbour switch 1', String(i * 2 + 2)],
    [host, 'p3', 'harbour switch 2', String(i * 2 + 1)],
    [host, 'p4', 'harbour switch 2', String(i * 2 + 2)],
  ]),
  ['razorbill', 'p1', 'harbour switch 1', '5'],
  ['razorbill', 'p2', 'harbour switch 1', '6'],
  ['puffin', 'p1', 'harbour switch 2', '5'],
  ['puffin', 'p2', 'harbour switch 2', '6'],
  ...[1, 2, 3, 4].map((n): [string, string, string, string] => [
    'tern',
    `p${n}`,
    'annex switch',
    String(n),
  ]),
  ['eider', 'p1', 'annex switch', '5'],
  ['eider', 'p2', 'annex switch', '6'],
  ['plover', 'p1', 'annex switch', '7'],
  ...[1, 2, 3, 4].map((n): [string, string, string, string] => [
    'kestrel',
    `p${n}`,
    'office switch',
    String(n),
  ]),
];

interface Gate {
  name: string;
  site: string;
  gateway: string | null;
  ports: {
    name: string;
    network?: string;
    ip: string;
    length: number;
    plug?: [string, string];
    outside?: boolean;
    masquerade?: boolean;
  }[];
  routes: [string, string][];
}

const GATES: Gate[] = [
  {
    name: 'harbour-gate',
    site: 'Harbour house',
    gateway: '172.22.250.3',
    ports: [
      {
        name: 'management',
        network: 'harbour-mgmt',
        ip: '172.22.10.1',
        length: 24,
        plug: ['harbour switch 1', '20'],
      },
      {
        name: 'guests',
        network: 'harbour-guests',
        ip: '172.22.12.1',
        length: 23,
        plug: ['harbour switch 1', '21'],
      },
      {
        name: 'sound',
        network: SOUND,
        ip: '172.22.250.1',
        length: 29,
        plug: ['harbour switch 1', '22'],
      },
    ],
    routes: [
      ['172.22.14.0/24', '172.22.250.2'],
      ['172.22.90.0/28', '172.22.250.2'],
    ],
  },
  {
    name: 'annex-gate',
    site: 'Lighthouse annex',
    gateway: '172.22.250.3',
    ports: [
      {
        name: 'guests',
        network: 'annex-guests',
        ip: '172.22.14.1',
        length: 24,
        plug: ['annex switch', '21'],
      },
      {
        name: 'sound',
        network: SOUND,
        ip: '172.22.250.2',
        length: 29,
        plug: ['annex switch', '22'],
      },
    ],
    routes: [
      ['172.22.10.0/24', '172.22.250.1'],
      ['172.22.12.0/23', '172.22.250.1'],
      ['172.22.90.0/28', '172.22.14.140'],
    ],
  },
  {
    // It knows the way to the harbour; nobody gave it one to the annex.
    name: 'office-gate',
    site: 'Mainland office',
    gateway: '203.0.113.9',
    ports: [
      {
        name: 'desks',
        network: 'office',
        ip: '172.22.32.1',
        length: 23,
        plug: ['office switch', '21'],
      },
      {
        name: 'sound',
        network: SOUND,
        ip: '172.22.250.3',
        length: 29,
        plug: ['office switch', '22'],
      },
      { name: 'outer', ip: '203.0.113.10', length: 29, outside: true, masquerade: true },
    ],
    routes: [
      ['172.22.10.0/24', '172.22.250.1'],
      ['172.22.12.0/23', '172.22.250.1'],
    ],
  },
];

const LIST = `# walked through the annex with a clipboard
annex-ap 172.22.14.120 00-00-5E-00-53-A1
lamp-camera 172.22.14.121 00:00:5e:00:53:a2
horn-camera 172.22.14.300 00:00:5e:00:53:a3
tide_clock 172.22.14.122
desk-9, 172.22.14.37`;

/** The zone as names-1 serves it: what the record writes, but for a digit swapped, two names forgotten, and an alias of its own. */
function servedZone(fleet: Fleet): string {
  const head = {
    serial: 2_026_111_800,
    primary: 'names-1.nordholm.example',
    mailbox: 'hostmaster.nordholm.example',
    servers: ['names-1.nordholm.example', 'names-2.nordholm.example'],
    ttl: 3600,
  };
  const { text } = forwardZone(fleet, 'nordholm.example', head);
  const lines = text.split('\n').filter((line) => !/^(seal-count|office-printer) /.test(line));
  return [
    ...lines.map((line) => line.replace('172.22.12.32', '172.22.12.23')),
    'tides IN CNAME tide-api',
    '',
  ].join('\n');
}

export async function writeCabling({ make, fleet, id }: Wirer): Promise<void> {
  await make({
    type: 'network.record',
    input: {
      name: SOUND,
      purpose: 'between the houses',
      vlanId: 250,
      siteId: id('site', 'Harbour house'),
      alsoAt: [id('site', 'Lighthouse annex'), id('site', 'Mainland office')],
      subnet: { prefix: '172.22.250.0/29' },
    },
  });
  const subnetOf = (network: string) =>
    fleet.referring('subnet', 'networkId', id('network', network))[0]!;
  const edits: Record<string, Omit<Input<'subnet.edit'>, 'id'>> = {
    'harbour-guests': { domain: 'nordholm.example', quarantineDays: 14 },
    'harbour-mgmt': { domain: 'nordholm.example' },
    'annex-guests': { domain: 'nordholm.example', policy: 'after last' },
    office: { domain: 'nordholm.example', quarantineDays: 7 },
    pen: { gateway: '172.22.90.1' },
  };
  for (const [name, fields] of Object.entries(edits)) {
    await make({ type: 'subnet.edit', input: { id: subnetOf(name).id, ...fields } });
  }
  await make({ type: 'network.edit', input: { id: id('network', 'visitors'), untrusted: true } });
  await make({
    type: 'network.edit',
    input: { id: id('network', 'storage-a'), mtu: 9000 },
    reason: 'Large frames for the storage shelf',
  });
  await make({
    type: 'site.edit',
    input: { id: id('site', 'Harbour house'), macBlock: '02:4e:70' },
  });
  await writeSwitches({ make, fleet, id });
  await writeGates({ make, fleet, id });
  await writeModes({ make, fleet, id });
  await writeRouters({ make, fleet, id });
  await make({
    type: 'list.take',
    input: { text: LIST, networkId: id('network', 'annex-guests') },
    reason: 'Walked through the annex',
  });
  await make({
    type: 'names.take',
    input: {
      source: 'nordholm.example.zone',
      origin: 'nordholm.example',
      text: servedZone(fleet),
    },
    reason: 'As names-1 serves it today',
  });
  await writeAddresses({ make, fleet, id });
}

const portOf = (fleet: Fleet, switchId: string, name: string): string =>
  fleet.referring('switchPort', 'physicalSwitchId', switchId).find((port) => port.name === name)!
    .id;

async function writeSwitches({ make, fleet, id }: Wirer): Promise<void> {
  for (const { name, site, mtu, ports } of SWITCHES) {
    await make({
      type: 'physical-switch.record',
      input: { name, siteId: id('site', site), mtu, model: 'Invented switch, 24 ports' },
    });
    await make({
      type: 'physical-switch.set-ports',
      input: { id: id('physicalSwitch', name), ports },
    });
  }
  const end = ([name, port]: [string, string]) => portOf(fleet, id('physicalSwitch', name), port);
  for (const [name, a, b] of LINES)
    await make({ type: 'line.record', input: { name, aPortId: end(a), bPortId: end(b) } });
  for (const [host, port, ...to] of CABLES) {
    const mine = fleet
      .referring('port', 'hostId', id('host', host))
      .find((found) => found.name === port);
    if (mine) await make({ type: 'port.edit', input: { id: mine.id, switchPortId: end(to) } });
  }
}

async function writeGates({ make, fleet, id }: Wirer): Promise<void> {
  for (const { name, site, gateway, ports, routes } of GATES) {
    await make({
      type: 'device.record',
      input: {
        name,
        kind: 'router',
        siteId: id('site', site),
        model: 'Invented gate 4',
        forwards: true,
        ...(name === 'harbour-gate'
          ? { reversePath: 'loose' as const, hostModel: 'weak' as const }
          : {}),
        gateway,
        domain: 'nordholm.example',
        ports: ports.map(({ name: port, network, ip, length, plug, outside, masquerade }) => ({
          name: port,
          networkId: network ? id('network', network) : null,
          switchPortId: plug ? portOf(fleet, id('physicalSwitch', plug[0]), plug[1]) : null,
          outside: outside ?? false,
          masquerade: masquerade ?? false,
          addresses: [{ ip, prefixLength: length }],
        })),
      },
    });
    for (const [destination, via] of routes)
      await make({
        type: 'route.record',
        input: { deviceId: id('device', name), destination, via, purpose: '' },
      });
    if (ports.some(({ outside }) => outside))
      await make({
        type: 'forwarded-port.record',
        input: {
          ...{ deviceId: id('device', name), port: 443, atIp: '203.0.113.10', toPort: 8443 },
          toIp: addressesOf(fleet, 'guest', id('guest', 'tide-api'))[0]!.ip,
          purpose: 'tide levels for everybody',
        },
      });
    // What is nobody's inside must not leave by the provider either. Common practice, no source.
    if (ports.some(({ outside }) => outside))
      await make({
        type: 'route.record',
        input: {
          deviceId: id('device', name),
          destination: '10.0.0.0/8',
          via: null,
          purpose: 'private blocks stay inside',
        },
      });
  }
  const printerPort = portOf(fleet, id('physicalSwitch', 'office switch'), '18');
  await make({
    type: 'device.record',
    input: {
      name: 'office-printer',
      kind: 'printer',
      siteId: id('site', 'Mainland office'),
      model: 'Invented press 2',
      ports: [
        {
          name: 'wire',
          networkId: id('network', 'office'),
          mac: '00:00:5e:00:53:b1',
          switchPortId: printerPort,
          addresses: [{ ip: '172.22.32.90' }],
        },
      ],
    },
  });
}

/** One network of every mode, each with a guest. */
async function writeModes({ make, id }: Wirer): Promise<void> {
  await make({
    type: 'platform.edit',
    input: { id: id('platform', 'Generic bare-metal 2, lean'), natShared: false },
  });
  const inside = [
    ['fulmar', 'lab-inside', 'NAT', '192.168.60.0/24'],
    ['plover', 'scratch', 'NAT', '192.168.64.0/24'],
    ['eider', 'backup-wire', 'host and guests', '192.168.61.0/24'],
    ['gannet', 'model-wire', 'guests only', '192.168.62.0/24'],
    ['kestrel', 'press-net', 'routed', '192.168.63.0/24'],
  ] as const;
  for (const [host, name, mode, prefix] of inside)
    await make({
      type: 'host.add-inside',
      input: { hostId: id('host', host), name, mode, prefix },
    });
  await make({
    type: 'forwarded-port.record',
    input: {
      ...{ hostId: id('host', 'fulmar'), port: 8022, toIp: '192.168.60.10', toPort: 22 },
      purpose: 'terminal of lab-1',
    },
  });
  const small = (
    name: string,
    host: string,
    network: string,
    ip: string,
    purpose: string,
  ): Change => ({
    type: 'guest.record',
    input: {
      name,
      hostId: id('host', host),
      state: 'in service',
      family: 'Linux',
      purpose,
      vcpu: 1,
      memoryMiB: 1024,
      volumes: [{ poolId: id('pool', `${host}-data`), bytes: 10 * 2 ** 30, label: 'system' }],
      adapters: [{ networkId: id('network', network), address: { as: 'given', ip } }],
    },
  });
  await make(
    small('lab-1', 'fulmar', 'lab-inside', '192.168.60.10', 'trying out behind translation'),
  );
  await make(
    small('lab-2', 'fulmar', 'lab-inside', '192.168.60.11', 'trying out behind translation'),
  );
  await make(small('press-1', 'kestrel', 'press-net', '192.168.63.10', 'preparing print jobs'));
  for (const [guest, network, ip] of [
    ['model-run', 'model-wire', '192.168.62.21'],
    ['backup', 'backup-wire', '192.168.61.20'],
  ] as const) {
    await make({
      type: 'adapter.add',
      input: {
        guestId: id('guest', guest),
        networkId: id('network', network),
        address: { as: 'given', ip },
      },
    });
  }
}

/** Router guests: one that lets visitors out, one whose two adapters are changed over. */
async function writeRouters({ make, fleet, id }: Wirer): Promise<void> {
  const gate = id('guest', 'visitor-gate');
  const [first] = fleet.referring('adapter', 'guestId', gate);
  await make({
    type: 'address.set',
    input: {
      adapterId: first!.id,
      networkId: id('network', 'visitors'),
      ip: '172.22.40.1',
      assigned: false,
    },
  });
  await make({
    type: 'adapter.add',
    input: {
      guestId: gate,
      networkId: id('network', 'office'),
      trunkId: first!.id,
      address: { as: 'given', ip: '172.22.32.40' },
    },
  });
  await make({ type: 'guest.edit', input: { id: gate, forwards: true, gateway: '172.22.32.1' } });
  const outer = fleet
    .referring('adapter', 'guestId', gate)
    .find((adapter) => adapter.networkId === id('network', 'office'))!;
  await make({ type: 'adapter.edit', input: { id: outer.id, masquerade: true } });
  await make({
    type: 'guest.record',
    input: {
      name: 'pen-gate',
      hostId: id('host', 'tern'),
      state: 'in service',
      family: 'appliance',
      purpose: 'way into the pen',
      vcpu: 1,
      memoryMiB: 512,
      forwards: true,
      gateway: '172.22.14.1',
      volumes: [],
      adapters: [
        { networkId: id('network', 'pen'), address: { as: 'given', ip: '172.22.14.140' } },
        { networkId: id('network', 'annex-guests'), address: { as: 'given', ip: '172.22.90.1' } },
      ],
    },
    reason: 'Found as it is; nobody in the pen gets out',
  });
  await make({
    type: 'guest.record',
    input: {
      name: 'pen-try',
      hostId: id('host', 'tern'),
      state: 'in service',
      family: 'Linux',
      purpose: 'trying things out',
      vcpu: 1,
      memoryMiB: 512,
      volumes: [],
      adapters: [{ networkId: id('network', 'pen'), address: { as: 'given', ip: '172.22.90.5' } }],
    },
  });
  await make({
    type: 'guest.edit',
    input: { id: id('guest', 'horn-ctl'), gateway: '172.22.41.1' },
    reason: 'Read off its console',
  });
}

/** Reservations, an address that rests, a prefix length typed wrongly. */
async function writeAddresses({ make, fleet, id }: Wirer): Promise<void> {
  for (const guest of ['print-room', 'ferry-times']) {
    const [adapter] = fleet.referring('adapter', 'guestId', id('guest', guest));
    await make({ type: 'adapter.edit', input: { id: adapter!.id, mac: '' } });
    const [address] = fleet.referring('address', 'adapterId', adapter!.id);
    await make({ type: 'address.edit', input: { id: address!.id, use: 'reservation' } });
  }
  const [adapter] = fleet.referring('adapter', 'guestId', id('guest', 'watch-post'));
  await make({
    type: 'address.set',
    input: {
      adapterId: adapter!.id,
      networkId: id('network', 'harbour-guests'),
      assigned: true,
      purpose: 'second address for a trial',
    },
  });
  const trial = fleet.referring('address', 'adapterId', adapter!.id).find((row) => row.assigned)!;
  await make({ type: 'address.release', input: { id: trial.id }, reason: 'The trial is over' });
  const [counter] = fleet.referring('adapter', 'guestId', id('guest', 'seal-count'));
  const [wide] = fleet.referring('address', 'adapterId', counter!.id);
  await make({
    type: 'address.edit',
    input: { id: wide!.id, prefixLength: 16 },
    reason: 'Read off its console',
  });
}
