/** What is recorded of machines beyond their addresses, and what an answer rests on where nothing is. */
import { describe, expect, it } from 'vitest';
import { tryChange } from '../change/expectations.js';
import { smallWorld, type World } from '../change/testing.js';
import type { Values } from '../record/index.js';
import { askReach, type ReachAnswer } from './index.js';

/** tide on gannet, ebb on tern, and a router with a far side that tide goes out by. */
function place(router: Values = {}): World {
  const world = smallWorld();
  world.make({ type: 'device.remove', input: { id: world.id('device', 'gate') } });
  world.make({
    type: 'network.record',
    input: { name: 'hill', vlanId: 14, subnet: { prefix: '198.51.100.0/24' } },
  });
  world.make({
    type: 'device.record',
    input: {
      name: 'mole',
      kind: 'router',
      forwards: true,
      ports: [
        { name: 'near', networkId: shore(world), addresses: [{ ip: '192.0.2.1' }] },
        {
          name: 'far',
          networkId: world.id('network', 'hill'),
          addresses: [{ ip: '198.51.100.1' }],
        },
      ],
    },
  });
  if (Object.keys(router).length > 0)
    world.make({ type: 'device.edit', input: { id: world.id('device', 'mole'), ...router } });
  world.make(world.found('tide', 'gannet', 256, '192.0.2.10'));
  world.make(world.found('ebb', 'tern', 256, '192.0.2.11'));
  return world;
}
const shore = (world: World): string => [...world.fleet.all('network')][0]!.id;
function ask(world: World, from: string, ip: string): ReachAnswer {
  const answer = askReach(world.fleet, { from: { id: from }, to: { ip } }, (fleet, change) =>
    tryChange(fleet, change, world.context()),
  );
  if (!('verdict' in answer)) throw new Error(answer.sentence);
  return answer;
}
const tide = (world: World): string => world.id('guest', 'tide');

describe('a router’s address on its far side', () => {
  it('answers, which rests on the router, by name', () => {
    const world = place();
    const answer = ask(world, tide(world), '198.51.100.1');
    expect(answer.verdict).toBe('yes');
    expect(answer.notes.filter((note) => note.startsWith('Rests on'))).toEqual([
      'Rests on mole answering for each of its addresses by any adapter, as Linux does by itself; nobody recorded how it is set.',
    ]);
  });
  it('rests on nothing where somebody recorded it', () => {
    const world = place({ hostModel: 'weak' });
    expect(ask(world, tide(world), '198.51.100.1').notes.join()).not.toContain('Rests on');
  });
  it('does not where the router is strong, and that can be mended', () => {
    const world = place({ hostModel: 'strong' });
    const answer = ask(world, tide(world), '198.51.100.1');
    expect(answer).toMatchObject({ verdict: 'no', failure: { code: 'strong-host' } });
    world.make(answer.mend!.change);
    expect(ask(world, tide(world), '198.51.100.1').verdict).toBe('yes');
  });
});

describe('what is dropped on purpose', () => {
  it('a route that leads nowhere says so', () => {
    const world = place();
    world.make({
      type: 'route.record',
      input: { guestId: tide(world), destination: '198.51.100.0/28', via: null },
    });
    expect(ask(world, tide(world), '198.51.100.1')).toMatchObject({
      verdict: 'no',
      failure: {
        code: 'blackholed',
        sentence: 'tide drops what is for 198.51.100.0/28 on purpose (a route that leads nowhere).',
      },
    });
  });
  it('of two routes the lower metric leads', () => {
    const world = place();
    const route = (via: string, metric: number) =>
      world.make({
        type: 'route.record',
        input: { guestId: tide(world), destination: '198.51.100.0/24', via, metric },
      });
    route('192.0.2.11', 200);
    route('192.0.2.1', 100);
    expect(ask(world, tide(world), '198.51.100.1').verdict).toBe('yes');
    route('192.0.2.11', 50);
    expect(ask(world, tide(world), '198.51.100.1')).toMatchObject({
      failure: { code: 'does-not-forward' },
    });
  });
  it('strict reverse-path filtering drops what would be answered another way, with a mend', () => {
    const world = place({ reversePath: 'strict' });
    // tide has a foot in the far network too, and goes out by the near one.
    world.make({
      type: 'adapter.add',
      input: {
        guestId: tide(world),
        networkId: world.id('network', 'hill'),
        address: { as: 'given', ip: '198.51.100.20' },
      },
    });
    for (const host of ['gannet', 'tern'])
      world.make({
        type: 'host.carry',
        input: {
          hostId: world.id('host', host),
          networkId: world.id('network', 'hill'),
          mode: 'bridged',
        },
      });
    world.make({
      type: 'route.record',
      input: {
        guestId: world.id('guest', 'ebb'),
        destination: '198.51.100.0/24',
        via: '192.0.2.1',
      },
    });
    const ebb = world.id('guest', 'ebb');
    // There by the router, back directly.
    expect(ask(world, ebb, '198.51.100.20').verdict).toBe('yes');
    world.make({ type: 'guest.edit', input: { id: tide(world), reversePath: 'strict' } });
    const answer = ask(world, ebb, '198.51.100.20');
    expect([answer.verdict, answer.failure!.code]).toEqual(['no', 'reverse-path']);
    world.make(answer.mend!.change);
    expect(ask(world, ebb, '198.51.100.20').verdict).toBe('yes');
    world.make({ type: 'guest.edit', input: { id: tide(world), reversePath: 'unknown' } });
    expect(ask(world, ebb, '198.51.100.20').notes.join()).toContain(
      'not filtering by reverse path',
    );
  });
});

describe('machines that do not run, or are joined to nothing', () => {
  it('a guest of a host that is being built does not run', () => {
    const world = place();
    world.host('plover', 16, { state: 'building' });
    world.make(world.found('mist', 'plover', 256, '192.0.2.12'));
    expect(ask(world, world.id('guest', 'mist'), '192.0.2.11')).toMatchObject({
      verdict: 'no',
      failure: { code: 'powered-off', sentence: 'mist does not run: its host plover is building.' },
    });
  });
  it('a host whose only port is down is joined to nothing, recorded uplinks or not', () => {
    const world = place();
    const hostId = world.id('host', 'gannet');
    world.make({
      type: 'host.set-hardware',
      input: { hostId, hardware: { ports: [{ name: 'p1', wired: true }] } },
    });
    expect(ask(world, tide(world), '192.0.2.11').verdict).toBe('yes');
    const [port] = world.fleet.referring('port', 'hostId', hostId);
    world.make({ type: 'port.edit', input: { id: port!.id, up: false } });
    const answer = ask(world, tide(world), '192.0.2.11');
    expect(answer).toMatchObject({
      verdict: 'no',
      failure: { code: 'port-down', sentence: 'Port p1 of gannet, its only one, is down.' },
      mend: { label: 'Record p1 of gannet as up' },
    });
    world.make(answer.mend!.change);
    expect(ask(world, tide(world), '192.0.2.11').verdict).toBe('yes');
  });
});

describe('translation by virtual switch', () => {
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
  it('each alone, whatever the platform does', () => {
    const world = place();
    inside(world);
    const found = [...world.fleet.all('virtualSwitch')].find(({ name }) => name === 'lab')!;
    for (const [name, ip] of [
      ['one', '192.168.60.10'],
      ['two', '192.168.60.11'],
    ] as const) {
      const { type, input } = world.found(name, 'gannet', 256, ip);
      const adapters = [
        { networkId: world.id('network', 'lab'), address: { as: 'given' as const, ip } },
      ];
      world.make({ type, input: { ...input, adapters } });
    }
    const one = world.id('guest', 'one');
    expect(ask(world, one, '192.168.60.11').verdict).toBe('yes');
    world.make({ type: 'switch.edit', input: { id: found.id, translation: 'isolated' } });
    expect(ask(world, one, '192.168.60.11').verdict).toBe('no');
  });
});
