/** First-start files out of the record; keys by the general open convention of user-data, meta-data and network-config (from memory). */
import { beforeEach, describe, expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import { firstStart } from './first-start.js';

let world: World;
beforeEach(() => {
  world = smallWorld();
  world.make(world.plan('tide', 'gannet', 2048, { ip: '192.0.2.20' }));
});
const files = () => firstStart(world.fleet, world.id('guest', 'tide'));
const adapter = () => world.fleet.referring('adapter', 'guestId', world.id('guest', 'tide'))[0]!;
const subnet = () => [...world.fleet.all('subnet')][0]!;

describe('first-start files', () => {
  it('name the machine and give it its address, matched by its MAC', () => {
    world.make({
      type: 'subnet.edit',
      input: { id: subnet().id, nameServers: ['192.0.2.53'], domain: 'pier.example' },
    });
    const { metaData, userData, networkConfig, sets } = files();
    expect(metaData).toEqual({
      'instance-id': world.id('guest', 'tide'),
      'local-hostname': 'tide',
    });
    expect(userData).toMatchObject({ hostname: 'tide', fqdn: 'tide.pier.example' });
    expect(networkConfig).toEqual({
      version: 2,
      ethernets: {
        net0: {
          match: { macaddress: adapter().mac },
          addresses: ['192.0.2.20/24'],
          routes: [{ to: 'default', via: subnet().gateway }],
          nameservers: { addresses: ['192.0.2.53'], search: ['pier.example'] },
        },
      },
    });
    expect(sets).toEqual(['computer name', 'static address', 'SSH host keys']);
  });
  it('say an MTU that is not the usual one, and the name inside', () => {
    world.make({ type: 'network.edit', input: { id: world.id('network', 'shore'), mtu: 9000 } });
    world.make({ type: 'adapter.edit', input: { id: adapter().id, nameInside: 'lan0' } });
    expect(files().networkConfig.ethernets.lan0).toMatchObject({ 'set-name': 'lan0', mtu: 9000 });
  });
  it('ask for a lease where no address is its own, and set none then', () => {
    const [row] = world.fleet.referring('address', 'adapterId', adapter().id);
    world.make({ type: 'address.edit', input: { id: row!.id, use: 'reservation' } });
    const { networkConfig, sets } = files();
    expect(networkConfig.ethernets.net0).toEqual({
      match: { macaddress: adapter().mac },
      dhcp4: true,
    });
    expect(sets).not.toContain('static address');
  });
  it('name the assumption where no address is recorded', () => {
    const [row] = world.fleet.referring('address', 'adapterId', adapter().id);
    world.make({ type: 'address.release', input: { id: row!.id } });
    expect(files().networkConfig.ethernets.net0).toMatchObject({ dhcp4: true });
    expect(files().left[0]).toBe(
      'Adapter 1 has no recorded address: it is assumed to draw a lease.',
    );
  });
  it('leave the gateway out where there is none on purpose, and say so where nobody decided', () => {
    const id = world.id('guest', 'tide');
    world.make({ type: 'guest.edit', input: { id, noGateway: true } });
    expect(files().networkConfig.ethernets.net0!.routes).toBeUndefined();
    world.make({ type: 'guest.edit', input: { id, noGateway: false } });
    world.make({ type: 'subnet.edit', input: { id: subnet().id, gateway: null } });
    expect(files().left).toContain('No gateway is decided.');
  });
  it('ask for the packages of the role, and name its keys without holding them', () => {
    const { id } = [...world.fleet.all('profile')][0]!;
    world.make({
      type: 'profile.edit',
      input: { id, packages: ['chrony', 'rsync'], signInKeys: ['station-admins'] },
    });
    expect(files().userData.packages).toBeUndefined();
    world.make({ type: 'guest.edit', input: { id: world.id('guest', 'tide'), profileId: id } });
    expect(files().userData).toMatchObject({
      package_update: true,
      packages: ['chrony', 'rsync'],
    });
    expect(files().signInKeys).toEqual(['station-admins']);
    expect(files().left.at(-1)).toContain('put station-admins where user-data names them');
  });
  it('hold no secret, and say what has to be done by hand', () => {
    expect(JSON.stringify(files())).not.toMatch(/passw(?:or)?d"|private|chpasswd/i);
    expect(files().left.at(-1)).toMatch(/^Keys for signing in, passwords/);
  });
});
