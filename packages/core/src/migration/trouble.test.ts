/** Signs of a move that does not come up, and the causes that the record makes likely: what speaks for one puts it first. */
import { beforeEach, describe, expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import { SIGNS } from '../record/index.js';
import { likelyCauses, type Sign } from './index.js';

let world: World;
let guestId: string;
const move = () => [...world.fleet.all('migration')].at(-1)!.id;
const causes = (sign: Sign) => likelyCauses(world.fleet, move(), sign);
const first = (sign: Sign) => causes(sign)[0]!;
const keys = (sign: Sign) => causes(sign).map(({ key }) => key);
const plan = () =>
  world.make({
    type: 'migration.plan',
    input: {
      guestId,
      targetHostId: world.id('host', 'tern'),
      targetPoolId: world.id('pool', 'tern-data'),
      running: false,
      linkBitsPerSecond: 1e9,
    },
    override: 'a test of what goes wrong',
  });
const otherPlatform = (fields: object = {}) => {
  const platformId = world.id('platform', 'Generic bare-metal 2, lean');
  world.make({ type: 'host.edit', input: { id: world.id('host', 'tern'), platformId } });
  world.make({
    type: 'platform.edit',
    input: { id: platformId, interfacePattern: 'ens{n}', interfaceFirst: 18, ...fields },
  });
};
beforeEach(() => {
  world = smallWorld();
  world.make(world.found('web', 'gannet', 2048, '192.0.2.10'));
  guestId = world.id('guest', 'web');
});

describe('every sign', () => {
  it.each(SIGNS)('%s has a cause, a test and a mend', (sign) => {
    otherPlatform();
    plan();
    const found = causes(sign);
    expect(found.length).toBeGreaterThan(0);
    for (const { title, test, mend } of found)
      expect([title, test, mend].every((words) => words.length > 10)).toBe(true);
  });
  it('between like hosts, what only differs between platforms is no cause', () => {
    plan();
    expect(keys('no network')).not.toContain('interface-renamed');
    expect(keys('a stop error at its start')).toEqual([]);
  });
});

describe('what the record speaks for comes first', () => {
  it('a medium in its drive, where the installer starts again', () => {
    plan();
    world.make({ type: 'medium.record', input: { name: 'image', bytes: 1e9 } });
    const mediumId = world.id('medium', 'image');
    world.make({ type: 'drive.record', input: { guestId, mediumId } });
    expect(first('the installer starts again')).toMatchObject({
      key: 'medium-first',
      because: 'image is in its drive.',
    });
  });
  it('a controller that is not offered, at a stop error', () => {
    const [volume] = world.fleet.referring('volume', 'guestId', guestId);
    world.make({ type: 'volume.edit', input: { id: volume!.id, bus: 'IDE' } });
    otherPlatform({ diskBuses: ['paravirtual'] });
    plan();
    expect(first('a stop error at its start')).toMatchObject({
      key: 'controller-differs',
      because: 'Generic bare-metal 2, lean does not offer IDE.',
    });
  });
  it('a name of an interface that changed, without a network', () => {
    otherPlatform();
    plan();
    expect(first('no network')).toMatchObject({
      key: 'interface-renamed',
      because: expect.stringMatching(/^Interfaces are named .* there and ens\{n\} here/),
    });
  });
  it('a source whose staying off is not ticked, where both lost their connection', () => {
    plan();
    expect(first('both lost their connection').key).toBe('source-still-on');
  });
  it('a slow port, where the copy crawls', () => {
    plan();
    expect(first('the copy stalls or crawls').because).toBe('');
    world.make({
      type: 'host.set-hardware',
      input: {
        hostId: world.id('host', 'tern'),
        hardware: { ports: [{ name: 'p1', bitsPerSecond: 1e8 }] },
      },
    });
    expect(first('the copy stalls or crawls')).toMatchObject({
      key: 'link-negotiated-down',
      because: 'p1 of tern runs at 100 Mbit/s.',
    });
  });
  it('the full size in bytes, where the target is refused as smaller', () => {
    plan();
    expect(first('the target is refused as smaller').because).toBe(
      'It needs disk 1 50,000,000,000 bytes.',
    );
  });
  it('no common network, where the sender is not found', () => {
    plan();
    expect(first('the receiving side does not find the sender').key).toBe('no-common-network');
  });
});

describe('what was found', () => {
  const found = (cause: string, was: boolean, sign: Sign = 'the copy stalls or crawls') =>
    world.make({
      type: 'migration.answer',
      input: { migrationId: move(), sign, cause, was },
    });
  it('comes first where it was this, last where it was not, and the last answer counts', () => {
    plan();
    const [usual] = keys('the copy stalls or crawls');
    found(usual!, false);
    expect(keys('the copy stalls or crawls').at(-1)).toBe(usual);
    expect(causes('the copy stalls or crawls').at(-1)!.answered).toBe('it was not');
    found('disk-fails', true);
    expect(first('the copy stalls or crawls')).toMatchObject({
      ...{ key: 'disk-fails', answered: 'it was' },
    });
    found(usual!, true);
    expect(causes('the copy stalls or crawls').filter(({ answered }) => answered)).toHaveLength(2);
    // Another sign of the same move is another question.
    expect(first('it is slower than before').answered).toBeNull();
  });
  it('weighs the order at the next move, against what its record speaks for', () => {
    plan();
    found('disk-fails', true);
    found('link-negotiated-down', false);
    world.make({ type: 'migration.step', input: { id: move(), step: 'roll back' } });
    plan();
    expect(first('the copy stalls or crawls')).toMatchObject({
      ...{ key: 'disk-fails', answered: null, was: 1, wasNot: 0 },
    });
    expect(keys('the copy stalls or crawls').at(-1)).toBe('link-negotiated-down');
    world.make({
      type: 'host.set-hardware',
      input: {
        hostId: world.id('host', 'tern'),
        hardware: { ports: [{ name: 'p1', bitsPerSecond: 1e8 }] },
      },
    });
    // Three for what speaks, halved by what it was not: 1.5 against 2.
    expect(keys('the copy stalls or crawls').slice(0, 2)).toEqual([
      'disk-fails',
      'link-negotiated-down',
    ]);
  });
  it('of a cause that is none of the sign is refused', () => {
    plan();
    const answer = world.try({
      type: 'migration.answer',
      input: { migrationId: move(), sign: 'no network', cause: 'disk-fails', was: true },
    });
    expect(answer).toMatchObject({ code: 'no-such-cause', field: 'cause' });
  });
});

describe('a mend that the record can make', () => {
  it('ejects the medium', () => {
    plan();
    world.make({ type: 'medium.record', input: { name: 'image', bytes: 1e9 } });
    world.make({
      type: 'drive.record',
      input: { guestId, mediumId: world.id('medium', 'image') },
    });
    const { change } = first('the installer starts again');
    expect(change!.label).toBe('Eject image');
    world.make(change!.change);
    expect(world.fleet.count('drive')).toBe(0);
  });
  it('connects the adapter, lets the host carry the network', () => {
    plan();
    const [adapter] = world.fleet.referring('adapter', 'guestId', guestId);
    world.make({ type: 'adapter.edit', input: { id: adapter!.id, connected: false } });
    const off = causes('no network').find(({ key }) => key === 'adapter-disconnected')!;
    world.make(off.change!.change);
    expect(world.fleet.need('adapter', adapter!.id).connected).toBe(true);
    world.make({ type: 'network.record', input: { name: 'hill', vlanId: 14 } });
    world.make({
      type: 'adapter.edit',
      input: { id: adapter!.id, networkId: world.id('network', 'hill') },
      override: 'a test',
    });
    const missing = causes('no network').find(({ key }) => key === 'network-not-carried')!;
    expect(missing.change!.label).toBe('Let tern carry hill');
    world.make(missing.change!.change);
    expect(causes('no network').find(({ key }) => key === 'network-not-carried')!.because).toBe('');
  });
  it('records the basic graphics device', () => {
    world.make({ type: 'guest.edit', input: { id: guestId, graphics: 'accelerated' } });
    otherPlatform({ acceleratedGraphics: false });
    plan();
    world.make(first('the desktop fails, text works').change!.change);
    expect(world.fleet.need('guest', guestId).graphics).toBe('basic');
  });
});
