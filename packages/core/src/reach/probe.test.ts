/** Machines laid over a topology answer as if they had always been there; those that are off as if they never had. */
import { beforeAll, expect, it } from 'vitest';
import { addressOf } from '../address/index.js';
import { everyChange } from '../change/every-change.js';
import { World } from '../change/testing.js';
import type { Fleet } from '../record/index.js';
import {
  OUTSIDE,
  ping,
  pingBetween,
  segmentOnHost,
  Topology,
  worldOf,
  type Machine,
} from './index.js';

let fleet: Fleet;
let machines: Machine[];
beforeAll(() => {
  const world = new World();
  for (const change of everyChange(world.fleet)) world.make(change);
  ({ fleet } = world);
  machines = [...worldOf(fleet).topology.machines.values()];
});
const addressesOf = ({ ifaces }: Machine) => ifaces.flatMap(({ addresses }) => addresses);
/** Verdicts and failures between all of them. */
const answers = (topology: Topology, among: readonly Machine[]) =>
  among.flatMap((from) =>
    among.flatMap((to) =>
      addressesOf(to).map((address) => {
        const { verdict, request, reply } = ping(topology, from, address, to);
        return [from.name, to.name, verdict, request.failure?.code, reply?.failure?.code].join();
      }),
    ),
  );

it('each machine laid over the others', () => {
  const all = answers(new Topology(machines), machines);
  expect(new Set(all.map((one) => one.split(',')[2])).size).toBeGreaterThan(1);
  for (const machine of machines.filter(({ id }) => id !== OUTSIDE)) {
    const others = new Topology(machines.filter((other) => other !== machine));
    expect(answers(others.with([machine]), machines)).toEqual(all);
  }
});

it('each machine off', () => {
  for (const machine of machines.filter(({ id }) => id !== OUTSIDE)) {
    const others = machines.filter((other) => other !== machine);
    const over = new Topology(machines).with([], new Set([machine.id]));
    expect(answers(over, others)).toEqual(answers(new Topology(others), others));
  }
});

it('a probe hears who is on its segment, and nobody who is off', () => {
  const shore = [...fleet.all('network')].find(({ name }) => name === 'shore')!;
  const carrying = [...fleet.all('host')].filter(
    ({ id }) => segmentOnHost(fleet, id, shore.id) !== null,
  );
  expect(carrying.length).toBeGreaterThan(0);
  const segment = segmentOnHost(fleet, carrying[0]!.id, shore.id);
  const probe = (ip: string) => ({
    ...{ name: ip, segment, ip, prefixLength: 24, gateway: null },
  });
  const world = worldOf(fleet);
  expect(pingBetween(world, probe('192.0.2.201'), probe('192.0.2.202')).verdict).toBe('yes');
  // An address that the record knows already is answered by both.
  const held = world.topology.ownersOf(addressOf('192.0.2.1'))[0]!;
  expect(
    pingBetween(world, probe('192.0.2.201'), probe('192.0.2.1')).request.contested,
  ).not.toBeNull();
  expect(
    pingBetween(world, probe('192.0.2.201'), probe('192.0.2.1'), new Set([held.id])).verdict,
  ).toBe('yes');
});
