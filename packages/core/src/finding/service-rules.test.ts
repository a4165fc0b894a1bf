/** Services that nobody provides, that hang on one host, or that manage the hosts they run on. */
import { beforeEach, describe, expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import { allFindings } from './index.js';

let world: World;
let serviceId: string;
beforeEach(() => {
  world = smallWorld();
  world.make({ type: 'service.record', input: { name: 'names', what: 'names' } });
  serviceId = world.id('service', 'names');
});
const guest = (name: string, host: string, ip: string) => {
  world.make(world.found(name, host, 256, ip));
  return world.id('guest', name);
};
const provides = (guestId: string) =>
  world.make({ type: 'provider.record', input: { serviceId, guestId } });
const needs = (guestId: string) =>
  world.make({ type: 'need.record', input: { guestId, serviceId } });
const told = () =>
  allFindings(world.fleet, world.now).filter(({ about }) => about.id === serviceId);
const rules = () => told().map(({ rule }) => rule);

describe('a service', () => {
  it('that nobody needs is no fault, provided or not', () => {
    expect(rules()).toEqual([]);
    provides(guest('ns-1', 'gannet', '192.0.2.20'));
    expect(rules()).toEqual([]);
  });
  it('that somebody needs wants a provider in service', () => {
    needs(guest('web', 'gannet', '192.0.2.10'));
    expect(told()).toMatchObject([
      {
        rule: 'service-unprovided',
        severity: 'blocker',
        evidence: 'names: one machine needs it, and nobody who provides it is in service.',
      },
    ]);
    const ns = guest('ns-1', 'gannet', '192.0.2.20');
    provides(ns);
    expect(rules()).toEqual(['service-on-one-host']);
    world.make({ type: 'guest.set-state', input: { id: ns, state: 'stopped' } });
    needs(guest('api', 'tern', '192.0.2.11'));
    expect(told()[0]!.evidence).toContain('2 machines need it');
  });
  it('on one host alone is told with it; two guests there are one host', () => {
    needs(guest('web', 'gannet', '192.0.2.10'));
    provides(guest('ns-1', 'gannet', '192.0.2.20'));
    provides(guest('ns-2', 'gannet', '192.0.2.21'));
    expect(told()[0]!.evidence).toBe(
      'names comes from ns-1 and ns-2 alone, on gannet; one machine needs it.',
    );
    provides(guest('ns-3', 'tern', '192.0.2.22'));
    expect(rules()).toEqual([]);
  });
  it('that a device provides as well does not hang on a host', () => {
    needs(guest('web', 'gannet', '192.0.2.10'));
    provides(guest('ns-1', 'gannet', '192.0.2.20'));
    world.make({
      type: 'device.record',
      input: { name: 'gate', kind: 'router', ports: [] },
    });
    const deviceId = world.id('device', 'gate');
    world.make({ type: 'provider.record', input: { serviceId, deviceId } });
    expect(rules()).toEqual([]);
    world.make({ type: 'device.edit', input: { id: deviceId, state: 'off' } });
    expect(rules()).toEqual(['service-on-one-host']);
  });
  it('that manages a group of hosts runs outside of it as well', () => {
    world.make({ type: 'host-group.record', input: { name: 'harbour' } });
    const groupId = world.id('hostGroup', 'harbour');
    world.make({ type: 'service.edit', input: { id: serviceId, hostGroupId: groupId } });
    world.make({ type: 'host.edit', input: { id: world.id('host', 'gannet'), groupId } });
    expect(rules()).toEqual([]);
    provides(guest('console', 'gannet', '192.0.2.20'));
    expect(told()).toMatchObject([
      {
        rule: 'manages-its-own-hosts',
        evidence: expect.stringContaining('only on gannet') as string,
      },
    ]);
    provides(guest('console-2', 'tern', '192.0.2.21'));
    expect(rules()).toEqual([]);
  });
});

describe('a circle of needs', () => {
  it('is told where it closes, and goes with a second provider elsewhere', () => {
    provides(guest('ns-1', 'gannet', '192.0.2.20'));
    world.make({
      type: 'need.record',
      input: { hostId: world.id('host', 'gannet'), serviceId },
    });
    const circle = () =>
      allFindings(world.fleet, world.now).filter(({ rule }) => rule === 'start-circle');
    expect(circle()).toHaveLength(1);
    expect(circle()[0]!.evidence).toContain('ns-1');
    provides(guest('ns-2', 'tern', '192.0.2.21'));
    expect(circle()).toEqual([]);
  });
});

describe('hosts managed over a network of guests', () => {
  const managed = (host: string, ip: string) =>
    world.make({
      type: 'address.set',
      input: { hostId: world.id('host', host), ip, assigned: false },
    });
  const evidence = () =>
    allFindings(world.fleet, world.now).find(({ rule }) => rule === 'management-shared')?.evidence;
  it('are named, with how many guests are there', () => {
    managed('gannet', '192.0.2.50');
    expect(evidence()).toBeUndefined();
    guest('web', 'gannet', '192.0.2.10');
    expect(evidence()).toBe('gannet is managed over shore, where 1 guest is.');
    managed('tern', '192.0.2.51');
    guest('api', 'tern', '192.0.2.11');
    expect(evidence()).toBe('gannet, tern are managed over shore, where 2 guests are.');
  });
});
