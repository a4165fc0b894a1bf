import { describe, expect, it } from 'vitest';
import { smallWorld } from '../change/testing.js';
import { LEVEL_FLAGS } from '../host/level.js';
import { interfaceName } from '../names/index.js';
import { adviseDevices, drivesOf, type Drives } from './index.js';

const flags = (level: number) =>
  ([1, 2, 3, 4] as const)
    .filter((one) => one <= level)
    .flatMap((one) => LEVEL_FLAGS[one])
    .join(' ');

describe('devices by reason', () => {
  const world = smallWorld();
  const platform = world.fleet.need('platform', world.id('platform', 'Generic bare-metal 1'));
  const [gannet, tern] = [world.id('host', 'gannet'), world.id('host', 'tern')];
  const choices = (
    drives: Drives,
    over: Partial<typeof platform> = {},
    hosts = [gannet],
    moves: 'running' | 'stopped' = 'running',
  ) =>
    Object.fromEntries(
      adviseDevices(world.fleet, drives, { ...platform, ...over }, hosts, moves).map(
        ({ device, choice }) => [device, choice],
      ),
    );
  const nt = drivesOf('NT family', world.fleet.need('profile', world.id('profile', 'directory')));

  it('a kernel with the drivers gets paravirtual devices', () =>
    expect(choices(drivesOf('Linux', null))).toMatchObject({
      'disk bus': 'paravirtual',
      'adapter model': 'paravirtual',
      firmware: 'UEFI',
      graphics: 'none',
    }));
  it('one without gets an emulated SATA disk and a widely known adapter', () =>
    expect(choices(nt)).toMatchObject({
      'disk bus': 'SATA',
      'adapter model': 'emulated',
      graphics: 'basic',
    }));
  it('only what the platform offers is advised', () => {
    expect(
      choices(drivesOf('Linux', null), {
        diskBuses: ['IDE'],
        adapterModels: ['emulated'],
        uefiGuests: false,
      }),
    ).toMatchObject({ 'disk bus': 'IDE', 'adapter model': 'emulated', firmware: 'legacy' });
    expect(choices({ ...nt, legacyBoot: false }, { uefiGuests: false })).toMatchObject({
      firmware: 'unknown',
    });
  });
  it('alone, or moved only while off, it sees the host’s own processor', () => {
    expect(choices(nt).processor).toBe('host');
    expect(choices(nt, {}, [gannet, tern], 'stopped').processor).toBe('host');
    expect(choices(nt, { runningMigration: false }, [gannet, tern]).processor).toBe('host');
  });
  it('between hosts of different levels, the highest that all of them have', () => {
    world.make({
      type: 'host.edit',
      input: { id: gannet, processorModel: 'Invented R2', flags: flags(4) },
    });
    world.make({
      type: 'host.edit',
      input: { id: tern, processorModel: 'Invented E1', flags: flags(3) },
    });
    const [advice] = adviseDevices(world.fleet, nt, platform, [gannet, tern], 'running').filter(
      ({ device }) => device === 'processor',
    );
    expect(advice).toMatchObject({ choice: 'v3' });
    expect(advice!.reason).toContain('limited by tern');
  });
  it('where a level is not known, level 2 until somebody has looked', () => {
    world.make({ type: 'host.edit', input: { id: tern, flags: '', statedLevel: null } });
    expect(choices(nt, {}, [gannet, tern]).processor).toBe('v2');
  });
  it('every advice has a reason, a consequence and a source', () => {
    for (const advice of adviseDevices(world.fleet, nt, platform, [gannet], 'running'))
      expect(
        [advice.reason, advice.consequence, advice.source.text].every((text) => text.length > 10),
      ).toBe(true);
  });
});

it('interfaces are named by family and platform', () => {
  const platform = { interfacePattern: 'enp{n}s0', interfaceFirst: 1 };
  expect([
    interfaceName('Linux', platform, 0),
    interfaceName('appliance', platform, 2),
    interfaceName('NT family', platform, 0),
    interfaceName('NT family', platform, 1),
    interfaceName('BSD', platform, 0),
  ]).toEqual(['enp1s0', 'enp3s0', 'Ethernet', 'Ethernet 2', '']);
});
