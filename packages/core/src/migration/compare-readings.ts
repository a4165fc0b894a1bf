/**
 * What a machine was and did before it moved, against what it is and does now. What the move itself alters is expected:
 * names of interfaces between platforms, a MAC that the record has, an address it was given, a larger disk.
 */
import { canonicalOr } from '../address/index.js';
import { interfaceName } from '../names/index.js';
import { formatDuration } from '../quantity/index.js';
import type { Fleet, Row } from '../record/index.js';
import { readingOf, type Reading, type ReadingKey } from './reading-script.js';

export interface ReadingVerdict {
  what: ReadingKey;
  /** Null: nobody knows, since it was not printed on both sides. */
  holds: boolean | null;
  /** What is the same, expected, missing or new, in a sentence. */
  sentence: string;
}

type Compared = (one: {
  before: readonly string[];
  after: readonly string[];
  fleet: Fleet;
  migration: Row<'migration'>;
}) => Omit<ReadingVerdict, 'what'>;

export function compareReadings(
  fleet: Fleet,
  migration: Row<'migration'>,
  before: readonly string[],
  after: readonly string[],
): ReadingVerdict[] {
  const [then, now] = [readingOf(before), readingOf(after)];
  return (Object.keys(RULES) as ReadingKey[]).flatMap((what) => {
    if (!then.has(what) && !now.has(what))
      return NOTHING_IS_SAID.has(what) ? [said(what, then, now)] : [];
    if (!then.has(what) && !ONLY_AFTER.has(what))
      return [{ what, holds: null, sentence: 'It was not read before.' }];
    const given = { before: then.get(what) ?? [], after: now.get(what) ?? [], fleet, migration };
    return [{ what, ...RULES[what](given) }];
  });
}

/** Where nothing printed means that there is none. */
const NOTHING_IS_SAID = new Set<ReadingKey>(['failed']);
/** What is looked at afterwards whether or not it was read before. */
const ONLY_AFTER = new Set<ReadingKey>(['failed', 'address', 'name']);

const said = (what: ReadingKey, before: Reading, after: Reading): ReadingVerdict => ({
  what,
  holds: after.size > 0,
  sentence: before.size > 0 ? 'No service failed, before or after.' : 'No service failed.',
});

const list = (values: readonly string[]): string => values.join(', ');

/** All that was there is there, and nothing else. */
const same: Compared = ({ before, after }) => {
  const gone = before.filter((value) => !after.includes(value));
  const fresh = after.filter((value) => !before.includes(value));
  if (gone.length === 0 && fresh.length === 0) return { holds: true, sentence: list(after) };
  return {
    holds: false,
    sentence: [gone.length && `missing: ${list(gone)}`, fresh.length && `new: ${list(fresh)}`]
      .filter(Boolean)
      .join('; '),
  };
};

/** All that was there is there; more does no harm. */
const allThere: Compared = ({ before, after }) => {
  const gone = before.filter((value) => !after.includes(value));
  return gone.length === 0
    ? { holds: true, sentence: list(before) }
    : { holds: false, sentence: `missing: ${list(gone)}` };
};

const platformOf = (fleet: Fleet, hostId: string): Row<'platform'> =>
  fleet.need('platform', fleet.need('host', hostId).platformId);

const adaptersOf = (fleet: Fleet, guestId: string): Row<'adapter'>[] =>
  fleet.referring('adapter', 'guestId', guestId).sort((a, b) => a.position - b.position);

const RULES: Record<ReadingKey, Compared> = {
  name: ({ before, after, fleet, migration }) => {
    const { name } = fleet.need('guest', migration.guestId);
    const own = (value: string) => value.split('.')[0]!.toLowerCase() === name.toLowerCase();
    if (before.length > 0) return same({ before, after, fleet, migration });
    return { holds: after.every(own), sentence: `it calls itself ${list(after)}` };
  },
  'machine-id': (given) => {
    const found = same(given);
    return found.holds ? { holds: true, sentence: 'the same identifier' } : found;
  },
  interface: ({ before, after, fleet, migration }) => {
    const adapters = adaptersOf(fleet, migration.guestId);
    const portOf = (line: string) => line.split(' ')[0]!;
    const macOf = (line: string) => (line.split(' ')[1] ?? '').toLowerCase();
    const macs = new Set([
      ...adapters.flatMap(({ mac }) => (mac ? [mac.toLowerCase()] : [])),
      ...before.map(macOf),
    ]);
    const strange = after.filter((line) => !macs.has(macOf(line)));
    if (after.length !== before.length)
      return {
        holds: false,
        sentence: `${before.length} before, ${after.length} now: ${list(after)}`,
      };
    if (strange.length > 0)
      return {
        holds: false,
        sentence: `a MAC address that it did not have and the record does not: ${list(strange)}`,
      };
    const names = after.map(portOf);
    const kept = list(names) === list(before.map(portOf));
    const { family } = fleet.need('guest', migration.guestId);
    const { targetHostId } = migration;
    const expected =
      targetHostId === null
        ? []
        : adapters.map((_, place) => interfaceName(family, platformOf(fleet, targetHostId), place));
    const renamed = names.every((name) => expected.includes(name));
    if (kept || renamed)
      return {
        holds: true,
        sentence: kept
          ? list(names)
          : `renamed as expected: ${list(before.map(portOf))} → ${list(names)}`,
      };
    return {
      holds: false,
      sentence: `${list(before.map(portOf))} → ${list(names)}, expected ${list(expected)}`,
    };
  },
  address: ({ before, after, fleet, migration }) => {
    const ipOf = (line: string) => canonicalOr(line.split(' ').at(-1)!.split('/')[0]!);
    const now = [...new Set(after.map(ipOf))].sort();
    const recorded = adaptersOf(fleet, migration.guestId)
      .flatMap(({ id }) => fleet.referring('address', 'adapterId', id))
      .map(({ ip }) => canonicalOr(ip));
    const missing = recorded.filter((ip) => !now.includes(ip));
    const strange = now.filter((ip) => !recorded.includes(ip));
    if (recorded.length > 0 && missing.length === 0 && strange.length === 0)
      return { holds: true, sentence: `${list(now)}, as recorded` };
    if (recorded.length === 0) {
      const then = [...new Set(before.map(ipOf))].sort();
      return list(then) === list(now)
        ? { holds: true, sentence: list(now) }
        : { holds: false, sentence: `${list(then)} → ${list(now)}` };
    }
    return {
      holds: false,
      sentence: [
        missing.length && `recorded and missing: ${list(missing)}`,
        strange.length && `not recorded: ${list(strange)}`,
      ]
        .filter(Boolean)
        .join('; '),
    };
  },
  gateway: same,
  'name-server': same,
  disk: ({ before, after }) => {
    const sizes = (lines: readonly string[]) =>
      lines.map((line) => Number(line.split(' ').at(-1))).sort((a, b) => b - a);
    const [then, now] = [sizes(before), sizes(after)];
    if (now.length < then.length)
      return { holds: false, sentence: `${then.length} before, ${now.length} now` };
    const smaller = then.findIndex((bytes, i) => now[i]! < bytes);
    if (smaller >= 0)
      return { holds: false, sentence: `one of ${then[smaller]} bytes has ${now[smaller]} now` };
    return {
      holds: true,
      sentence: then.every((bytes, i) => now[i] === bytes)
        ? `${then.length} as before`
        : 'none is smaller',
    };
  },
  mount: allThere,
  failed: ({ before, after }) => {
    const fresh = after.filter((unit) => !before.includes(unit));
    return fresh.length === 0
      ? {
          holds: true,
          sentence: after.length ? `failed before, too: ${list(after)}` : 'none failed',
        }
      : { holds: false, sentence: `failed now: ${list(fresh)}` };
  },
  listens: allThere,
  job: allThere,
  share: allThere,
  'host-key': (given) => {
    const found = same(given);
    return found.holds ? { holds: true, sentence: 'the same keys' } : found;
  },
  uptime: ({ before, after, migration }) => {
    const [then, now] = [Number(before[0]), Number(after[0])];
    const restarted = now < then;
    return {
      holds: restarted !== migration.running,
      sentence: restarted
        ? `restarted ${formatDuration(now)} before it was read`
        : `up for ${formatDuration(now)}`,
    };
  },
};

/** What a step of the list asks for, where the readings can say it: all of these hold. */
export const PROVED_BY: Readonly<Record<string, readonly ReadingKey[]>> = {
  answers: ['name', 'address', 'gateway', 'failed', 'listens'],
  renamed: ['interface'],
};
