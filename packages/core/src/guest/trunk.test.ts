/** Sub-interfaces of a guest: several networks over one adapter, told apart by the tag (IEEE 802.1Q). */
import { beforeEach, describe, expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import { firstStart } from '../clone/first-start.js';
import { findingsOn } from '../finding/index.js';
import { placeOf } from './build-addresses.js';
import { adapterName, macOfAdapter } from '../names/interface-name.js';

let world: World;
let tagged: string;
const tide = () => world.id('guest', 'tide');
const adapters = () =>
  world.fleet.referring('adapter', 'guestId', tide()).sort((a, b) => a.position - b.position);
const add = (input: { networkId: string | null; trunkId?: string; mac?: string }) =>
  world.try({
    type: 'adapter.add',
    input: { guestId: tide(), address: { as: 'none' }, ...input },
  });

beforeEach(() => {
  world = smallWorld();
  world.make(world.plan('tide', 'gannet', 2048, { ip: '192.0.2.20' }));
  world.make({
    type: 'network.record',
    input: { name: 'pier', vlanId: 30 },
  });
  tagged = world.id('network', 'pier');
  world.make({
    type: 'host.carry',
    input: { hostId: world.id('host', 'gannet'), networkId: tagged, mode: 'bridged' },
  });
});
const trunked = () => {
  world.make({
    type: 'adapter.add',
    input: {
      guestId: tide(),
      networkId: tagged,
      trunkId: adapters()[0]!.id,
      address: { as: 'none' },
    },
  });
  const [trunk, sub] = adapters();
  return { trunk: trunk!, sub: sub! };
};

describe('a sub-interface', () => {
  it('has the MAC of the adapter that it travels over, and its name with a dot and the VLAN', () => {
    const { trunk, sub } = trunked();
    expect([sub.mac, sub.macAssigned, macOfAdapter(world.fleet, sub)]).toEqual([
      null,
      false,
      trunk.mac,
    ]);
    const guest = world.fleet.need('guest', tide());
    const { name } = adapterName(world.fleet, guest, trunk);
    expect(adapterName(world.fleet, guest, sub)).toEqual({ name: `${name}.30`, expected: true });
  });
  it('is refused on a network without a VLAN id, over another guest, over one of its kind, and with a MAC', () => {
    const { trunk, sub } = trunked();
    const code = (answer: ReturnType<typeof add>) => 'refused' in answer && answer.code;
    const shore = world.id('network', 'shore');
    expect(code(add({ networkId: shore, trunkId: trunk.id }))).toBe('no-vlan');
    expect(code(add({ networkId: null, trunkId: trunk.id }))).toBe('no-vlan');
    expect(code(add({ networkId: tagged, trunkId: sub.id }))).toBe('no-trunk');
    expect(code(add({ networkId: tagged, trunkId: trunk.id, mac: '02:00:00:00:00:09' }))).toBe(
      'no-trunk',
    );
    world.make(world.plan('ebb', 'gannet', 1024));
    const other = world.fleet.referring('adapter', 'guestId', world.id('guest', 'ebb'))[0]!;
    expect(code(add({ networkId: tagged, trunkId: other.id }))).toBe('no-trunk');
    const edited = world.try({
      type: 'adapter.edit',
      input: { id: sub.id, mac: '02:00:00:00:00:08' },
    });
    expect(code(edited)).toBe('mac-of-trunk');
  });
  it('goes with the adapter that it travels over', () => {
    const { trunk } = trunked();
    world.make({ type: 'adapter.remove', input: { id: trunk.id } });
    expect(adapters()).toEqual([]);
  });
  it('whose network has lost its VLAN id is a finding', () => {
    trunked();
    world.make({ type: 'network.edit', input: { id: tagged, vlanId: null } });
    const found = findingsOn(world.fleet, 'guest', tide(), world.now).find(
      ({ rule }) => rule === 'sub-interface-without-vlan',
    );
    expect(found?.evidence).toBe(
      'Adapter 2 of tide is tagged on adapter 1, and pier has no VLAN id.',
    );
  });
  it('is set up by the first-start files: id and link as the open convention of network-config has them', () => {
    const { trunk, sub } = trunked();
    expect(firstStart(world.fleet, tide()).networkConfig).toMatchObject({
      ethernets: { net0: { match: { macaddress: trunk.mac }, 'set-name': 'net0' } },
      vlans: { 'net0.30': { id: 30, link: 'net0', dhcp4: true } },
    });
    world.make({
      type: 'adapter.edit',
      input: { id: sub.id, nameInside: 'pier0' },
    });
    const [address] = world.fleet.referring('address', 'adapterId', trunk.id);
    world.make({ type: 'address.release', input: { id: address!.id } });
    const { ethernets, vlans } = firstStart(world.fleet, tide()).networkConfig;
    // A bare trunk draws no lease.
    expect(ethernets.net0!.dhcp4).toBeUndefined();
    expect(Object.keys(vlans!)).toEqual(['pier0']);
  });
  it('is copied with its adapter: a clone has one over its own', () => {
    world.make(world.found('master', 'gannet', 512, '192.0.2.10', 'stopped'));
    const originId = world.id('guest', 'master');
    const [first] = world.fleet.referring('adapter', 'guestId', originId);
    world.make({
      type: 'adapter.add',
      input: {
        guestId: originId,
        networkId: tagged,
        trunkId: first!.id,
        address: { as: 'none' },
      },
    });
    world.make({
      type: 'clone.make',
      input: { originId, copy: 'full', pattern: 'reader-#', start: 1, taking: 'run', clones: [{}] },
    });
    const [trunk, sub] = world.fleet
      .referring('adapter', 'guestId', world.id('guest', 'reader-1'))
      .sort((a, b) => a.position - b.position);
    expect([sub!.trunkId, sub!.mac, sub!.networkId]).toEqual([trunk!.id, null, tagged]);
    expect(trunk!.mac).not.toBe(first!.mac);
  });
});

it('the outside of a router is where its noted gateway lies, not the subnet whose gateway it is itself', () => {
  const { sub } = trunked();
  const [subnet] = [...world.fleet.all('subnet')];
  world.make({ type: 'subnet.edit', input: { id: subnet!.id, gateway: '192.0.2.20' } });
  world.make({
    type: 'subnet.record',
    input: { networkId: tagged, prefix: '198.51.100.0/24' },
  });
  world.make({
    type: 'address.set',
    input: { adapterId: sub.id, ip: '198.51.100.7', assigned: true },
  });
  const place = () =>
    placeOf({
      fleet: world.fleet,
      guest: world.fleet.need('guest', tide()),
      adapters: adapters(),
    });
  expect([place().adapter, place().gateway]).toEqual([undefined, null]);
  world.make({ type: 'guest.edit', input: { id: tide(), gateway: '198.51.100.1' } });
  expect([place().adapter?.id, place().gateway]).toEqual([sub.id, '198.51.100.1']);
});
