import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { Fleet } from './fleet.js';
import { KIND_NAMES, KINDS } from './kinds/index.js';
import { upcast, type LogEntry } from './log.js';

/** Written by the version that knew only shape 1: a network, two hosts, a guest, a clone, its undoing, an edit. */
const read = (file: string) =>
  JSON.parse(readFileSync(new URL(file, import.meta.url), 'utf8')) as LogEntry[];
const SHAPE_1 = read('./log-of-shape-1.json');
/** Written by the version that knew shape 2: hardware, a planned guest, an edited subnet, an address, an undoing. */
const SHAPE_2 = read('./log-of-shape-2.json');

/** Written by the version that knew shape 3: a service with its provider, a need, a medium, a pool that a guest serves. */
const SHAPE_3 = read('./log-of-shape-3.json');

/** Written by the version that knew shape 4: the history in which every change happens, times as they were typed. */
const SHAPE_4 = read('./log-of-shape-4.json');

function everyFieldOfToday(fleet: Fleet): void {
  for (const kind of KIND_NAMES) {
    for (const row of fleet.all(kind))
      expect([kind, Object.keys(row).sort()]).toEqual([
        kind,
        ['id', 'revision', ...Object.keys(KINDS[kind].fields)].sort(),
      ]);
  }
}

it('a log of shape 1 replays into rows that have every field of today', () => {
  const fleet = new Fleet();
  for (const entry of SHAPE_1) fleet.apply(upcast(entry), entry.revision);
  expect(fleet.revision).toBe(SHAPE_1.length);
  expect(
    [...fleet.all('host')].map((host) => [host.name, host.purpose, host.rackHeight, host.flags]),
  ).toEqual([
    ['gannet', '', 1, ''],
    ['tern', 'annex', 1, ''],
  ]);
  expect([...fleet.all('guest')].map((guest) => [guest.name, guest.processorMode])).toEqual([
    ['tide', 'unknown'],
  ]);
  everyFieldOfToday(fleet);
});

it('a log of shape 2 replays into rows that have every field of today', () => {
  const fleet = new Fleet();
  for (const entry of SHAPE_2) fleet.apply(upcast(entry), entry.revision);
  expect(
    [...fleet.all('port')].map((port) => [port.name, port.pluggedInto, port.up, port.switchPortId]),
  ).toEqual([['p1', 'harbour 7', true, null]]);
  expect([...fleet.all('subnet')].map((subnet) => [subnet.gateway, subnet.policy])).toEqual([
    ['192.0.2.254', 'lowest'],
  ]);
  expect([...fleet.all('guest')].map((guest) => guest.name)).toEqual(['tide']);
  everyFieldOfToday(fleet);
});

it('a log of shape 3 replays into rows that have every field of today', () => {
  const fleet = new Fleet();
  for (const entry of SHAPE_3) fleet.apply(upcast(entry), entry.revision);
  expect(
    [...fleet.all('guest')].map((guest) => [
      guest.name,
      guest.startSeconds,
      guest.forwards,
      guest.firmware,
      guest.profileId,
    ]),
  ).toEqual([
    ['tide', 90, true, 'unknown', null],
    ['names', 60, false, 'unknown', null],
  ]);
  expect(
    [...fleet.all('medium')].map((medium) => [medium.name, medium.install, medium.poolId]),
  ).toEqual([['linux-12.img', 'full', null]]);
  expect(fleet.count('dependency')).toBe(1);
  everyFieldOfToday(fleet);
});

it('a log of shape 4 replays into rows that have every field of today, and times of one form', () => {
  const typed = JSON.stringify(SHAPE_4).match(/"\d{4}-\d{2}-\d{2}T[^"]*[+-]\d{2}:\d{2}"/g) ?? [];
  expect(typed.length).toBeGreaterThan(5);
  const fleet = new Fleet();
  for (const entry of SHAPE_4) fleet.apply(upcast(entry), entry.revision);
  expect(fleet.revision).toBe(SHAPE_4.length);
  everyFieldOfToday(fleet);
  const tide = [...fleet.all('guest')].find((guest) => guest.name === 'tide');
  expect([tide?.confirmedAt, tide?.stateAt]).toEqual([
    '2026-11-19T08:00:00.000Z',
    '2026-11-20T08:00:00.000Z',
  ]);
  for (const kind of KIND_NAMES) {
    for (const row of fleet.all(kind)) {
      for (const [name, { type }] of Object.entries(KINDS[kind].fields)) {
        const value = (row as unknown as Record<string, unknown>)[name];
        if (type === 'time' && value !== null) expect(value).toMatch(/T\d{2}:\d{2}:\d{2}\.\d{3}Z$/);
      }
    }
  }
});

it('an entry of a shape from the future is refused', () =>
  expect(() => upcast({ ...SHAPE_1[0]!, shape: 99 })).toThrow('this version knows'));
