import { describe, expect, it } from 'vitest';
import { tryChange } from '../change/expectations.js';
import type { Change } from '../change/index.js';
import { World } from '../change/testing.js';
import { askReach, OUTSIDE, type ReachAnswer } from './index.js';

/** Two networks with a router between them that leads outside, two hosts that carry both, guests on each. */
function place(): World {
  const world = new World();
  world.make({ type: 'record.begin', input: {} });
  for (const [name, prefix, vlanId] of [
    ['shore', '192.0.2.0/25', 12],
    ['hill', '192.0.2.128/25', 14],
  ] as const) {
    world.make({
      type: 'network.record',
      input: {
        name,
        vlanId,
        subnet: { prefix, gateway: prefix === '192.0.2.0/25' ? '192.0.2.1' : '192.0.2.129' },
      },
    });
  }
  const on = (name: string) => world.id('network', name);
  world.make({
    type: 'device.record',
    input: {
      name: 'gate',
      kind: 'router',
      forwards: true,
      gateway: '198.51.100.1',
      ports: [
        { name: 'shore', networkId: on('shore'), addresses: [{ ip: '192.0.2.1' }] },
        { name: 'hill', networkId: on('hill'), addresses: [{ ip: '192.0.2.129' }] },
        { name: 'outer', outside: true, addresses: [{ ip: '198.51.100.2', prefixLength: 29 }] },
      ],
    },
  });
  world.host('gannet', 16, { networks: ['shore', 'hill'] });
  world.host('tern', 16, { networks: ['shore', 'hill'] });
  return world;
}

function guest(
  world: World,
  name: string,
  host: string,
  network: string | null,
  ip: string | null,
  more: { networkIds?: string[]; fields?: object; state?: 'in service' | 'stopped' } = {},
): string {
  world.make({
    type: 'guest.record',
    input: {
      name,
      hostId: world.id('host', host),
      state: more.state ?? 'in service',
      family: 'Linux',
      vcpu: 1,
      memoryMiB: 256,
      ...more.fields,
      volumes: [],
      adapters: network
        ? [
            {
              networkId: world.id('network', network),
              address: ip ? { as: 'given', ip } : { as: 'none' },
            },
          ]
        : [],
    },
  });
  return world.id('guest', name);
}

function ask(world: World, from: string, to: string | { ip: string }): ReachAnswer {
  const id = (name: string) => {
    if (name === OUTSIDE) return OUTSIDE;
    for (const kind of ['guest', 'host', 'device'] as const)
      for (const row of world.fleet.all(kind)) if (row.name === name) return row.id;
    throw new Error(`no machine ${name}`);
  };
  const answer = askReach(
    world.fleet,
    { from: { id: id(from) }, to: typeof to === 'string' ? { id: id(to) } : to },
    (fleet, change) => tryChange(fleet, change, world.context()),
  );
  if (!('verdict' in answer)) throw new Error(answer.sentence);
  return answer;
}

/** Makes the mend that is offered, and asks again. */
function mended(world: World, from: string, to: string): string {
  const { mend } = ask(world, from, to);
  if (!mend) return 'no mend';
  world.make(mend.change);
  return ask(world, from, to).verdict;
}

describe('a sound place', () => {
  const world = place();
  guest(world, 'tide', 'gannet', 'shore', '192.0.2.10');
  guest(world, 'mist', 'tern', 'hill', '192.0.2.140');
  it('a guest reaches another network through the router', () => {
    const answer = ask(world, 'tide', 'mist');
    expect(answer).toMatchObject({
      verdict: 'yes',
      sentence: 'Yes: tide reaches mist through gate.',
      failure: null,
      mend: null,
    });
    expect(
      answer.request.map((hop) => [hop.machine.name, hop.in === null, hop.out === null]),
    ).toEqual([
      ['tide', true, false],
      ['gate', false, false],
      ['mist', false, true],
    ]);
    expect(answer.request[1]).toMatchObject({ in: 'shore', out: 'hill', next: '192.0.2.140' });
    expect(answer.notes).toContain('Addressing and routing permit it; filters are not recorded.');
  });
  it('and the outside, both ways where its block is not private', () => {
    expect([ask(world, 'tide', OUTSIDE).verdict, ask(world, OUTSIDE, 'mist').verdict]).toEqual([
      'yes',
      'yes',
    ]);
  });
  it('an address that nobody has is said to be so', () =>
    expect(ask(world, 'tide', { ip: '192.0.2.77' })).toMatchObject({
      verdict: 'no',
      failure: { code: 'nobody-has-it' },
    }));
  it('what is no address gets a sentence', () =>
    expect(
      askReach(world.fleet, { from: { id: world.id('guest', 'tide') }, to: { ip: '192.0.2.300' } }),
    ).toEqual({ sentence: '192.0.2.300: each part is 0 to 255.' }));
});

describe('each mistake is named, and mended by the smallest change', () => {
  const sound = () => {
    const world = place();
    guest(world, 'tide', 'gannet', 'shore', '192.0.2.10');
    guest(world, 'mist', 'tern', 'hill', '192.0.2.140');
    return world;
  };
  const adapter = (world: World, name: string) =>
    world.fleet.referring('adapter', 'guestId', world.id('guest', name))[0]!;
  const address = (world: World, name: string) =>
    world.fleet.referring('address', 'adapterId', adapter(world, name).id)[0]!;

  const cases: [
    string,
    (world: World) => Change[],
    { code: string; sentence: RegExp; verdict?: string },
  ][] = [
    [
      'a gateway outside the own subnet',
      (world) => [
        { type: 'guest.edit', input: { id: world.id('guest', 'tide'), gateway: '192.0.3.1' } },
      ],
      {
        code: 'gateway-outside-subnet',
        sentence: /tide's gateway 192\.0\.3\.1 is not in its own subnet 192\.0\.2\.0\/25/,
      },
    ],
    [
      'no gateway',
      (world) => [
        { type: 'guest.edit', input: { id: world.id('guest', 'tide'), noGateway: true } },
      ],
      { code: 'no-gateway', sentence: /tide has no gateway/ },
    ],
    [
      'no gateway at the other end',
      (world) => [
        { type: 'guest.edit', input: { id: world.id('guest', 'mist'), noGateway: true } },
      ],
      { code: 'no-gateway', sentence: /On the way back: mist has no gateway/, verdict: 'one way' },
    ],
    [
      'a prefix that is too wide',
      (world) => [
        { type: 'address.edit', input: { id: address(world, 'tide').id, prefixLength: 24 } },
      ],
      { code: 'wrong-prefix', sentence: /tide takes 192\.0\.2\.140 for one of its own subnet/ },
    ],
    [
      'an adapter that is not connected',
      (world) => [
        { type: 'adapter.edit', input: { id: adapter(world, 'mist').id, connected: false } },
      ],
      { code: 'adapter-unplugged', sentence: /adapter 1 on hill of mist is not connected/ },
    ],
    [
      'a machine that is stopped',
      (world) => [
        { type: 'guest.set-state', input: { id: world.id('guest', 'mist'), state: 'stopped' } },
      ],
      { code: 'powered-off', sentence: /mist is stopped/ },
    ],
    [
      'a sender that is stopped',
      (world) => [
        { type: 'guest.set-state', input: { id: world.id('guest', 'tide'), state: 'stopped' } },
      ],
      { code: 'powered-off', sentence: /tide is stopped/ },
    ],
    [
      'a network that the host does not carry',
      (world) => [
        {
          type: 'host.drop-switch',
          input: {
            id: world.fleet
              .referring('virtualSwitch', 'hostId', world.id('host', 'tern'))
              .find((found) => found.name === 'hill')!.id,
          },
        },
      ],
      { code: 'network-not-carried', sentence: /tern does not carry hill/ },
    ],
    [
      'a router that does not forward',
      (world) => [
        { type: 'device.edit', input: { id: world.id('device', 'gate'), forwards: false } },
      ],
      {
        code: 'does-not-forward',
        sentence: /gate gets the packet for 192\.0\.2\.140, but does not forward/,
      },
    ],
    [
      'a router that is off',
      (world) => [{ type: 'device.edit', input: { id: world.id('device', 'gate'), state: 'off' } }],
      { code: 'powered-off', sentence: /gate is off/ },
    ],
  ];
  it.each(cases)('%s', (_, spoil, { code, sentence, verdict = 'no' }) => {
    const world = sound();
    for (const change of spoil(world)) world.make(change);
    const answer = ask(world, 'tide', 'mist');
    expect([answer.verdict, answer.failure?.code]).toEqual([verdict, code]);
    expect(answer.sentence).toMatch(sentence);
    expect(mended(world, 'tide', 'mist')).toBe('yes');
  });

  it('an address carried twice: somebody else may answer, and one of them gets another', () => {
    const world = sound();
    guest(world, 'twin', 'gannet', 'hill', '192.0.2.140');
    const answer = ask(world, 'tide', 'mist');
    expect(answer).toMatchObject({
      verdict: 'somebody else answered',
      failure: { code: 'address-twice', sentence: '192.0.2.140 is carried by mist and by twin.' },
    });
    expect(mended(world, 'tide', 'mist')).toBe('yes');
  });
  it('its own twin: a machine that asks for an address it has itself is answered by itself', () => {
    const world = sound();
    guest(world, 'echo', 'tern', 'hill', '192.0.2.10');
    expect(ask(world, 'echo', 'tide')).toMatchObject({
      verdict: 'somebody else answered',
      failure: { code: 'own-twin' },
    });
  });
  it('two adapters of a router guest changed over', () => {
    const world = sound();
    world.make({
      type: 'network.record',
      input: { name: 'pen', subnet: { prefix: '198.51.100.128/28', gateway: '198.51.100.129' } },
    });
    world.make({
      type: 'host.carry',
      input: {
        hostId: world.id('host', 'tern'),
        networkId: world.id('network', 'pen'),
        mode: 'bridged',
      },
    });
    const between = guest(world, 'between', 'tern', 'pen', '192.0.2.150', {
      fields: { forwards: true, gateway: '192.0.2.129' },
    });
    world.make({
      type: 'adapter.add',
      input: {
        guestId: between,
        networkId: world.id('network', 'hill'),
        address: { as: 'given', ip: '198.51.100.129' },
      },
    });
    guest(world, 'cub', 'tern', 'pen', '198.51.100.130');
    world.make({
      type: 'route.record',
      input: {
        deviceId: world.id('device', 'gate'),
        destination: '198.51.100.128/28',
        via: '192.0.2.150',
        purpose: '',
      },
    });
    const answer = ask(world, 'cub', 'mist');
    expect(answer.failure!.sentence).toContain(
      'between has 192.0.2.150, which belongs to hill, on its adapter 1, which is on pen',
    );
    expect(answer.mend!.label).toBe('Change adapters 1 and 2 of between over');
    expect(mended(world, 'cub', 'mist')).toBe('yes');
  });
  it('a route that nobody gave is offered where the packet went wrong', () => {
    const world = sound();
    world.make({
      type: 'network.record',
      input: { name: 'far', subnet: { prefix: '10.9.0.0/24', gateway: '10.9.0.1' } },
    });
    world.make({
      type: 'host.carry',
      input: {
        hostId: world.id('host', 'tern'),
        networkId: world.id('network', 'far'),
        mode: 'bridged',
      },
    });
    const between = guest(world, 'between', 'tern', 'far', '10.9.0.1', {
      fields: { forwards: true, gateway: '192.0.2.129' },
    });
    world.make({
      type: 'adapter.add',
      input: {
        guestId: between,
        networkId: world.id('network', 'hill'),
        address: { as: 'given', ip: '192.0.2.150' },
      },
    });
    guest(world, 'cub', 'tern', 'far', '10.9.0.30');
    const answer = ask(world, 'tide', 'cub');
    expect(answer.failure).toMatchObject({
      code: 'no-way-but-outside',
      sentence:
        'gate knows no way of its own to 10.9.0.30 and sends it outside, where nobody does either.',
    });
    expect(answer.mend!.label).toBe('Give gate a route to 10.9.0.0/24 by 192.0.2.150 (between)');
    expect(mended(world, 'tide', 'cub')).toBe('yes');
  });
  it('asking alters nothing, even when mends are tried', () => {
    const world = sound();
    world.make({
      type: 'guest.edit',
      input: { id: world.id('guest', 'tide'), gateway: '192.0.3.1' },
    });
    const before = JSON.stringify([...world.fleet.all('guest')]);
    ask(world, 'tide', 'mist');
    expect(JSON.stringify([...world.fleet.all('guest')])).toBe(before);
  });
});

describe('cables', () => {
  function wired(): World {
    const world = place();
    guest(world, 'tide', 'gannet', 'shore', '192.0.2.10');
    guest(world, 'ebb', 'tern', 'shore', '192.0.2.11');
    for (const name of ['left', 'right']) {
      world.make({ type: 'physical-switch.record', input: { name } });
      world.make({
        type: 'physical-switch.set-ports',
        input: {
          id: world.id('physicalSwitch', name),
          ports: [
            { name: '1', taggedVlans: '12,14' },
            { name: '2', taggedVlans: '12,14' },
            { name: '9', untaggedVlan: 12 },
          ],
        },
      });
    }
    const port = (name: string, n: string) =>
      world.fleet
        .referring('switchPort', 'physicalSwitchId', world.id('physicalSwitch', name))
        .find((found) => found.name === n)!.id;
    for (const [host, side] of [
      ['gannet', 'left'],
      ['tern', 'right'],
    ] as const) {
      const hostId = world.id('host', host);
      world.make({
        type: 'host.set-hardware',
        input: {
          hostId,
          hardware: {
            ports: [
              {
                name: 'p1',
                bitsPerSecond: 1e9,
                connector: '8P8C',
                wired: true,
                management: false,
                card: '',
                pluggedInto: '',
              },
            ],
          },
        },
      });
      const [mine] = world.fleet.referring('port', 'hostId', hostId);
      world.make({ type: 'port.edit', input: { id: mine!.id, switchPortId: port(side, '1') } });
      for (const found of world.fleet.referring('virtualSwitch', 'hostId', hostId))
        world.make({
          type: 'switch.set-uplinks',
          input: { switchId: found.id, portIds: [mine!.id] },
        });
    }
    world.make({
      type: 'line.record',
      input: { name: 'tie', aPortId: port('left', '2'), bPortId: port('right', '2') },
    });
    return world;
  }
  const portOf = (world: World, name: string, n: string) =>
    world.fleet
      .referring('switchPort', 'physicalSwitchId', world.id('physicalSwitch', name))
      .find((found) => found.name === n)!;

  it('are said with the way', () => {
    const world = wired();
    expect(ask(world, 'tide', 'ebb').request[0]!.over).toEqual([
      'p1 of gannet → left port 1',
      'line tie',
      'p1 of tern → right port 1',
    ]);
  });
  it.each<[string, (world: World) => Change, RegExp]>([
    [
      'the VLAN is missing on a host’s port',
      (world) => ({
        type: 'switch-port.edit',
        input: { ids: [portOf(world, 'right', '1').id], taggedVlans: '14' },
      }),
      /Port 1 of right does not carry VLAN 12 \(shore\)/,
    ],
    [
      'the VLAN is missing at one end of a line',
      (world) => ({
        type: 'switch-port.edit',
        input: { ids: [portOf(world, 'left', '2').id], taggedVlans: '14' },
      }),
      /Port 2 of left does not carry VLAN 12 \(shore\)/,
    ],
    [
      'the VLAN is missing on a whole line',
      (world) => ({
        type: 'switch-port.edit',
        input: {
          ids: [portOf(world, 'left', '2').id, portOf(world, 'right', '2').id],
          taggedVlans: '14',
        },
      }),
      /The line tie between left and right does not carry VLAN 12/,
    ],
    [
      'the line is down',
      (world) => ({
        type: 'line.edit',
        input: { id: [...world.fleet.all('switchLine')][0]!.id, up: false },
      }),
      /The line tie is down/,
    ],
    [
      'a switch port is down',
      (world) => ({
        type: 'switch-port.edit',
        input: { ids: [portOf(world, 'left', '1').id], up: false },
      }),
      /Port 1 of left is down/,
    ],
    [
      'a host’s port is down',
      (world) => ({
        type: 'port.edit',
        input: {
          id: world.fleet.referring('port', 'hostId', world.id('host', 'tern'))[0]!.id,
          up: false,
        },
      }),
      /Port p1 of tern is down/,
    ],
  ])('%s', (_, spoil, sentence) => {
    const world = wired();
    world.make(spoil(world));
    const answer = ask(world, 'tide', 'ebb');
    expect(answer.sentence).toMatch(sentence);
    expect(mended(world, 'tide', 'ebb')).toBe('yes');
  });
  it('a bridge over a wireless port carries nothing, and nothing mends it', () => {
    const world = wired();
    const hostId = world.id('host', 'tern');
    world.make({
      type: 'host.set-hardware',
      input: {
        hostId,
        hardware: {
          ports: [
            {
              name: 'p1',
              connector: 'wireless',
              wired: false,
              management: false,
              card: '',
              pluggedInto: '',
            },
          ],
        },
      },
    });
    expect(ask(world, 'tide', 'ebb')).toMatchObject({
      verdict: 'no',
      failure: { code: 'wireless-bridge' },
      mend: null,
    });
  });
  it('a second line keeps them together', () => {
    const world = wired();
    world.make({
      type: 'line.record',
      input: {
        name: 'second',
        aPortId: portOf(world, 'left', '9').id,
        bPortId: portOf(world, 'right', '9').id,
      },
    });
    world.make({
      type: 'line.edit',
      input: {
        id: [...world.fleet.all('switchLine')].find((line) => line.name === 'tie')!.id,
        up: false,
      },
    });
    expect(ask(world, 'tide', 'ebb').verdict).toBe('yes');
  });
  it('a router serves several VLANs over one cable, by their tags', () => {
    const world = wired();
    const ports = (...tagged: ('shore' | 'hill')[]) => ({
      type: 'device.set-ports' as const,
      input: {
        id: world.id('device', 'gate'),
        ports: [
          ...(['shore', 'hill'] as const).map((name) => ({
            name: `e0.${name}`,
            networkId: world.id('network', name),
            tagged: tagged.includes(name),
            mac: null,
            switchPortId: portOf(world, 'right', '9').id,
            addresses: [{ ip: name === 'shore' ? '192.0.2.1' : '192.0.2.129' }],
          })),
          { name: 'outer', outside: true, addresses: [{ ip: '198.51.100.2', prefixLength: 29 }] },
        ],
      },
    });
    guest(world, 'crag', 'gannet', 'hill', '192.0.2.140');
    expect(world.try(ports())).toMatchObject({
      code: 'port-taken',
      sentence: 'e0.shore and e0.hill of gate share a cable, and no tag tells them apart.',
    });
    world.make(ports('hill'));
    // The port has no VLAN 14 yet: the router does not hear the hill.
    expect(ask(world, 'tide', 'crag')).toMatchObject({ verdict: 'no' });
    world.make({
      type: 'switch-port.edit',
      input: { ids: [portOf(world, 'right', '9').id], addVlans: [14] },
    });
    expect(ask(world, 'tide', 'crag')).toMatchObject({ verdict: 'yes' });
    expect(ask(world, 'crag', 'tide').request.map(({ machine }) => machine.name)).toEqual([
      'crag',
      'gate',
      'tide',
    ]);
  });
  it('a port of a switch takes one cable', () => {
    const world = wired();
    const mine = world.fleet.referring('port', 'hostId', world.id('host', 'gannet'))[0]!;
    expect(
      world.try({
        type: 'port.edit',
        input: { id: mine.id, switchPortId: portOf(world, 'right', '2').id },
      }),
    ).toMatchObject({ code: 'port-taken' });
  });
});

describe('networks inside a host', () => {
  function inside(
    mode: 'NAT' | 'routed' | 'host and guests' | 'guests only',
    shared = true,
  ): World {
    const world = place();
    guest(world, 'tide', 'tern', 'shore', '192.0.2.10');
    if (!shared)
      world.make({
        type: 'platform.edit',
        input: { id: world.id('platform', 'Generic bare-metal 1'), natShared: false },
      });
    world.make({
      type: 'address.set',
      input: {
        hostId: world.id('host', 'gannet'),
        networkId: world.id('network', 'shore'),
        ip: '192.0.2.20',
        assigned: false,
      },
    });
    world.make({
      type: 'host.add-inside',
      input: { hostId: world.id('host', 'gannet'), name: 'lab', mode, prefix: '192.168.60.0/24' },
    });
    guest(world, 'one', 'gannet', 'lab', '192.168.60.10');
    guest(world, 'two', 'gannet', 'lab', '192.168.60.11');
    return world;
  }
  // Conventions of the modes, compared with the kernel in ../../outside/reachability.test.ts; isolated translation from memory of such systems.
  it('shared translation: guests see each other, the host, and get out; nobody gets in', () => {
    const world = inside('NAT');
    expect(
      [
        ask(world, 'one', 'two'),
        ask(world, 'one', 'gannet'),
        ask(world, 'one', 'tide'),
        ask(world, 'gannet', 'one'),
      ].map((answer) => answer.verdict),
    ).toEqual(['yes', 'yes', 'yes', 'yes']);
    expect(ask(world, 'one', 'tide').request[1]).toMatchObject({
      machine: { name: 'gannet' },
      translatedTo: '192.0.2.20',
    });
    world.make({
      type: 'route.record',
      input: {
        guestId: world.id('guest', 'tide'),
        destination: '192.168.60.0/24',
        via: '192.0.2.20',
        purpose: '',
      },
    });
    expect(ask(world, 'tide', 'one')).toMatchObject({
      verdict: 'refused',
      failure: { code: 'not-forwarded-inside' },
    });
    // An outsider with a route reaches the host's own address there.
    expect(ask(world, 'tide', { ip: '192.168.60.1' }).verdict).toBe('yes');
  });
  it('isolated translation: each guest is alone, gets out as the host would, and nobody reaches it', () => {
    const world = inside('NAT', false);
    expect(
      [
        ask(world, 'one', 'tide'),
        ask(world, 'one', 'gannet'),
        ask(world, 'one', 'two'),
        ask(world, 'gannet', 'one'),
        ask(world, 'tide', 'one'),
      ].map((answer) => answer.verdict),
    ).toEqual(['yes', 'yes', 'no', 'no', 'no']);
  });
  it('isolated twins: a guest that asks for its twin’s equal address answers itself', () => {
    const world = inside('NAT', false);
    guest(world, 'twin', 'gannet', 'lab', '192.168.60.10');
    expect(ask(world, 'one', 'twin')).toMatchObject({
      verdict: 'somebody else answered',
      failure: { code: 'own-twin' },
    });
  });
  it('routed: out one way until the others know the way back', () => {
    const world = inside('routed');
    expect(ask(world, 'one', 'tide')).toMatchObject({
      verdict: 'one way',
      mend: { label: 'Give gate a route to 192.168.60.0/24 by 192.0.2.20 (gannet)' },
    });
    expect(mended(world, 'one', 'tide')).toBe('yes');
    expect(ask(world, 'tide', 'one').verdict).toBe('yes');
  });
  it('host and guests: they see each other and nobody else', () => {
    const world = inside('host and guests');
    expect(
      [ask(world, 'one', 'two'), ask(world, 'one', 'gannet'), ask(world, 'one', 'tide')].map(
        (answer) => answer.verdict,
      ),
    ).toEqual(['yes', 'yes', 'no']);
  });
  it('guests only: not even the host', () => {
    const world = inside('guests only');
    expect(
      [ask(world, 'one', 'two'), ask(world, 'one', 'gannet'), ask(world, 'gannet', 'one')].map(
        (answer) => answer.verdict,
      ),
    ).toEqual(['yes', 'no', 'no']);
  });
  it('equal blocks on two hosts are normal', () => {
    const world = inside('NAT');
    expect(() =>
      world.make({
        type: 'host.add-inside',
        input: {
          hostId: world.id('host', 'tern'),
          name: 'lab on tern',
          mode: 'NAT',
          prefix: '192.168.60.0/24',
        },
      }),
    ).not.toThrow();
    guest(world, 'three', 'tern', 'lab on tern', '192.168.60.10');
    expect(ask(world, 'three', 'tide')).toMatchObject({
      verdict: 'no',
      failure: { sentence: expect.stringContaining('tern has no gateway') as string },
    });
    world.make({
      type: 'address.set',
      input: {
        hostId: world.id('host', 'tern'),
        networkId: world.id('network', 'shore'),
        ip: '192.0.2.21',
        assigned: false,
      },
    });
    expect(ask(world, 'three', 'tide').verdict).toBe('yes');
  });
});

describe('sub-interfaces over one adapter', () => {
  it('reach each of their networks, and none once the adapter is unplugged', () => {
    const world = place();
    guest(world, 'mole', 'gannet', 'shore', '192.0.2.5');
    guest(world, 'crest', 'tern', 'hill', '192.0.2.135');
    const [trunk] = world.fleet.referring('adapter', 'guestId', world.id('guest', 'mole'));
    world.make({
      type: 'adapter.add',
      input: {
        guestId: world.id('guest', 'mole'),
        networkId: world.id('network', 'hill'),
        trunkId: trunk!.id,
        address: { as: 'given', ip: '192.0.2.136' },
      },
    });
    expect(ask(world, 'mole', 'crest').verdict).toBe('yes');
    world.make({ type: 'adapter.edit', input: { id: trunk!.id, connected: false } });
    expect(ask(world, 'crest', { ip: '192.0.2.136' }).verdict).toBe('no');
  });
});
