import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { Fleet } from './fleet.js';
import { KIND_NAMES, KINDS } from './kinds/index.js';
import { upcast, type LogEntry } from './log.js';

/** Written by the version that knew only shape 1: a network, two hosts, a guest, a clone, its undoing, an edit. */
const SHAPE_1 = JSON.parse(readFileSync(new URL('./log-of-shape-1.json', import.meta.url), 'utf8')) as LogEntry[];

it('a log of shape 1 replays into rows that have every field of today', () => {
  const fleet = new Fleet();
  for (const entry of SHAPE_1) fleet.apply(upcast(entry), entry.revision);
  expect(fleet.revision).toBe(SHAPE_1.length);
  expect([...fleet.all('host')].map((host) => [host.name, host.purpose, host.rackHeight, host.flags])).toEqual([['gannet', '', 1, ''], ['tern', 'annex', 1, '']]);
  expect([...fleet.all('guest')].map((guest) => [guest.name, guest.processorMode])).toEqual([['tide', 'unknown']]);
  for (const kind of KIND_NAMES) {
    for (const row of fleet.all(kind)) expect([kind, Object.keys(row).sort()]).toEqual([kind, ['id', 'revision', ...Object.keys(KINDS[kind].fields)].sort()]);
  }
});

it('an entry of a shape from the future is refused', () => expect(() => upcast({ ...SHAPE_1[0]!, shape: 99 })).toThrow('this version knows'));
