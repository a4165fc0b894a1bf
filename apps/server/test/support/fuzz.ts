/**
 * Bodies by the descriptions: nearly right ones, with values of the right type and ids that are in the record, and broken
 * ones. A new change or read is covered without a line. The same seed gives the same bodies.
 */
import { DESCRIPTIONS, type ChangeType, type Field, type Fields } from '@insel/core';
import { READ_PATHS, READ_QUERIES, slotsOf, type Contract, type ReadName } from '@insel/contract';

/** A stream of numbers from 0 to 1 out of a seed (mulberry32, public domain, from memory). */
export function randomOf(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32;
  };
}

type Random = () => number;
const pick = <T>(random: Random, from: readonly T[]): T =>
  from[Math.floor(random() * from.length)]!;

/** What no field wants: what people and scripts send by mistake. */
const BROKEN: readonly unknown[] = [
  null,
  '',
  ' ',
  '\0',
  'half \ud800 a pair',
  '\\',
  '%',
  "'; drop table log; --",
  'x'.repeat(3000),
  '0'.repeat(400),
  '__proto__',
  '2027-W01-1',
  '0000-01-01',
  '2027-02-30',
  '0000-00-00T00:00:00Z',
  '-infinity',
  'NaN',
  '00000000-0000-0000-0000-000000000000',
  '019ffffe-ffff-7fff-bfff-ffffffffffff',
  '999.1.1.1',
  '::ffff:1.2.3.4%eth0',
  'not-an-id',
  -1,
  0,
  0.5,
  1e308,
  2 ** 53,
  -(2 ** 53),
  true,
  [],
  {},
  [[[[[]]]]],
  { constructor: 1 },
  { toString: 'x' },
  [null],
  [{}],
  ['\0'],
];

/** Ids that are in the record, by kind. */
export type Ids = ReadonlyMap<string, readonly string[]>;

/** Mostly one of the kind that is wanted, if there is one. */
function idOf(random: Random, ids: Ids, kind?: string): string {
  const right = kind === undefined ? undefined : ids.get(kind);
  return right && random() < 0.8 ? pick(random, right) : pick(random, [...ids.values()].flat());
}

function valueOf(random: Random, field: Field<unknown>, ids: Ids, depth: number): unknown {
  const number = () => {
    const [low, high] = [field.min ?? 0, Math.min(field.max ?? 1e12, 1e15)];
    return pick(random, [
      low,
      high,
      low + Math.floor(random() * Math.min(high - low, 1000)),
      low - 1,
    ]);
  };
  const list = (of: () => unknown) => Array.from({ length: Math.floor(random() * 4) }, of);
  switch (field.type) {
    case 'integer':
      return number();
    case 'flag':
      return random() < 0.5;
    case 'choice':
      return pick(random, field.choices ?? ['']);
    case 'choices':
      return list(() => pick(random, field.choices ?? ['']));
    case 'ref':
      return idOf(random, ids, field.to);
    case 'refs':
      return list(() => idOf(random, ids, field.to));
    case 'integers':
      return list(number);
    case 'date':
      return pick(random, ['2027-01-01', '1999-12-31', '9999-12-31']);
    case 'time':
      return pick(random, ['2027-01-01T00:00:00Z', '2026-11-20T08:00:00+01:00']);
    case 'address':
      return pick(random, ['192.0.2.77', '2001:db8::7', '192.0.2.0', '255.255.255.255']);
    case 'addresses':
      return list(() => pick(random, ['192.0.2.53', '2001:db8::53', 'nowhere']));
    case 'prefix':
      return pick(random, ['198.51.100.0/24', '2001:db8:1::/64', '0.0.0.0/0', '192.0.2.1/24']);
    case 'mac':
      return pick(random, ['02:00:00:00:00:01', 'ff:ff:ff:ff:ff:ff', '02-00-00-00-00-02']);
    case 'texts':
      return list(() => word(random));
    case 'list':
      return depth > 3 ? [] : list(() => objectOf(random, field.of ?? {}, ids, depth + 1));
    case 'part':
      return objectOf(random, field.of ?? {}, ids, depth + 1);
    case 'oneOf': {
      const tag = pick(random, Object.keys(field.variants ?? { none: {} }));
      return { as: tag, ...objectOf(random, field.variants?.[tag] ?? {}, ids, depth + 1) };
    }
    default:
      return word(random);
  }
}

const word = (random: Random): string =>
  pick(random, [
    'tide',
    'log',
    'a',
    'gannet',
    `n-${Math.floor(random() * 1e6)}`,
    'Ünter_läufer',
    '10 GiB',
  ]);

/** @param broken share of values that no field wants */
function objectOf(
  random: Random,
  fields: Fields,
  ids: Ids,
  depth = 0,
  broken = 0.08,
): Record<string, unknown> {
  const made: Record<string, unknown> = {};
  for (const [name, field] of Object.entries(fields)) {
    if (field.omittable && random() < 0.5) continue;
    const share = random();
    made[name] =
      share < broken
        ? pick(random, BROKEN)
        : share < broken + 0.04 && field.nullable
          ? null
          : valueOf(random, field, ids, depth);
  }
  if (random() < broken / 3) made[pick(random, ['constructor', 'nobody-knows', 'id', 'as'])] = 1;
  return made;
}

/** A body for a change, as JSON: broken now and then as a whole, too. */
export function changeBody(random: Random, type: ChangeType, ids: Ids): string {
  const share = random();
  if (share < 0.02)
    return pick(random, ['', 'null', '[]', '"x"', '1', '{', '{"input":[]}', '[{}]']);
  if (share < 0.03) return `${'{"input":'.repeat(400)}1${'}'.repeat(400)}`;
  if (share < 0.04) return '{"__proto__":{"input":1},"input":{"__proto__":{"id":1}}}';
  const body: Record<string, unknown> = {
    // Half of them with care: something behind the door is asked, too.
    input: objectOf(random, DESCRIPTIONS[type].input as Fields, ids, 0, random() < 0.5 ? 0 : 0.1),
  };
  for (const name of ['reason', 'override', 'happenedAt'])
    if (random() < 0.15) body[name] = random() < 0.5 ? 'because' : pick(random, BROKEN);
  if (random() < 0.5)
    body.expects = pick(random, [
      [{ id: idOf(random, ids), revision: Math.floor(random() * 40) }],
      [],
      pick(random, BROKEN),
      [{ id: pick(random, BROKEN), revision: pick(random, BROKEN) }],
    ]);
  return JSON.stringify(body);
}

/** What is asked of a read: its path, and a body where it is posted. */
export function readRequest(
  random: Random,
  name: ReadName,
  ids: Ids,
): { method: 'GET' | 'POST'; path: string; body?: string } {
  const path = READ_PATHS[name];
  const type = (READ_QUERIES as Partial<Record<ReadName, Contract>>)[name];
  const value = () =>
    random() < 0.4
      ? pick(random, BROKEN)
      : pick(random, [idOf(random, ids), word(random), 3, 'down']);
  const asked: Record<string, unknown> = {};
  for (const [field] of type ? slotsOf(type) : []) if (random() < 0.6) asked[field] = value();
  if (random() < 0.05) asked['constructor' as string] = 'x';
  const plain = (given: unknown) => {
    const text = typeof given === 'string' ? given : JSON.stringify(given);
    return encodeURIComponent(text.toWellFormed().slice(0, 500));
  };
  const filled = path
    .replace('POST ', '')
    .replace(/:(\w+)/g, () => plain(random() < 0.5 ? idOf(random, ids) : value()) || 'x');
  if (path.startsWith('POST '))
    return { method: 'POST', path: filled, body: JSON.stringify(asked) };
  const query = Object.entries(asked).map(([field, given]) => `${field}=${plain(given)}`);
  return { method: 'GET', path: query.length ? `${filled}?${query.join('&')}` : filled };
}
