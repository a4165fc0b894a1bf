/** Going down: against orders made by hand, and against the longest way of graphlib's reversed graph. */
import { Graph, alg } from '@dagrejs/graphlib';
import fc from 'fast-check';
import { beforeEach, describe, expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import { shutDown } from './shut-down.js';

let world: World;
let next: number;
beforeEach(() => {
  world = smallWorld();
  next = 20;
});
const host = (name: string) => world.id('host', name);
const guest = (name: string, on = 'gannet', stopSeconds = 60) => {
  world.make(world.found(name, on, 256, `192.0.2.${(next += 1)}`));
  const id = world.id('guest', name);
  if (stopSeconds !== 60) world.make({ type: 'guest.edit', input: { id, stopSeconds } });
  return id;
};
const needs = (one: string, other: string) =>
  world.make({
    type: 'need.record',
    input: { guestId: world.id('guest', one), onGuestId: world.id('guest', other) },
  });
const stops = (...names: string[]) => shutDown(world.fleet, names.map(host));
const times = ({ stops: all }: ReturnType<typeof stops>) =>
  Object.fromEntries(all.map(({ name, begins, down }) => [name, [begins, down]]));

describe('the order of stopping', () => {
  // site 30 s needs data 90 s: data is told at 30, off at 120; the host takes 120 more.
  it('is that of starting, reversed: what needs another is down before it', () => {
    guest('data', 'gannet', 90);
    guest('site', 'gannet', 30);
    guest('alone', 'gannet', 10);
    needs('site', 'data');
    const found = stops('gannet');
    expect(times(found)).toEqual({
      ...{ alone: [0, 10], site: [0, 30], data: [30, 120], gannet: [120, 240] },
    });
    expect(found).toMatchObject({ seconds: 240, longest: ['site', 'data', 'gannet'] });
  });
  it('who needs something on a host that stays waits for nobody; who is needed from there stops all the same', () => {
    guest('data', 'gannet', 90);
    guest('site', 'tern', 30);
    needs('site', 'data');
    expect(times(stops('gannet'))).toEqual({ data: [0, 90], gannet: [90, 210] });
    expect(times(stops('gannet', 'tern'))).toEqual({
      ...{ site: [0, 30], data: [30, 120], tern: [30, 150], gannet: [120, 240] },
    });
  });
  it('a service waits for its users only where nobody beyond provides it', () => {
    const names = [guest('names-1', 'gannet'), guest('names-2', 'tern')];
    guest('site', 'gannet', 30);
    world.make({ type: 'service.record', input: { name: 'names', what: 'names' } });
    const serviceId = world.id('service', 'names');
    for (const guestId of names)
      world.make({ type: 'provider.record', input: { serviceId, guestId } });
    world.make({ type: 'need.record', input: { guestId: world.id('guest', 'site'), serviceId } });
    expect(times(stops('gannet'))).toMatchObject({ site: [0, 30], 'names-1': [0, 60] });
    expect(times(stops('gannet', 'tern'))).toMatchObject({
      ...{ site: [0, 30], 'names-1': [30, 90], 'names-2': [30, 90] },
    });
  });
  it('a host that is a guest goes down before the guest it is', () => {
    const outer = guest('lab', 'gannet', 20);
    world.make({ type: 'host.edit', input: { id: host('tern'), outerGuestId: outer } });
    guest('inner', 'tern', 10);
    expect(times(stops('gannet'))).toEqual({
      ...{ inner: [0, 10], tern: [10, 130], lab: [130, 150], gannet: [150, 270] },
    });
  });
  it('a circle is broken and said; what is stopped or planned is not there', () => {
    guest('a');
    guest('b');
    needs('a', 'b');
    needs('b', 'a');
    world.make(world.found('off', 'gannet', 256, '192.0.2.99', 'stopped'));
    const found = stops('gannet');
    expect(found.stops.map(({ name, forced }) => [name, forced])).toEqual([
      ['a', true],
      ['b', false],
      ['gannet', false],
    ]);
    // a is told at once, b when a is down.
    expect(found.seconds).toBe(60 + 60 + 120);
  });
  it('nothing runs there: the host alone', () => {
    expect(times(stops('tern'))).toEqual({ tern: [0, 120] });
    expect(shutDown(world.fleet, [])).toEqual({ stops: [], seconds: 0, longest: [] });
  });
});

it('takes as long as the longest way through the reversed needs (graphlib, 40 graphs)', () => {
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: 1, max: 50 }), { minLength: 2, maxLength: 7 }),
      fc.array(fc.tuple(fc.nat(6), fc.nat(6)), { maxLength: 10 }),
      (seconds, pairs) => {
        world = smallWorld();
        next = 20;
        const names = seconds.map((_, i) => `g${i}`);
        for (const [i, name] of names.entries()) guest(name, 'gannet', seconds[i]);
        const reversed = new Graph();
        for (const [i, name] of names.entries()) reversed.setNode(name, seconds[i]);
        for (const [a, b] of pairs) {
          // Only from a higher to a lower one: no circle.
          if (a >= names.length || b >= a || reversed.hasEdge(names[a]!, names[b]!)) continue;
          needs(names[a]!, names[b]!);
          reversed.setEdge(names[a]!, names[b]!);
        }
        const down = new Map<string, number>();
        for (const name of alg.topsort(reversed))
          down.set(
            name,
            Math.max(0, ...(reversed.predecessors(name) ?? []).map((one) => down.get(one)!)) +
              (reversed.node(name) as number),
          );
        const found = stops('gannet');
        for (const stop of found.stops)
          if (stop.kind === 'guest') expect(stop.down).toBe(down.get(stop.name));
        expect(found.seconds).toBe(Math.max(...down.values()) + 120);
      },
    ),
    { numRuns: 40, seed: 20261127 },
  );
});
