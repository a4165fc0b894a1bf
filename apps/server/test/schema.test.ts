/**
 * The tables are what the kinds describe: the mapper, which is told of the descriptions, finds no difference. What it does not
 * model (bounds, rules between columns and rows, triggers, rights, tables of no kind) is compared with `schema.txt`.
 */
import { SchemaGenerator } from '@mikro-orm/postgresql';
import pg from 'pg';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { openOrm } from '../src/database/orm.js';
import { Installation } from './support/server.js';

const here = new Installation();
const client = new pg.Client({ connectionString: here.url('owner') });
beforeAll(() => client.connect());
afterAll(() => client.end());

const asked = async (text: string): Promise<string[]> =>
  (await client.query<{ line: string }>(text)).rows.map(({ line }) => line);

/** What these refer to is never deleted. */
const KEPT = "'api_token', 'attachment', 'session', 'set_up_token'";

/** Checks, exclusions and keys of more than one column, each with what it says; and those of tables that no entity has. */
const CONSTRAINTS = `select format('%s %s: %s', conrelid::regclass, conname, pg_get_constraintdef(oid)) as line
  from pg_constraint where connamespace = 'public'::regnamespace and contype in ('c', 'x', 'u', 't')
  or connamespace = 'public'::regnamespace and contype = 'f' and conrelid::regclass::text in
  (${KEPT}) order by 1`;
const TRIGGERS = `select pg_get_triggerdef(oid) as line from pg_trigger where not tgisinternal order by 1`;
const RIGHTS = `select format('%s: %s', table_name, string_agg(lower(privilege_type), ', ' order by privilege_type)) as line
  from information_schema.role_table_grants where grantee = 'insel_app' and table_schema = 'public'
  group by table_name order by 1`;
const COLUMNS = `select format('%s.%s %s%s%s', table_name, column_name, udt_name,
    case is_nullable when 'NO' then ' not null' else '' end, coalesce(' default ' || column_default, '')) as line
  from information_schema.columns where table_schema = 'public' order by table_name, ordinal_position`;

it('the mapper finds no difference between descriptions and tables', async () => {
  const orm = await openOrm(here.url('owner'), { extensions: [SchemaGenerator] });
  const modelled = new Set(orm.config.get('entities').map((one) => (one as Entity).meta.tableName));
  const difference = await orm.schema.getUpdateSchemaSQL({ wrap: false, dropTables: false });
  await orm.close();
  const unmodelled = (await asked(CONSTRAINTS)).map((line) => /^\S+ (\S+):/.exec(line)![1]!);
  const known = unmodelled.map((name) => name.replaceAll('"', ''));
  const statements = difference
    .split('\n')
    .filter((line) => line.trim())
    .filter((line) => {
      const [, name] = /^(?:alter table .* drop constraint(?: if exists)?|drop index) "?(\w+)"?;$/.exec(line) ?? []; // prettier-ignore
      return name === undefined || !known.includes(name);
    });
  expect(statements).toEqual([]);
  expect(modelled.size).toBeGreaterThan(60);
});
interface Entity {
  meta: { tableName: string };
}

it('what the mapper does not model is what stands in the list', async () => {
  const orm = await openOrm(here.url('owner'));
  const modelled = new Set(orm.config.get('entities').map((one) => (one as Entity).meta.tableName));
  await orm.close();
  const elsewhere = (line: string) => !modelled.has(line.split('.')[0]!);
  const parts: [string, string[]][] = [
    ['Constraints', await asked(CONSTRAINTS)],
    ['Triggers', await asked(TRIGGERS)],
    ['Rights of the application', await asked(RIGHTS)],
    ['Tables of no entity', (await asked(COLUMNS)).filter(elsewhere)],
  ];
  const list = parts.map(([title, lines]) => `${title}\n\n${lines.join('\n')}\n`).join('\n');
  await expect(list).toMatchFileSnapshot('schema.txt');
});

it('every reference has an index, or deleting a row would look through whole tables', async () => {
  const missing = await asked(`select format('%s.%s', c.conrelid::regclass, a.attname) as line
    from pg_constraint c join pg_attribute a on a.attrelid = c.conrelid and a.attnum = c.conkey[1]
    where c.contype = 'f' and c.connamespace = 'public'::regnamespace and c.conrelid::regclass::text not in (${KEPT}) and not exists (
      select from pg_index i where i.indrelid = c.conrelid and i.indkey[0] = c.conkey[1] and i.indpred is null)
    order by 1`);
  expect(missing).toEqual([]);
});
