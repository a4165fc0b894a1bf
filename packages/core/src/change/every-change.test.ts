/** The history in which every change happens: decided as it always was, and undone without a trace. */
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import {
  digestLines,
  expectationsOf,
  Fleet,
  isRefusal,
  upcast,
  type LogEntry,
  type Patch,
  type Values,
} from '../record/index.js';
import { decide, type Change } from './decide.js';
import { CHANGE_TYPES, descriptionOf, undoable, type ChangeType } from './descriptions.js';
import { everyChange } from './every-change.js';
import { unmet } from './expectations.js';
import { STAND_ALONE_DESCRIPTIONS } from '../record/stand-alone.js';
import { changeOf, pastedTexts } from './stored-change.js';
import { World } from './testing.js';

/** Decisions as the version of log shape 4 made them, of changes as it kept them; times in the form of shape 5. What came later is not among them. */
const TIMES_OF = 5;
const RECORDED = readFileSync(new URL('every-change.recorded.jsonl', import.meta.url), 'utf8')
  .split('\n')
  .map((line) => JSON.parse(line) as Recorded);

interface Recorded {
  change: Values & { type: string };
  title: string;
  subjects: unknown[];
  overridden: string[];
  patches: Patch[];
}

/** Of these what is given became what was pasted: their inputs are compared by what follows from them. */
const PASTED = new Set(['host.take-facts', 'names.take', 'log.note']);

const world = new World();
const decisions: (Omit<Recorded, 'change'> & { change: Change })[] = [];
/** What the door says, just before each change, of nothing read, of what stands there, and of what stood there once. */
const expectations: { type: string; alters: number; said: (string | undefined)[] }[] = [];
for (const change of everyChange(world.fleet)) {
  const read = expectationsOf(world.fleet, descriptionOf(change.type)!, change.input);
  const old = read.map((row, i) => (i === 0 ? { ...row, revision: row.revision - 1 } : row));
  expectations.push({
    type: change.type,
    alters: read.length,
    said: [[], read, old].map((expects) => unmet(world.fleet, change, expects)?.because),
  });
  const { title, subjects, overridden, patches } = world.make(change);
  decisions.push({
    change,
    title,
    subjects,
    overridden: overridden.map(({ code }) => code),
    patches,
  });
}

/** A fleet as the log up to that entry makes it, with every row at revision 0: an undo writes a later one. */
function replayed(log: readonly LogEntry[]): string[] {
  const fleet = new Fleet();
  for (const entry of log) fleet.apply(upcast(entry), 0);
  return digestLines(fleet);
}

describe('the history in which every change happens', () => {
  it('leaves none out that does not stand alone, and one of each verb that does', () => {
    const made = new Set(world.log.map((entry) => entry.change.type as ChangeType));
    const verbs = new Set([...made].map((type) => type.split('.')[1]));
    expect(verbs).toContain('remove');
    const missing = CHANGE_TYPES.filter((type) => !made.has(type));
    expect(missing.filter((type) => !Object.hasOwn(STAND_ALONE_DESCRIPTIONS, type))).toEqual([]);
  });

  it.each(expectations.map((one) => [one.type, one] as const))(
    '%s asks what was read of all it alters, and refuses what is stale',
    (_, { alters, said }) =>
      expect(said).toEqual(
        alters === 0 ? [undefined, undefined, undefined] : ['not said', undefined, 'altered'],
      ),
  );
  it('names a row for every change whose description says that it alters one', () => {
    const naming = new Set(expectations.filter(({ alters }) => alters > 0).map(({ type }) => type));
    const silent = expectations.filter(
      ({ type }) => descriptionOf(type)!.alters.length > 0 && !naming.has(type),
    );
    // These two also make a row, which nobody can have read: the history does only that.
    expect(new Set(silent.map(({ type }) => type))).toEqual(new Set(['rule.set', 'address.set']));
  });

  const TICKED = 'ticked computer name, MAC address of 4 clones';
  const old = decisions.slice(0, RECORDED.length);
  it.each(old.map((decision, i) => [decision.change.type, decision, RECORDED[i]!] as const))(
    '%s is decided as it always was',
    (type, { change, ...decision }, { change: old, patches, ...recorded }) => {
      const today = upcast({ revision: 1, shape: TIMES_OF, patches } as LogEntry);
      // Ticks of several clones name the last of them in what was recorded; each is named now.
      const told = type === 'clone.tick' ? { title: TICKED, subjects: decision.subjects } : {};
      expect(JSON.parse(JSON.stringify(decision))).toEqual({
        ...recorded,
        // One of many was told in the plural then.
        title: recorded.title.replace(/\b1 (\w+)s\b/, '1 $1'),
        ...told,
        patches: today,
      });
      const stored = changeOf({ change: old, shape: 4 });
      expect(stored.type).toBe(type);
      if (!PASTED.has(type)) expect(stored.input).toEqual(JSON.parse(JSON.stringify(change.input)));
    },
  );

  it.each(
    world.log
      .filter((entry) => undoable(entry.change.type))
      .map((entry) => [entry.change.type, entry] as const),
  )('%s, undone at once, leaves the record as before', (_, entry) => {
    const log = world.log.slice(0, entry.revision);
    const fleet = new Fleet();
    for (const earlier of log) fleet.apply(upcast(earlier), earlier.revision);
    const undone = decide(
      fleet,
      { type: 'undo', input: { revision: entry.revision } } as Change,
      world.context(),
      { entry },
    );
    if (isRefusal(undone)) throw new Error(undone.sentence);
    const undoing = { ...entry, patches: undone.patches };
    expect(replayed([...log, undoing])).toEqual(replayed(log.slice(0, -1)));
  });
});

it('long texts that were pasted are told from what else an entry holds', () => {
  const text = { sha256: 'ab'.repeat(32), bytes: 70_000, begins: 'gannet' };
  const input = { text, hostId: 'one', part: { number: 1 }, count: 3, none: null };
  expect(pastedTexts({ change: { type: 'host.take-facts', input }, shape: 15 })).toEqual([text]);
  expect(pastedTexts({ change: { type: 'host.edit' }, shape: 15 })).toEqual([]);
});
