/**
 * What is kept is what would be computed: after every change of the history, and after arbitrary patches, the fleet that
 * lived through them answers as one that was just built of the same rows, and as the overlay answered beforehand.
 */
import { describe, expect, it } from 'vitest';
import { allFindings, findingsOn, markOn, RULES } from '../finding/index.js';
import { capacity, headroom, load, poolFigures } from '../host/index.js';
import { heldIn, subnetFigures, subnetRuns } from '../network/index.js';
import { failureDomains, failureFates, failureLine } from '../placement/index.js';
import { ifaceInfo } from '../reach/machine-parts.js';
import { worldOf } from '../reach/record-topology.js';
import {
  brokenInvariant,
  Fleet,
  isRefusal,
  KIND_NAMES,
  KINDS,
  type Field,
  type Kind,
  type Patch,
  type Values,
} from '../record/index.js';
import { fleetCircles, fleetStart } from '../start/index.js';
import { waterline } from '../waterline/index.js';
import { everyChange } from './every-change.js';
import { World } from './testing.js';

const SHEETS = ['host', 'guest', 'network', 'migration', 'device', 'physicalSwitch'] as const;

/** Figures, findings, marks and orders, as text; revisions are left out, since a row laid over has that of its ground. */
function answers(fleet: Fleet, now: string): Record<string, string> {
  const said: Record<string, string> = {};
  const say = (name: string, value: unknown) => {
    said[name] = JSON.stringify(value, (key, part: unknown) =>
      key === 'revision'
        ? undefined
        : typeof part === 'bigint'
          ? String(part)
          : part instanceof Map
            ? [...part]
            : part instanceof Set
              ? [...part]
              : part,
    );
  };
  say('findings', allFindings(fleet, now));
  say('waterline', waterline(fleet));
  for (const kind of SHEETS)
    for (const { id } of fleet.all(kind)) {
      say(`mark ${id}`, markOn(fleet, kind, id, now));
      say(`sheet ${id}`, findingsOn(fleet, kind, id, now));
    }
  for (const { id } of fleet.all('host'))
    say(`host ${id}`, [capacity(fleet, id), load(fleet, id), headroom(fleet, id)]);
  for (const { id } of fleet.all('pool')) say(`pool ${id}`, poolFigures(fleet, id));
  for (const { id } of fleet.all('subnet'))
    say(`subnet ${id}`, [
      heldIn(fleet, id),
      subnetRuns(fleet, id, now.slice(0, 10)),
      subnetRuns(fleet, id),
      subnetFigures(fleet, id),
    ]);
  for (const domain of failureDomains(fleet))
    say(`fate ${domain.kind} ${domain.id}`, failureFates(fleet, domain));
  say('circles', fleetCircles(fleet));
  say('start', [...fleetStart(fleet).order.blocked]);
  // Segments are told apart by who is on them, not by their numbers.
  const segments = new Map<number, number>();
  const numbered = (segment: number | null) => {
    if (segment === null) return null;
    if (!segments.has(segment)) segments.set(segment, segments.size);
    return segments.get(segment)!;
  };
  const { topology } = worldOf(fleet);
  for (const { ifaces: own, ...machine } of topology.machines.values())
    say(`machine ${machine.id}`, [
      machine,
      own.map((iface) => [
        {
          ...iface,
          node: iface.node === null,
          info: { ...ifaceInfo(iface), node: ifaceInfo(iface)?.node === null },
        },
        numbered(topology.segmentOf(iface)),
        iface.addresses.map((address) => topology.ownersOf(address).map(({ id }) => id)),
      ]),
    ]);
  say(
    'machines in their order',
    Array.from(topology.machines.values(), ({ id }) => id),
  );
  return said;
}

/** The same rows in a fleet that has kept nothing. */
function fresh(fleet: Fleet): Fleet {
  const built = new Fleet();
  for (const kind of KIND_NAMES) for (const row of fleet.all(kind)) built.load(kind, row as never);
  built.revision = fleet.revision;
  return built;
}

/** What fails otherwise by what is kept of hosts and groups than asked as a whole. */
const keptOtherwise = (fleet: Fleet): string[] =>
  failureDomains(fleet).flatMap((domain) => {
    const [kept, whole] = [failureFates(fleet, domain), failureLine(fleet, domain)];
    const alike = JSON.stringify([kept.answer, kept.counts]);
    return alike === JSON.stringify([whole.answer, whole.counts]) ? [] : [domain.name];
  });

const differing = (one: Record<string, string>, other: Record<string, string>): string[] =>
  Object.keys({ ...one, ...other }).filter((name) => one[name] !== other[name]);

/** A stream of numbers from 0 to 1 out of a seed (mulberry32, public domain, from memory). */
function random(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

const HOUR = 3_600_000;
const BEGAN = Date.parse('2026-11-20T08:00:00.000Z');
const at = (ms: number): string => new Date(ms).toISOString();

/** Every history made so far, living, with what was asked of it last. */
function lived(): { world: World; now: string } {
  const world = new World();
  let time = BEGAN;
  for (const change of everyChange(world.fleet)) {
    world.make(change);
    time += HOUR;
  }
  return { world, now: at(time) };
}

describe('through the history in which every change happens', () => {
  it('living, fresh and overlaid answer alike after each of them, whatever the clock does', () => {
    const world = new World();
    const next = random(11);
    const stale: string[] = [];
    let changes = 0;
    for (const change of everyChange(world.fleet)) {
      // Hours, days and months pass, and now and then it is asked about earlier.
      const now = at(BEGAN + (next() < 0.1 ? next() * 90 * 24 : changes) * HOUR);
      const decision = world.try(change);
      if (isRefusal(decision)) throw new Error(`${decision.code}: ${decision.sentence}`);
      answers(world.fleet, now);
      const over = answers(world.fleet.overlay(decision.patches), now);
      world.record(change, decision);
      const [living, built] = [answers(world.fleet, now), answers(fresh(world.fleet), now)];
      changes += 1;
      for (const name of differing(living, built)) stale.push(`${change.type}: ${name} is stale`);
      for (const name of differing(living, over)) stale.push(`${change.type}: ${name} overlaid`);
      for (const name of keptOtherwise(world.fleet)) stale.push(`${change.type}: ${name} in parts`);
    }
    expect(stale.slice(0, 10)).toEqual([]);
    expect(changes).toBeGreaterThan(100);
  }, 120_000);

  it('findings flip when their time comes, without a change', () => {
    const { world, now } = lived();
    const began = Date.parse(now);
    for (const hours of [0, 5, 23, 24, 24 * 8, 24 * 31, 24 * 91, 24 * 400, 3])
      expect([
        hours,
        differing(
          answers(world.fleet, at(began + hours * HOUR)),
          answers(fresh(world.fleet), at(began + hours * HOUR)),
        ),
      ]).toEqual([hours, []]);
  }, 60_000);
});

/** Another value of a field, or undefined where none can be made up. */
function another(field: Field<unknown>, held: unknown, fleet: Fleet, next: () => number): unknown {
  const one = <T>(list: readonly T[]): T | undefined => list[Math.floor(next() * list.length)];
  if (field.nullable && next() < 0.2) return null;
  switch (field.type) {
    case 'flag':
      return held !== true;
    case 'choice':
      return one(field.choices!);
    case 'integer':
      return Math.min(
        field.max!,
        Math.max(field.min!, Math.round(((held as number) || 1) * next() * 2)),
      );
    case 'ref':
      return one([...fleet.all(field.to as Kind)])?.id;
    case 'time':
      return at(BEGAN + (next() - 0.8) * 200 * 24 * HOUR);
    case 'date':
      return at(BEGAN + (next() - 0.5) * 100 * 24 * HOUR).slice(0, 10);
    case 'text':
      return field.reads || field.min ? undefined : `text ${Math.floor(next() * 9)}`;
    default:
      return undefined;
  }
}

/** A patch that keeps the invariants: a row altered in some fields, taken away, or put back. */
function somePatch(
  fleet: Fleet,
  gone: { kind: Kind; id: string; after: Values }[],
  next: () => number,
): Patch | undefined {
  const back = next() < 0.15 ? gone.pop() : undefined;
  if (back) return { op: 'create', ...back };
  const kind = KIND_NAMES[Math.floor(next() * KIND_NAMES.length)]!;
  const rows = [...fleet.all(kind)] as unknown as (Values & { id: string; revision: number })[];
  const row = rows[Math.floor(next() * rows.length)];
  if (!row) return undefined;
  const { id, revision, ...values } = row;
  if (next() < 0.2) return { op: 'delete', kind, id, seen: revision, before: values };
  const names = Object.keys(KINDS[kind].fields).filter(() => next() < 0.3);
  const after: Record<string, unknown> = {};
  for (const name of names) {
    const value = another(KINDS[kind].fields[name]!, values[name], fleet, next);
    if (value !== undefined) after[name] = value;
  }
  return { op: 'update', kind, id, seen: revision, before: {}, after };
}

describe('through arbitrary patches', () => {
  const seeds = [1, Number(process.env.INSEL_FUZZ_SEED ?? 2)];
  it.each(seeds)(
    'living, fresh and overlaid answer alike (seed %i)',
    (seed) => {
      const next = random(seed);
      const { world, now } = lived();
      const { fleet } = world;
      const gone: { kind: Kind; id: string; after: Values }[] = [];
      const kinds = new Set<Kind>();
      let [patches, refused] = [0, 0];
      for (let i = 0; i < 2000 && patches < 120; i += 1) {
        const patch = somePatch(fleet, gone, next);
        if (!patch) continue;
        if (brokenInvariant(fleet, [patch])) {
          refused += 1;
          continue;
        }
        const when = at(Date.parse(now) + Math.floor(next() * 60 * 24) * HOUR);
        let over: Record<string, string>;
        try {
          over = answers(fleet.overlay([patch]), when);
        } catch {
          // No change makes such a row; the rules need not understand it.
          refused += 1;
          continue;
        }
        fleet.apply([patch], fleet.revision + 1);
        patches += 1;
        kinds.add(patch.kind);
        if (patch.op === 'delete')
          gone.push({ kind: patch.kind, id: patch.id, after: patch.before });
        const [living, built] = [answers(fleet, when), answers(fresh(fleet), when)];
        expect([seed, i, patch, differing(living, built)]).toEqual([seed, i, patch, []]);
        expect([seed, i, patch, differing(living, over)]).toEqual([seed, i, patch, []]);
        expect([seed, i, patch, keptOtherwise(fleet)]).toEqual([seed, i, patch, []]);
      }
      console.log(`seed ${seed}: ${patches} patches of ${kinds.size} kinds, ${refused} refused`);
      expect(patches).toBe(120);
      expect(kinds.size).toBeGreaterThan(20);
    },
    240_000,
  );
});

it('every ruled row stands among the parts of one that findings are gathered for', () => {
  const { world, now } = lived();
  const told = (found: readonly { id: string }[]) => found.map(({ id }) => id).sort();
  const each = RULES.flatMap((rule) =>
    [...world.fleet.all(rule.kind)].flatMap((row) => rule.look(world.fleet, row.id, now)),
  );
  expect(told(allFindings(world.fleet, now))).toEqual(told(each));
  expect(each.length).toBeGreaterThan(20);
});
