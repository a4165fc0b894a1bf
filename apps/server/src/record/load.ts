/**
 * Reads the whole record into a Fleet: rows and revision in one REPEATABLE READ transaction with plain SQL, since the
 * mapper takes four times as long for 350,000 rows.
 */
import {
  Fleet,
  KIND_NAMES,
  KINDS,
  kindWords,
  REFERENCES,
  SHAPE,
  type Field,
  type Kind,
} from '@insel/core';
import pg from 'pg';
import { CONNECTION } from '../database/connection.js';
import { columnsOf, fieldsOf, tableOf } from './rows.js';

const INT8 = 20;
const DATE = 1082;
const TIMESTAMPTZ = 1184;
const INET_ARRAY = 1041;

/** Values as the record keeps them: whole numbers, ISO times, dates and addresses as text. */
export const RECORD_TYPES: pg.CustomTypesConfig = {
  getTypeParser: ((oid: number, format?: 'text' | 'binary') => {
    if (oid === INT8) return Number;
    if (oid === DATE) return (text: string) => text;
    if (oid === TIMESTAMPTZ) return (text: string) => new Date(text).toISOString();
    if (oid === INET_ARRAY)
      return (text: string) => (text === '{}' ? [] : text.slice(1, -1).split(','));
    return pg.types.getTypeParser(oid, format ?? 'text');
  }) as pg.CustomTypesConfig['getTypeParser'],
};

/** A fleet as it stands in the tables. */
export interface Loaded {
  fleet: Fleet;
  /** Time of its last entry; null of an empty record. Another one at the same revision is another record. */
  lastAt: string | null;
  /** Why nothing may be added to it; null of a whole one. */
  fault: string | null;
}

export async function loadFleet(databaseUrl: string): Promise<Loaded> {
  const client = new pg.Client({
    ...CONNECTION,
    connectionString: databaseUrl,
    types: RECORD_TYPES,
    statement_timeout: 0,
    idle_in_transaction_session_timeout: 0,
  });
  await client.connect();
  try {
    await client.query('begin isolation level repeatable read read only');
    const fleet = new Fleet();
    const head = await client.query<{ revision: number; shape: number }>(
      'select revision, shape from revision',
    );
    const log = await client.query<{ revision: number | null; lastAt: string | null }>(
      'select max(revision) as revision, max(at) filter (where revision = (select max(revision) from log)) as "lastAt" from log',
    );
    const { revision: logged, lastAt } = log.rows[0]!;
    const shape = head.rows[0]?.shape ?? SHAPE;
    if (shape !== SHAPE) throw new OtherShape(shape);
    const revision = head.rows[0]?.revision ?? logged ?? 0;
    for (const kind of KIND_NAMES) {
      const names = fieldsOf(kind);
      const share = names.map((name) => sharing(fleet, KINDS[kind].fields[name]));
      const { rows } = await client.query<unknown[]>({
        text: `select ${columnsOf(kind)} from ${tableOf(kind)} order by id`,
        rowMode: 'array',
      });
      for (const values of rows) {
        const row: Record<string, unknown> = {};
        for (let i = 0; i < names.length; i += 1) {
          const shared = share[i];
          row[names[i]!] = shared ? shared(values[i]) : values[i];
        }
        fleet.load(kind, row as { id: string; revision: number });
      }
    }
    fleet.revision = revision;
    await client.query('commit');
    return { fleet, lastAt, fault: faultOf(fleet, head.rows[0]?.revision ?? null, logged ?? 0) };
  } finally {
    await client.end();
  }
}

/** The driver makes a new string for each cell: what is chosen, and the ids that are referred to, are one for all rows. */
function sharing(
  fleet: Fleet,
  field: Field<unknown> | undefined,
): ((value: unknown) => unknown) | undefined {
  if (field?.type === 'ref') {
    const to = field.to as Kind;
    return (id) => fleet.get(to, id as string | null)?.id ?? id;
  }
  if (field?.type !== 'choice') return undefined;
  const choices = new Map(field.choices!.map((choice) => [choice, choice]));
  return (value) => choices.get(value as string) ?? value;
}

/** A record of a shape that this version does not know. */
export class OtherShape extends Error {
  constructor(readonly shape: number) {
    super(`The record has shape ${shape}; this version knows shape ${SHAPE}.`);
  }
}

/** What is wrong with the record as a whole, in a sentence: nothing may be added to it then, only read. */
function faultOf(fleet: Fleet, revision: number | null, logged: number): string | null {
  if (revision === null) return `The record has no revision; its log ends at ${logged}.`;
  if (revision < logged)
    return `The record is at revision ${revision}, behind its log, which ends at ${logged}.`;
  if (revision > logged)
    return `The record is at revision ${revision}, ahead of its log, which ends at ${logged}.`;
  for (const kind of KIND_NAMES) {
    for (const { field, to } of REFERENCES[kind])
      for (const row of fleet.all(kind)) {
        const id = (row as unknown as Record<string, string | null>)[field];
        if (id !== null && id !== undefined && !fleet.get(to, id))
          return `A row is missing: the ${kindWords(to)} ${id}, which the ${kindWords(kind)} ${row.id} refers to.`;
      }
  }
  return null;
}
