/**
 * Whoever was given an answer is told when it alters: for every read that is answered at once and every change of the history,
 * an answer that is another one now was told of. What is told although nothing altered costs a question; what is not told would
 * be wrong on a screen.
 */
import type { ReadName } from '@insel/contract';
import type { Fleet, Kind } from '@insel/core';
import { describe, expect, it } from 'vitest';
import { everyChange } from '../../../packages/core/src/change/every-change.js';
import { World } from '../../../packages/core/src/change/testing.js';
import { Watches } from '../src/events/watches.js';
import { EVERY_READ } from '../src/reads/every-read.js';
import type { Asking } from '../src/reads/read.js';
import { OrderCache } from '../src/views/orders.js';

type AtOnce = (fleet: Fleet, query: object, asking: Asking) => unknown;
type Queries = (fleet: Fleet) => object[];

const ids =
  (kind: Kind, more: object = {}): Queries =>
  (fleet) =>
    Array.from(fleet.all(kind), ({ id }) => ({ id, ...more }));
const once =
  (...queries: object[]): Queries =>
  () =>
    queries;
const ZONE = { domain: 'isle.example', primary: 'ns', mailbox: 'post@isle.example', servers: 'ns' };

/** What is asked of reads by the records there are; of the others nothing is said. */
const ASKED: Partial<Record<ReadName, Queries>> = {
  chart: once({ take: 100 }),
  search: once({ q: 'a' }, { q: 'gull' }),
  host: ids('host'),
  hostsAlike: ids('host', { count: 2 }),
  hostSuitability: ids('host'),
  hostBuild: ids('host'),
  hostBuildPage: ids('host'),
  hosts: once({ from: 0, take: 100 }, { from: 0, take: 100, sort: 'memoryLeft' }),
  guests: once({ from: 0, take: 100 }, { from: 0, take: 100, sort: 'headroom' }),
  networks: once({ from: 0, take: 100 }),
  devices: once({ from: 0, take: 100 }),
  machines: once({ q: 'a' }),
  network: ids('network'),
  nextFree: ids('subnet', { count: 3 }),
  reservations: ids('subnet'),
  zones: once(ZONE),
  machine: ids('guest'),
  device: ids('device'),
  guest: ids('guest'),
  guestBuild: ids('guest'),
  guestBuildPage: ids('guest'),
  guestEnd: ids('guest'),
  firstStart: ids('guest'),
  volumePlaces: ids('volume'),
  knownBy: ids('guest'),
  proofRead: (fleet) =>
    Array.from(fleet.all('guest'), ({ id, name }) => ({
      guestId: id,
      text: `insel-identity: 1\nname: ${name}`,
    })),
  firstStarts: (fleet) => [{ ids: Array.from(fleet.all('guest'), ({ id }) => id) }],
  physicalRoute: (fleet) =>
    Array.from(fleet.all('device'), ({ id }) => ({
      type: 'migration.plan-from-physical',
      input: {
        ...{ deviceId: id, targetHostId: [...fleet.all('host')][0]?.id, name: 'files', vcpu: 1 },
        ...{ memoryMiB: 512, disks: [], linkBitsPerSecond: 1e9 },
      },
    })),
  runbook: ids('migration'),
  trouble: ids('migration', { sign: 'no network' }),
  timetable: once({ days: 7 }),
};

const AT_ONCE = (Object.entries(EVERY_READ) as [ReadName, unknown][]).filter(
  (entry): entry is [ReadName, AtOnce] => typeof entry[1] === 'function',
);

/** As text, without revisions: a row with its parts is one, and has that of the last change to any of them. */
const textOf = (answer: unknown): string =>
  JSON.stringify(answer, (key, part: unknown) => (key === 'revision' ? undefined : part)) ?? '';

/** After a minute, hours, days, and a year and more. */
const HOURS = [0.02, 1, 5, 12, 16, 24, 49, 170, 800, 3000, 9000];
/** Changes between two looks. */
const EVERY = 8;
/** They say when they were asked for; no window shows them. */
const PAGES: ReadonlySet<ReadName> = new Set([
  'hostBuildPage',
  'guestBuildPage',
  'runbook',
  'calendar',
]);

describe('answers that a window was given', () => {
  it('are told of when they alter: every read, for every change', { timeout: 300_000 }, () => {
    const world = new World();
    const { fleet } = world;
    const watches = new Watches();
    // A window for each read, so that none is given too many answers.
    for (const [name] of AT_ONCE) watches.listen(name, {});
    const orders = new OrderCache();
    const asking: Asking = {
      now: world.now,
      account: { id: 'p', name: 'planner', role: 'planner' },
      orders,
    };
    const held = new Map<string, { mark: string; text: string }>();
    const seen = { altered: 0, told: 0, kept: 0 };
    const answered = new Set<ReadName>();
    let count = 0;
    const wrong: string[] = [];
    const ask = (name: ReadName, read: AtOnce, query: object) => {
      const key = `${name} ${JSON.stringify(query)}`;
      try {
        const { answer, mark } = watches.watched(
          { id: name, count: (count += 1), question: key },
          { fleet, now: world.now },
          () => read(fleet, query, asking),
        );
        answered.add(name);
        return { key, mark: mark!, text: textOf(answer) };
      } catch {
        return { key, mark: '', text: 'refused' };
      }
    };
    for (const change of everyChange(fleet)) {
      world.make(change);
      for (const [name, read] of AT_ONCE) {
        const told = new Set(watches.altered(name));
        for (const query of ASKED[name]?.(fleet) ?? [{}]) {
          const key = `${name} ${JSON.stringify(query)}`;
          const before = held.get(key);
          // What was told would be asked again; of the rest it is looked whether it would have had to be.
          if (before?.mark && !told.has(before.mark)) {
            const now = textOf(attempt(() => read(fleet, query, asking)));
            if (now === before.text) seen.kept += 1;
            else wrong.push(`${change.type}: ${key}`);
            continue;
          }
          const after = ask(name, read, query);
          if (before?.mark) {
            seen.told += 1;
            seen.altered += Number(after.text !== before.text);
          }
          held.set(key, after);
        }
      }
    }
    expect(wrong).toEqual([]);
    expect(AT_ONCE.map(([name]) => name).filter((name) => !answered.has(name))).toEqual([]);
    // Whoever asks again for everything would have asked for all of these.
    expect(seen.altered).toBeGreaterThan(500);
    expect(seen.kept).toBeGreaterThan(2 * seen.told);
  });

  it('say until when they hold, as far as time alone alters them: over hours and years, at many points of the history', () => {
    const world = new World();
    const { fleet } = world;
    const account = { id: 'p', name: 'planner', role: 'planner' } as const;
    const seen = { compared: 0, overtaken: 0 };
    const wrong: string[] = [];
    const begun = Date.parse(world.now);
    const look = (name: ReadName, read: AtOnce, query: object) => {
      const at = (ms: number) => {
        const now = new Date(ms).toISOString();
        return textOf(
          attempt(() => read(fleet, query, { now, account, orders: new OrderCache() })),
        );
      };
      const { answer, until } = fleet.watched(
        () => at(begun),
        () => undefined,
        begun,
      );
      for (const hours of HOURS) {
        const later = begun + hours * 3_600_000;
        seen.overtaken += Number(later >= until);
        if (later >= until) break;
        seen.compared += 1;
        if (at(later) !== answer) wrong.push(`${name} ${JSON.stringify(query)} after ${hours} h`);
      }
    };
    let n = 0;
    for (const change of everyChange(fleet)) {
      world.make(change);
      if ((n += 1) % EVERY !== 0) continue;
      for (const [name, read] of AT_ONCE)
        if (!PAGES.has(name))
          for (const query of ASKED[name]?.(fleet) ?? [{}]) look(name, read, query);
    }
    expect(wrong).toEqual([]);
    expect(seen.overtaken).toBeGreaterThan(50);
    expect(seen.compared).toBeGreaterThan(5000);
  });

  it('are told of once, and those before the last two hundred at once', () => {
    const world = new World();
    const { fleet } = world;
    const watches = new Watches();
    expect(watches.listen('one', world)).toBe(false);
    let count = 0;
    const given = (window: string, question: string, read: () => unknown) =>
      watches.watched(
        { id: window, count: (count += 1), question },
        { fleet, now: world.now },
        read,
      );
    const sites = () => [...fleet.all('site')].length;
    const first = given('one', 'sites', sites);
    expect(first.answer).toBe(0);
    const hosts = given('one', 'hosts', () => [...fleet.all('host')].length);
    world.make({ type: 'site.record', input: { name: 'Annex' } });
    expect([watches.altered('one'), watches.altered('one')]).toEqual([[first.mark], []]);
    // Asked again, the answer before counts no more.
    given('one', 'sites', sites);
    const last = given('one', 'sites', sites);
    world.make({ type: 'site.record', input: { name: 'Pier' } });
    expect(watches.altered('one')).toEqual([last.mark]);
    const many = Array.from({ length: 210 }, (_, n) => given('one', `${n}`, sites).mark);
    expect(watches.altered('one')).toEqual([hosts.mark, ...many.slice(0, 10)]);
    // Room was wanted: what was kept for it is gone, and nobody could tell any more.
    fleet.forgetKept();
    expect(watches.altered('one')).toEqual(many.slice(10));
    expect(() => given('one', 'fails', () => fleet.need('site', 'none'))).toThrow();
    // A stream that ended after another had begun for the same window ends nothing.
    expect(watches.listen('one', fleet)).toBe(true);
    watches.end('one', world);
    expect(watches.listen('one', fleet)).toBe(true);
    watches.end('one', fleet);
    expect(watches.listen('one', fleet)).toBe(false);
  });

  it('are told of once when their time has come', () => {
    const { fleet } = new World();
    const watches = new Watches();
    const ask = (question: string, alters: string) =>
      watches.watched(
        { id: 'one', count: 1, question },
        { fleet, now: '2026-11-20T08:00:00.000Z' },
        () => fleet.alters(Date.parse(alters)),
      ).mark;
    const noon = ask('noon', '2026-11-20T12:00:00.000Z');
    ask('morning', '2026-11-20T07:00:00.000Z');
    expect(watches.overtaken('one', '2026-11-20T11:59:59.999Z')).toEqual([]);
    expect(watches.overtaken('one', '2026-11-20T12:00:00.000Z')).toEqual([noon]);
    expect(watches.overtaken('one', '2026-11-21T12:00:00.000Z')).toEqual([]);
    expect(watches.overtaken('other', '2026-11-21T12:00:00.000Z')).toEqual([]);
  });

  it('of two that ask the same the later request is shown, and is watched whichever arrives first', () => {
    const world = new World();
    const { fleet } = world;
    const watches = new Watches();
    const ask = (count: number) =>
      watches.watched(
        { id: 'one', count, question: 'sites' },
        { fleet, now: world.now },
        () => [...fleet.all('site')].length,
      );
    const shown = ask(2);
    expect(ask(1)).toEqual({ answer: 0, mark: null });
    world.make({ type: 'site.record', input: { name: 'Annex' } });
    expect(watches.altered('one')).toEqual([shown.mark]);
  });
});

function attempt(work: () => unknown): unknown {
  try {
    return work();
  } catch {
    return 'refused';
  }
}
