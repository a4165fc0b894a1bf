/**
 * Ports that lead on, translation by one uplink or of some sources, as the record says them. What the kernel does of each is
 * compared in `outside/ports.test.ts`; isolated translation is a program's, which no kernel can be asked about.
 */
import { describe, expect, it } from 'vitest';
import { readBlocks } from '../record/index.js';
import { smallWorld, type World } from '../change/testing.js';
import {
  askReach,
  cellAt,
  matrix,
  readService,
  worldOf,
  type ReachAnswer,
  type Service,
} from './index.js';

/** tide behind a translation of gannet; ebb beside both hosts. */
function place(translation: 'shared' | 'isolated' = 'shared'): World {
  const world = smallWorld();
  const hostId = world.id('host', 'gannet');
  world.make({
    type: 'address.set',
    input: { hostId, networkId: shore(world), ip: '192.0.2.21', assigned: true },
  });
  world.make({
    type: 'host.add-inside',
    input: { hostId, name: 'pocket', mode: 'NAT', prefix: '10.9.0.0/24' },
  });
  world.make({ type: 'switch.edit', input: { id: pocket(world), translation } });
  const tide = world.found('tide', 'gannet', 256, '10.9.0.10');
  const [adapter] = tide.input.adapters;
  const adapters = [{ ...adapter!, networkId: world.id('network', 'pocket') }];
  world.make({ ...tide, input: { ...tide.input, adapters } });
  world.make(world.found('ebb', 'tern', 256, '192.0.2.11'));
  return world;
}
const shore = (world: World): string => world.id('network', 'shore');
const pocket = (world: World): string =>
  [...world.fleet.all('virtualSwitch')].find(({ name }) => name === 'pocket')!.id;
const lead = (world: World, more: { port?: number; toIp?: string } = {}) =>
  world.make({
    type: 'forwarded-port.record',
    input: {
      hostId: world.id('host', 'gannet'),
      ...{ port: 8443, toIp: '10.9.0.10', toPort: 443, purpose: 'tide pages', ...more },
    },
  });

function ask(
  world: World,
  from: string,
  to: { id: string } | { ip: string },
  service?: Service,
): ReachAnswer {
  const answer = askReach(world.fleet, { from: { id: from }, to, ...(service ? { service } : {}) });
  if (!('verdict' in answer)) throw new Error(answer.sentence);
  return answer;
}
const ebb = (world: World): string => world.id('guest', 'ebb');

describe.each(['shared', 'isolated'] as const)('a port that leads behind %s translation', (how) => {
  it('is the way in, and the answer says where it leads', () => {
    const world = place(how);
    lead(world);
    const service = { protocol: 'tcp', port: 8443 } as const;
    const answer = ask(world, ebb(world), { ip: '192.0.2.21' }, service);
    expect(answer).toMatchObject({
      verdict: 'yes',
      sentence: expect.stringMatching(
        /^Yes: ebb reaches gannet, port 8443\/tcp, which leads on to tide, port 443/,
      ) as string,
    });
    expect(answer.request.some(({ forwardedTo }) => forwardedTo === '10.9.0.10, port 443')).toBe(
      true,
    );
    expect(ask(world, ebb(world), { ip: '192.0.2.21' }).request.at(-1)!.machine.name).toBe(
      'gannet',
    );
    const other = ask(world, ebb(world), { ip: '192.0.2.21' }, { protocol: 'udp', port: 8443 });
    expect(other.request.at(-1)!.machine.name).toBe('gannet');
  });
  it('is named where the machine itself is asked for, which is not reached', () => {
    const world = place(how);
    lead(world);
    const answer = ask(world, ebb(world), { id: world.id('guest', 'tide') });
    expect(answer.verdict).not.toBe('yes');
    expect(answer.waysIn).toMatchObject([
      {
        at: { name: 'gannet' },
        ip: '192.0.2.21',
        port: 8443,
        purpose: 'tide pages',
        verdict: 'yes',
      },
    ]);
  });
});

describe('a port that leads on', () => {
  it('through two machines is found as well', () => {
    const world = place();
    lead(world);
    world.make({
      type: 'forwarded-port.record',
      input: { guestId: ebb(world), port: 443, toIp: '192.0.2.21', toPort: 8443 },
    });
    world.make({ type: 'guest.edit', input: { id: ebb(world), forwards: true } });
    world.make(world.found('flow', 'tern', 256, '192.0.2.12'));
    const { waysIn } = ask(world, world.id('guest', 'flow'), { id: world.id('guest', 'tide') });
    // The second one answers straight to who asked: it is not taken for the answer.
    expect(waysIn.map(({ at, port, verdict }) => [at.name, port, verdict])).toEqual([
      ['gannet', 8443, 'yes'],
      ['ebb', 443, 'one way'],
    ]);
    const answer = ask(
      world,
      world.id('guest', 'flow'),
      { ip: '192.0.2.11' },
      {
        ...{ protocol: 'tcp', port: 443 },
      },
    );
    expect(answer.failure).toMatchObject({
      code: 'answers-as-another',
      sentence: expect.stringContaining('as 192.0.2.21 straight away') as string,
    });
  });
  it('is not named for another machine that has the same address elsewhere', () => {
    const world = place();
    lead(world);
    world.make({
      type: 'host.add-inside',
      input: {
        hostId: world.id('host', 'tern'),
        name: 'purse',
        mode: 'NAT',
        prefix: '10.9.0.0/24',
      },
    });
    const twin = world.found('twin', 'tern', 256, '10.9.0.10');
    const [adapter] = twin.input.adapters;
    const adapters = [{ ...adapter!, networkId: world.id('network', 'purse') }];
    world.make({ ...twin, input: { ...twin.input, adapters } });
    const { waysIn } = ask(world, ebb(world), { id: world.id('guest', 'twin') });
    expect(waysIn).toEqual([]);
  });
  it('leads to one place', () => {
    const world = place();
    lead(world);
    const again = world.try({
      type: 'forwarded-port.record',
      input: {
        ...{ hostId: world.id('host', 'gannet'), port: 8443, toIp: '10.9.0.11', toPort: 80 },
      },
    });
    expect(again).toMatchObject({ code: 'port-leads-on' });
  });
  it('goes with the machine', () => {
    const world = place();
    world.make({
      type: 'forwarded-port.record',
      input: { deviceId: world.id('device', 'gate'), port: 443, toIp: '192.0.2.11', toPort: 443 },
    });
    world.make({ type: 'device.remove', input: { id: world.id('device', 'gate') } });
    expect(world.fleet.count('forwardedPort')).toBe(0);
  });
});

describe('a host with two uplinks', () => {
  function two(): World {
    const world = place();
    const hostId = world.id('host', 'gannet');
    world.make({
      type: 'network.record',
      input: { name: 'hill', vlanId: 14, subnet: { prefix: '198.51.100.0/24' } },
    });
    const networkId = world.id('network', 'hill');
    world.make({ type: 'host.carry', input: { hostId, networkId, mode: 'bridged' } });
    world.make({
      type: 'address.set',
      input: { hostId, networkId, ip: '198.51.100.21', assigned: true },
    });
    return world;
  }
  const uplink = (world: World, network: string): string =>
    world.fleet
      .referring('virtualSwitch', 'hostId', world.id('host', 'gannet'))
      .find(({ networkId }) => networkId === world.id('network', network))!.id;
  const rests =
    'Rests on gannet translating by whichever uplink it leaves; nobody recorded by which.';

  it('translates by whichever, which the answer names, until somebody says by which', () => {
    const world = two();
    const tide = world.id('guest', 'tide');
    expect(ask(world, tide, { id: ebb(world) })).toMatchObject({ verdict: 'yes' });
    expect(ask(world, tide, { id: ebb(world) }).notes).toContain(rests);
    const natUplinkId = uplink(world, 'shore');
    world.make({ type: 'switch.edit', input: { id: pocket(world), natUplinkId } });
    expect(ask(world, tide, { id: ebb(world) })).toMatchObject({ verdict: 'yes' });
    expect(ask(world, tide, { id: ebb(world) }).notes).not.toContain(rests);
    world.make({
      type: 'switch.edit',
      input: { id: pocket(world), natUplinkId: uplink(world, 'hill') },
    });
    expect(ask(world, tide, { id: ebb(world) }).verdict).toBe('one way');
    // The uplink goes: nobody said any more.
    world.make({ type: 'host.drop-switch', input: { id: uplink(world, 'hill') } });
    expect(world.fleet.need('virtualSwitch', pocket(world)).natUplinkId).toBeNull();
  });
  it('leaves by a switch of its own', () => {
    const world = two();
    const refused = world.try({
      type: 'switch.edit',
      input: { id: pocket(world), natUplinkId: pocket(world) },
    });
    expect(refused).toMatchObject({ code: 'no-uplink' });
  });
});

it('a router translates some sources only', () => {
  const world = smallWorld();
  world.make({
    type: 'network.record',
    input: { name: 'hill', vlanId: 14, subnet: { prefix: '198.51.100.0/24' } },
  });
  const ports = (masqueradeFrom: string) => [
    {
      ...{ name: 'near', networkId: shore(world), addresses: [{ ip: '192.0.2.1' }] },
    },
    {
      ...{ name: 'far', networkId: world.id('network', 'hill'), masquerade: true, masqueradeFrom },
      addresses: [{ ip: '198.51.100.1' }],
    },
  ];
  const id = world.id('device', 'gate');
  world.make({
    type: 'device.set-ports',
    input: { id, ports: ports('192.0.2.0/26,192.0.2.96/28') },
  });
  world.make(world.found('tide', 'gannet', 256, '192.0.2.10'));
  world.make(world.found('ebb', 'tern', 256, '192.0.2.80'));
  world.make({
    type: 'device.record',
    input: {
      name: 'far end',
      kind: 'other',
      ports: [
        {
          ...{ name: 'a', networkId: world.id('network', 'hill') },
          addresses: [{ ip: '198.51.100.9' }],
        },
      ],
    },
  });
  const verdict = (guest: string) =>
    ask(world, world.id('guest', guest), { id: world.id('device', 'far end') }).verdict;
  expect([verdict('tide'), verdict('ebb')]).toEqual(['yes', 'one way']);
  // On both sides of a block's edge machines of one subnet are not alike.
  const { topology } = worldOf(world.fleet);
  const machines = [
    world.id('guest', 'tide'),
    world.id('guest', 'ebb'),
    world.id('device', 'far end'),
  ];
  const found = matrix(
    topology,
    machines.map((one) => topology.machines.get(one)!),
    (machine) => machine.ifaces[0]!.addresses[0]!,
  )!;
  expect([0, 1].map((from) => cellAt(found, from, 2).verdict)).toEqual(['yes', 'one way']);
  world.make({ type: 'device.set-ports', input: { id, ports: ports('') } });
  expect([verdict('tide'), verdict('ebb')]).toEqual(['yes', 'yes']);
});

it('blocks and ports are read as people write them', () => {
  expect(readBlocks(' 10.0.0.0/8; fd00::/8 10.0.0.0/8')).toEqual({
    ok: true,
    value: '10.0.0.0/8, fd00::/8',
  });
  expect(readBlocks('')).toEqual({ ok: true, value: '' });
  expect(readBlocks('10.0.0.1/8')).toMatchObject({
    ok: false,
    sentence: expect.stringMatching(/^10\.0\.0\.1\/8: /) as string,
  });
  for (const [text, protocol, port] of [
    ['443', 'tcp', 443],
    ['tcp 443', 'tcp', 443],
    ['53/UDP', 'udp', 53],
    ['udp:53', 'udp', 53],
  ] as const)
    expect(readService(text)).toEqual({ ok: true, value: { protocol, port } });
  for (const text of ['', 'web', '0', '70000/tcp', '80 443', 'tcp udp 5', '80/sctp'])
    expect(readService(text).ok).toBe(false);
});
