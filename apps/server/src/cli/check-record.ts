/**
 * Compares three accounts of the record: the log replayed from the beginning, the tables as the database writes them, and
 * a keeper started the usual way. Prints one line each and ends with 1 if they differ.
 */
import {
  digestLines,
  Fleet,
  KIND_NAMES,
  KINDS,
  upcast,
  type Kind,
  type LogEntry,
} from '@insel/core';
import { MikroORM } from '@mikro-orm/postgresql';
import { FleetKeeper } from '../record/keeper.js';
import { entryOf, LOG_COLUMNS } from '../record/log-rows.js';
import { snake } from '../database/snake.js';
import { tableOf } from '../record/rows.js';
import { openContext } from './context.js';

const app = await openContext();
const sql = (text: string): Promise<Record<string, unknown>[]> =>
  app.get(MikroORM).em.getConnection().execute(text, [], 'all');
try {
  const replayed = new Fleet();
  const entries = (await sql(`select ${LOG_COLUMNS} from log order by revision`)).map(entryOf);
  const faults: string[] = [];
  for (const [i, entry] of entries.entries()) {
    const fault =
      entry.revision === i + 1
        ? whyNotReplayed(replayed, entry)
        : `The log jumps to ${entry.revision} after ${i}.`;
    if (!fault) continue;
    faults.push(fault);
    break;
  }
  const tables = new Fleet();
  for (const kind of KIND_NAMES) {
    for (const { row } of await sql(`select to_jsonb(t) as row from ${tableOf(kind)} t`))
      tables.load(kind, fromJson(kind, row as Record<string, unknown>));
  }
  const keeper = app.get(FleetKeeper).fleet;
  const accounts = {
    log: digestLines(replayed),
    tables: digestLines(tables),
    keeper: digestLines(keeper),
  };
  console.log(`log     ${entries.length} entries, ${accounts.log.length} rows when replayed`);
  console.log(`tables  ${accounts.tables.length} rows`);
  console.log(`keeper  revision ${keeper.revision}, ${accounts.keeper.length} rows`);
  const { fault } = app.get(FleetKeeper).state();
  if (fault) faults.push(fault);
  for (const line of faults) console.log(line);
  const differences = [
    ...differing(accounts.log, accounts.tables),
    ...differing(accounts.log, accounts.keeper),
  ];
  for (const line of differences.slice(0, 10)) console.log(`differs ${line}`);
  if (differences.length > 10) console.log(`and ${differences.length - 10} more lines`);
  const sameOrder = accounts.log.every((line, i) => accounts.keeper[i] === line);
  if (differences.length === 0 && !sameOrder) console.log('differs the order of rows');
  const whole =
    faults.length === 0 &&
    differences.length === 0 &&
    sameOrder &&
    keeper.revision === entries.length;
  console.log(whole ? 'The three agree.' : 'THE THREE DIFFER.');
  process.exitCode = whole ? 0 : 1;
} finally {
  await app.close();
}

function whyNotReplayed(fleet: Fleet, entry: LogEntry): string | undefined {
  try {
    fleet.apply(upcast(entry), entry.revision);
    return undefined;
  } catch (error) {
    return `Entry ${entry.revision} of the log does not fit what stands before it: ${(error as Error).message}.`;
  }
}

/** A row as the database itself writes it as JSON: another way than the one the keeper reads by. */
function fromJson(kind: Kind, json: Record<string, unknown>): { id: string; revision: number } {
  const fields = Object.entries(KINDS[kind].fields).map(([name, field]) => {
    const value = json[snake(name)];
    return [
      name,
      field.type === 'time' && value !== null ? new Date(String(value)).toISOString() : value,
    ];
  });
  return {
    id: String(json.id),
    revision: Number(json.revision),
    ...Object.fromEntries(fields),
  } as { id: string; revision: number };
}

/** Lines that only one of two accounts has. */
function differing(one: string[], other: string[]): string[] {
  const [inOne, inOther] = [new Set(one), new Set(other)];
  return [...one.filter((line) => !inOther.has(line)), ...other.filter((line) => !inOne.has(line))];
}
