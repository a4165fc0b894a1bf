/**
 * Compares three accounts of the record: the log replayed from the beginning, the tables as the mapper reads them, and
 * a keeper started the usual way. Prints one line each and ends with 1 if they differ.
 */
import { digestLines, Fleet, KIND_NAMES, upcast } from '@insel/core';
import { MikroORM } from '@mikro-orm/postgresql';
import { FleetKeeper } from '../record/keeper.js';
import { entryOf, LOG_COLUMNS } from '../record/log-rows.js';
import { openContext } from './context.js';

const app = await openContext();
const sql = (text: string): Promise<Record<string, unknown>[]> => app.get(MikroORM).em.getConnection().execute(text, [], 'all');
try {
  const replayed = new Fleet();
  const entries = (await sql(`select ${LOG_COLUMNS} from log order by revision`)).map(entryOf);
  entries.forEach((entry, i) => {
    if (entry.revision !== i + 1) throw new Error(`the log jumps to ${entry.revision} after ${i}`);
    replayed.apply(upcast(entry), entry.revision);
  });
  const keeper = app.get(FleetKeeper).fleet;
  const [ofLog, ofKeeper] = [digestLines(replayed), digestLines(keeper)];
  const em = app.get(MikroORM).em.fork();
  let rows = 0;
  for (const kind of KIND_NAMES) rows += await em.count(kind);
  const [inLog, inKeeper] = [new Set(ofLog), new Set(ofKeeper)];
  const differences = [...ofLog.filter((line) => !inKeeper.has(line)), ...ofKeeper.filter((line) => !inLog.has(line))];
  console.log(`log     ${entries.length} entries, ${ofLog.length} rows when replayed`);
  console.log(`keeper  revision ${keeper.revision}, ${ofKeeper.length} rows`);
  console.log(`tables  ${rows} rows`);
  for (const line of differences.slice(0, 10)) console.log(`differs ${line}`);
  const whole = differences.length === 0 && rows === ofKeeper.length && keeper.revision === entries.length;
  console.log(whole ? 'The three agree.' : 'THE THREE DIFFER.');
  process.exitCode = whole ? 0 : 1;
} finally {
  await app.close();
}
