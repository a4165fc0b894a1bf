import { beforeEach, describe, expect, it, test } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import { alike, nextName } from './build-alike.js';
import { buildSheet } from './build-sheet.js';
import { HOST_TESTS } from './management.js';

let world: World;
beforeEach(() => {
  world = smallWorld();
});
const gannet = () => world.id('host', 'gannet');
const sheet = () => buildSheet(world.fleet, gannet());
const lines = (title: string) => sheet().sections.find((section) => section.title === title)!.lines;
const value = (title: string, text: string) =>
  lines(title).find((line) => line.text.startsWith(text))?.value;

describe('the build sheet', () => {
  it('says what is not decided yet instead of leaving it out', () =>
    expect(sheet().undecided).toEqual(
      expect.arrayContaining([
        'Install image',
        'Target disk',
        'Management port',
        'Address and prefix length',
        'Gateway',
        'Time zone',
      ]),
    ));
  it('names the machine by model and serial, by one of them, or as not decided', () => {
    const named = (machineModel: string, serial: string) => {
      world.make({ type: 'host.edit', input: { id: gannet(), machineModel, serial } });
      return sheet()
        .sections.flatMap((section) => section.lines)
        .find(({ text }) => text === 'Machine')!.value;
    };
    expect(named('Deck 2', 'S-7')).toBe('Deck 2, serial S-7');
    expect(named('Deck 2', '')).toBe('Deck 2');
    expect(named('', 'S-7')).toBe('serial S-7');
    expect(named('', '')).toBeNull();
  });
  it('says how many power supplies it has, and of several that each wants a feed of its own', () => {
    const power = (powerSupplies: number) => {
      world.make({ type: 'host.edit', input: { id: gannet(), powerSupplies } });
      const all = sheet().sections.flatMap((section) => section.lines);
      return all.find(({ text }) => text.startsWith('Power:'))!.text;
    };
    expect(power(2)).toBe('Power: 2 supplies, each on a feed of its own');
    expect(power(1)).toBe('Power: 1 supply');
  });
  it('carries every value to type, read off the record', () => {
    world.make({
      type: 'host.edit',
      input: {
        id: gannet(),
        domain: 'nordholm.example',
        timeZone: 'Atlantic/Reykjavik',
        keyboard: 'US',
        consolePort: 8443,
        controllerMode: 'AHCI',
      },
    });
    world.make({
      type: 'address.set',
      input: { hostId: gannet(), ip: '192.0.2.7', assigned: true },
    });
    world.make({
      type: 'host.set-hardware',
      input: {
        hostId: gannet(),
        hardware: {
          arrays: [{ name: 'boot', level: '1', purpose: 'boot' }],
          disks: [
            {
              bay: '1',
              model: 'Flint',
              serial: 'A1',
              bytes: 480e9,
              class: 'enterprise flash',
              array: 'boot',
            },
            {
              bay: '2',
              model: 'Flint',
              serial: 'A2',
              bytes: 480e9,
              class: 'enterprise flash',
              array: 'boot',
            },
          ],
          ports: [{ name: 'p1', management: true, mac: '02:00:5e:10:00:01' }],
        },
      },
    });
    expect(value('Type at the installer', 'Full host name')).toBe('gannet.nordholm.example');
    expect(value('Type at the installer', 'Address')).toBe('192.0.2.7/24');
    expect(value('Type at the installer', 'Gateway')).toBe('192.0.2.1');
    expect(value('Type at the installer', 'Name servers')).toBe('203.0.113.53');
    expect(value('Type at the installer', 'Target: array boot, level 1, bay 2')).toBe(
      'Flint, serial A2, 480 GB = 447 GiB',
    );
    expect(sheet().tests.find((found) => found.test === 'own name, reverse')!.text).toBe(
      '192.0.2.7 resolves to gannet.nordholm.example',
    );
    expect(sheet().tests.map((found) => found.test)).toEqual([...HOST_TESTS]);
  });
  it('names the disk to be erased with a caution', () =>
    expect(lines('Type at the installer')[0]!.caution).toContain('erased'));
  it('asks for a stick as large as the image, and compares its checksum', () => {
    world.make({
      type: 'medium.record',
      input: {
        name: 'generic-1.img',
        bytes: 9_000_000_000,
        sha256: 'ab'.repeat(32),
        platformId: world.id('platform', 'Generic bare-metal 1'),
      },
    });
    expect(lines('Bring')[0]!.text).toBe('USB stick of at least 16 GB');
    expect(value('Prepare the stick', 'Its SHA-256')).toBe('ab'.repeat(32));
  });
  test.each([
    [12, undefined],
    [18, 'a second person'],
    [40, 'three people'],
    [60, 'a lift'],
  ])('%d kg ask for %s (labels on rack equipment: common practice, no source)', (weightKg, who) => {
    world.make({ type: 'host.edit', input: { id: gannet(), weightKg } });
    const line = lines('Bring').find((found) => found.text.startsWith('For the weight'));
    if (who) expect(line!.text).toContain(who);
    else expect(line).toBeUndefined();
  });
  it('brings the cable of this machine’s connector', () => {
    world.make({ type: 'host.edit', input: { id: gannet(), videoConnector: 'DE-15 analogue' } });
    expect(lines('Bring')[1]!.text).toBe('Monitor and cable for DE-15 analogue');
  });
  it('expects what own builds took, and common practice before there are any', () => {
    expect(lines('How long it takes')[0]!.text).toContain('20 to 30 minutes');
    for (const [name, minutes] of [
      ['a', 20],
      ['b', 50],
      ['c', 35],
    ] as const) {
      world.host(name, 8, { state: 'planned' as never });
      world.make({
        type: 'host.built',
        input: {
          hostId: world.id('host', name),
          startedAt: '2026-11-20T06:00:00Z',
          endedAt: new Date(Date.parse('2026-11-20T06:00:00Z') + minutes * 60_000).toISOString(),
          tests: [],
        },
      });
    }
    expect(lines('How long it takes')[0]!.text).toContain(
      '35 minutes in the middle of 3 recorded builds of this platform (20 to 50)',
    );
  });
});

describe('the next host like this one', () => {
  test.each([
    ['gannet', 'gannet-2'],
    ['rock-09', 'rock-10'],
    ['rock9', 'rock10'],
    ['r1-host-99', 'r1-host-100'],
    ['a1b', 'a2b'],
  ])('after %s comes %s', (name, next) => expect(nextName(name, () => false)).toBe(next));
  it('keeps what is common, leaves what is the machine’s own, and goes on with names and addresses', () => {
    world.make({ type: 'rack.record', input: { name: 'rack 1', units: 10 } });
    world.make({
      type: 'host.edit',
      input: {
        id: gannet(),
        serial: 'S1',
        purpose: 'shore',
        rackId: [...world.fleet.all('rack')][0]!.id,
        rackUnit: 2,
        rackHeight: 2,
      },
    });
    world.make({
      type: 'address.set',
      input: { hostId: gannet(), ip: '192.0.2.7', assigned: true },
    });
    world.make({
      type: 'host.set-hardware',
      input: {
        hostId: gannet(),
        hardware: {
          disks: [{ bay: '1', serial: 'D1', bytes: 1e12, class: 'enterprise disk' }],
          ports: [{ name: 'p1', mac: '02:00:5e:10:00:01' }],
        },
      },
    });
    const [one, two] = alike(world.fleet, gannet(), 2);
    expect(
      [one, two].map((like) => [
        like!.input.name,
        like!.ip,
        like!.input.rackUnit,
        like!.input.pools[0]!.name,
      ]),
    ).toEqual([
      ['gannet-2', '192.0.2.2', 4, 'gannet-2-data'],
      ['gannet-3', '192.0.2.3', 6, 'gannet-3-data'],
    ]);
    expect(one!.input).toMatchObject({ purpose: 'shore', state: 'planned', coresPerSocket: 8 });
    expect(one!.input.serial).toBeUndefined();
    expect(one!.input.hardware!.disks![0]).not.toHaveProperty('serial');
    expect(one!.input.hardware!.ports![0]).not.toHaveProperty('mac');
    world.make({
      type: 'host.record-many',
      input: { hosts: alike(world.fleet, gannet(), 2).map(({ input }) => input) },
    });
    expect(world.fleet.referring('disk', 'hostId', world.id('host', 'gannet-3'))).toHaveLength(1);
    expect(alike(world.fleet, gannet(), 1)[0]!.input.name).toBe('gannet-4');
  });
});
