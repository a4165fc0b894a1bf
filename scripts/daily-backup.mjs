/** Run by `npm start`: the backup of today, if there is none yet. The installation arrives on standard input. */
import { readFileSync } from 'node:fs';
import { dailyBackup } from './backup.mjs';

try {
  dailyBackup(JSON.parse(readFileSync(0, 'utf8')), process.argv[2]);
} catch (error) {
  console.error(`The daily backup failed: ${error.message}`);
  process.exitCode = 1;
}
