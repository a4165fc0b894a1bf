/** What a guest prints before and after its move: read by hand and from the script itself, compared, and what it proves. */
import { execFileSync } from 'node:child_process';
import { beforeEach, describe, expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import { acceptingThemselves, acceptsItself } from '../finding/index.js';
import { compareReadings, READING_KEYS, READING_SCRIPT, readReading } from './index.js';

let world: World;
let guestId: string;
beforeEach(() => {
  world = smallWorld();
  world.make(world.found('web', 'gannet', 2048, '192.0.2.10'));
  guestId = world.id('guest', 'web');
  const id = world.id('pool', 'gannet-data');
  const hostIds = ['gannet', 'tern'].map((name) => world.id('host', name));
  world.make({ type: 'pool.edit', input: { id, hostIds } });
});
const mac = () => '02:00:00:00:00:01';
const plan = (running: boolean) =>
  world.make({
    type: 'migration.plan',
    input: {
      guestId,
      targetHostId: world.id('host', 'tern'),
      targetPoolId: null,
      running,
      linkBitsPerSecond: 1e9,
    },
    override: 'to be compared',
  });
const open = () => [...world.fleet.all('migration')].at(-1)!;
const step = (key: string) =>
  world.fleet.referring('moveStep', 'migrationId', open().id).find((row) => row.key === key)!;
const take = (when: 'before' | 'after', lines: readonly string[]) => ({
  type: 'migration.take-reading' as const,
  input: { id: open().id, when, text: ['insel-reading: 1', ...lines].join('\n') },
});
const switchOver = () =>
  world.make({
    type: 'migration.step',
    input: { id: open().id, step: 'switch', copySeconds: 60 },
    override: 'done',
  });

const BEFORE = [
  'name: web',
  'machine-id: 0a0b',
  'interface: eth0 02:00:00:00:00:01',
  'address: eth0 192.0.2.10/24',
  'gateway: 192.0.2.1',
  'name-server: 192.0.2.53',
  'disk: vda 10737418240',
  'mount: / ext4',
  'mount: /data ext4',
  'listens: tcp 22',
  'listens: tcp 443',
  'job: rotate.timer',
  'uptime: 400000',
];
const verdict = (before: readonly string[], after: readonly string[], what: string) =>
  compareReadings(world.fleet, open(), before, after).find((row) => row.what === what);

describe('what the script prints', () => {
  it('is taken only with its first line, and only what is known of it', () => {
    expect(readReading('name: web')).toMatchObject({ ok: false });
    expect(readReading('\ninsel-reading: 1\r\nNAME:  web \nsecret: x\nname: web\n')).toEqual({
      ok: true,
      lines: ['name: web'],
    });
    const many = Array.from({ length: 401 }, (_, i) => `listens: tcp ${i}`).join('\n');
    expect(readReading(`insel-reading: 1\n${many}`)).toMatchObject({ ok: false });
  });
  // Outside check: a shell reads it, and what this machine prints is understood.
  it('is printed by any POSIX shell, and nothing of it is unknown here', () => {
    execFileSync('sh', ['-n'], { input: READING_SCRIPT });
    const printed = execFileSync('sh', [], { input: READING_SCRIPT, encoding: 'utf8' });
    const read = readReading(printed);
    expect(read.ok).toBe(true);
    const keys = new Set(
      printed
        .trim()
        .split('\n')
        .slice(1)
        .map((line) => line.split(':')[0]),
    );
    for (const key of keys) expect(READING_KEYS).toContain(key);
    expect(keys).toContain('uptime');
  });
});

describe('before and after', () => {
  beforeEach(() => {
    plan(true);
  });
  it.each([
    ['gateway', ['gateway: 192.0.2.254'], false, 'missing: 192.0.2.1; new: 192.0.2.254'],
    ['mount', ['mount: / ext4'], false, 'missing: /data ext4'],
    [
      'mount',
      ['mount: / ext4', 'mount: /data ext4', 'mount: /new xfs'],
      true,
      '/ ext4, /data ext4',
    ],
    ['listens', ['listens: tcp 22'], false, 'missing: tcp 443'],
    ['disk', ['disk: sda 11811160064'], true, 'none is smaller'],
    ['disk', ['disk: sda 10000000000'], false, 'one of 10737418240 bytes has 10000000000 now'],
    ['machine-id', ['machine-id: ffff'], false, 'missing: 0a0b; new: ffff'],
    ['address', ['address: eth0 192.0.2.10/24'], true, '192.0.2.10, as recorded'],
    [
      'address',
      ['address: eth0 192.0.2.99/24'],
      false,
      'recorded and missing: 192.0.2.10; not recorded: 192.0.2.99',
    ],
    ['uptime', ['uptime: 400100'], true, 'up for 4 d 15 h'],
    ['uptime', ['uptime: 60'], false, 'restarted 1 min before it was read'],
    ['job', [], false, 'missing: rotate.timer'],
  ])('%s: %j', (what, after, holds, sentence) => {
    const found = verdict(BEFORE, after, what);
    expect([found!.holds, found!.sentence]).toEqual([holds, sentence]);
  });
  it('a service that failed is told, unless it failed before', () => {
    expect(verdict(BEFORE, ['failed: web.service'], 'failed')).toMatchObject({ holds: false });
    const already = [...BEFORE, 'failed: web.service'];
    expect(verdict(already, ['failed: web.service'], 'failed')).toMatchObject({ holds: true });
    expect(verdict(BEFORE, BEFORE, 'failed')).toMatchObject({ holds: true });
  });
  it('what was not read before is not passed', () => {
    expect(verdict([], ['mount: / ext4'], 'mount')).toMatchObject({ holds: null });
    expect(verdict([], ['gateway: 192.0.2.1'], 'gateway')).toMatchObject({ holds: null });
  });
  it('an interface is renamed as the platform there names it, under a MAC of the record', () => {
    const platformId = world.id('platform', 'Generic bare-metal 2, lean');
    world.make({ type: 'host.edit', input: { id: world.id('host', 'tern'), platformId } });
    world.make({
      type: 'platform.edit',
      input: { id: platformId, interfacePattern: 'ens{n}', interfaceFirst: 18 },
    });
    const then = [`interface: eth0 ${mac()}`];
    expect(verdict(then, [`interface: ens18 ${mac()}`], 'interface')).toMatchObject({
      holds: true,
      sentence: 'renamed as expected: eth0 → ens18',
    });
    expect(verdict(then, [`interface: enp1s0 ${mac()}`], 'interface')).toMatchObject({
      holds: false,
      sentence: 'eth0 → enp1s0, expected ens18',
    });
    expect(verdict(then, ['interface: ens18 02:00:00:00:00:99'], 'interface')).toMatchObject({
      holds: false,
    });
  });
});

describe('a reading', () => {
  it('that shows all as it was ticks the step that asks for it; one that does not leaves it open', () => {
    plan(true);
    world.make(take('before', BEFORE));
    switchOver();
    const bad = world.make(
      take(
        'after',
        BEFORE.filter((line) => line !== 'listens: tcp 443'),
      ),
    );
    expect(bad.title).toContain('not as it was: listens');
    expect(step('answers').state).toBe('open');
    const good = world.make(
      take(
        'after',
        BEFORE.map((line) => line.replace('400000', '400900')),
      ),
    );
    expect(good.title).toContain('as it was');
    expect(step('answers')).toMatchObject({
      state: 'done',
      remark: 'proved by what it printed before and after',
    });
    expect(world.fleet.referringCount('moveReading', 'migrationId', open().id)).toBe(2);
  });
  it('is taken in its time only', () => {
    plan(true);
    expect(world.try(take('after', BEFORE))).toMatchObject({ code: 'reading-out-of-time' });
    expect(
      world.try({
        type: 'migration.take-reading',
        input: { id: open().id, when: 'before', text: 'nonsense' },
      }),
    ).toMatchObject({ code: 'reading-not-read', field: 'text' });
    switchOver();
    expect(world.try(take('before', BEFORE))).toMatchObject({ code: 'reading-out-of-time' });
  });
});

describe('a routine move', () => {
  const later = (hours: number) =>
    new Date(Date.parse(world.now) + hours * 3_600_000).toISOString();
  it('accepts itself a day after the switch, where nothing stands against it', () => {
    plan(true);
    expect(acceptsItself(world.fleet, open(), world.now)).toBeNull();
    switchOver();
    expect(acceptsItself(world.fleet, open(), world.now)).toEqual({ at: later(24), against: [] });
    expect(acceptingThemselves(world.fleet, later(23))).toEqual([]);
    expect(acceptingThemselves(world.fleet, later(24)).map(({ id }) => id)).toEqual([open().id]);
  });
  it('does not while what it prints is not as it was', () => {
    plan(true);
    world.make(take('before', BEFORE));
    switchOver();
    world.make(
      take(
        'after',
        BEFORE.filter((line) => line !== 'mount: /data ext4'),
      ),
    );
    expect(acceptsItself(world.fleet, open(), world.now)!.against).toEqual([
      'mount: missing: /data ext4',
    ]);
  });
  it('does not while a step has failed, and says which', () => {
    plan(true);
    switchOver();
    world.make({
      type: 'migration.tick',
      input: { stepIds: [step('answers').id], state: 'failed', remark: 'no route' },
    });
    expect(acceptsItself(world.fleet, open(), world.now)!.against).toContain(
      'failed: It answers under its name and address',
    );
    expect(acceptingThemselves(world.fleet, later(48))).toEqual([]);
  });
  it('between platforms is accepted by a named user', () => {
    const platformId = world.id('platform', 'Generic bare-metal 2, lean');
    world.make({ type: 'host.edit', input: { id: world.id('host', 'tern'), platformId } });
    plan(false);
    world.make({
      type: 'migration.step',
      input: { id: open().id, step: 'start' },
      override: 'done',
    });
    switchOver();
    expect(acceptsItself(world.fleet, open(), world.now)).toBeNull();
  });
});
