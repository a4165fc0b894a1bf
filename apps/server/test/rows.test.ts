/** One codec per kind: any value goes through database and log JSON and comes back as it was. */
import {
  Fleet,
  KIND_NAMES,
  KINDS,
  type Field,
  type FieldType,
  type InputType,
  type Kind,
  type Patch,
} from '@insel/core';
import fc from 'fast-check';
import pg from 'pg';
import { expect, it } from 'vitest';
import { loadFleet } from '../src/record/load.js';
import { persist, type Sql } from '../src/record/rows.js';
import { Installation } from './support/server.js';

const byte = fc.integer({ min: 0, max: 255 });
const ip = fc.tuple(byte, byte, byte, byte).map((parts) => parts.join('.'));
const when = fc
  .date({ min: new Date('2000-01-01'), max: new Date('2100-01-01'), noInvalidDate: true })
  .map((date) => date.toISOString());
/** Text that PostgreSQL can hold: anything but the null character and lone surrogates. */
const words = fc.string({ maxLength: 40, unit: 'binary' }).map((text) => text.replaceAll('\0', ''));

function arbitrary(field: Field<unknown>): fc.Arbitrary<unknown> {
  const base: Record<Exclude<FieldType, InputType>, () => fc.Arbitrary<unknown>> = {
    text: () => words.map((text) => (field.min ? `n${text}` : text)),
    choice: () => fc.constantFrom(...field.choices!),
    integer: () =>
      fc.integer({
        min: Math.max(1, field.min!),
        max: Math.min(field.max!, field.max! > 2 ** 31 ? Number.MAX_SAFE_INTEGER : field.max!),
      }),
    flag: () => fc.boolean(),
    time: () => when,
    date: () => when.map((time) => time.slice(0, 10)),
    address: () => ip,
    prefix: () => fc.tuple(byte, byte).map(([a, b]) => `10.${a}.${b}.0/24`),
    mac: () =>
      fc
        .array(byte, { minLength: 5, maxLength: 5 })
        .map((octets) =>
          ['02', ...octets.map((octet) => octet.toString(16).padStart(2, '0'))].join(':'),
        ),
    ref: () => fc.constant(null),
    texts: () => fc.array(words, { maxLength: 4 }),
    addresses: () => fc.array(ip, { maxLength: 3 }),
  };
  const value = base[field.type as keyof typeof base]();
  return field.nullable ? fc.option(value, { nil: null }) : value;
}

it('values come back from the database as they went in', async () => {
  const here = new Installation();
  const client = new pg.Client({ connectionString: here.url('owner') });
  await client.connect();
  // References and rules between fields are tested elsewhere; here only the way of the values.
  await client.query(
    "do $$ declare c record; begin for c in select conrelid::regclass t, conname n from pg_constraint where connamespace = 'public'::regnamespace and (contype in ('f', 'x', 'u') or (contype = 'c' and conrelid::regclass::text in ('hold', 'migration', 'address', 'range', '\"range\"', 'route', 'forwarded_port', 'switch_line', 'provider', 'dependency'))) loop execute format('alter table %s drop constraint if exists %I cascade', c.t, c.n); end loop; end $$",
  );
  const sql: Sql = async (text, parameters) => {
    let n = 0;
    return (
      await client.query<Record<string, unknown>>(
        text.replace(/\?/g, () => `$${(n += 1)}`),
        parameters,
      )
    ).rows;
  };
  let counter = 0;
  const uuid = () => `00000000-0000-7000-8000-${String((counter += 1)).padStart(12, '0')}`;
  const rowOf = (kind: Kind) =>
    fc.record(
      Object.fromEntries(
        Object.entries(KINDS[kind].fields).map(([name, field]) => [
          name,
          field.type === 'ref'
            ? fc.constant(field.nullable ? null : '00000000-0000-7000-8000-ffffffffffff')
            : arbitrary(field),
        ]),
      ),
    );
  for (const kind of KIND_NAMES) {
    const rows = fc.sample(rowOf(kind), 25);
    const patches: Patch[] = rows.map((after) => ({ op: 'create', kind, id: uuid(), after }));
    const wanted = new Fleet();
    await persist(wanted, patches, 1, sql);
    wanted.apply(JSON.parse(JSON.stringify(patches)) as Patch[], 1);
    const { fleet: read } = await loadFleet(here.url('app'));
    for (const patch of patches)
      expect(read.get(kind, patch.id)).toEqual(wanted.get(kind, patch.id));
  }
  await client.end();
});
