/**
 * Lets somebody in from the console: forgets the attempts that make them wait and prints a one-time way to a new password.
 * Usage: node let-in.js NAME, with INSEL_DATABASE_URL set.
 */
import 'reflect-metadata';
import { SetUp } from '../account/set-up.js';
import { SignInAttempts } from '../account/sign-in-attempts.js';
import { configFromEnvironment, type Config } from '../config.js';
import { openOrm } from '../database/orm.js';
import { endOnUncaught } from '../logging/redacting-logger.js';
import { StartProblem } from '../start-problem.js';
import { endWith } from '../why-not-started.js';

endOnUncaught();
const where: Partial<Config> = {};
try {
  const name = process.argv[2];
  if (!name) throw new StartProblem('Say whom to let in.', 'npm run let-in -- NAME');
  const orm = await openOrm(Object.assign(where, configFromEnvironment()).databaseUrl);
  try {
    await new SignInAttempts(orm).forget(name);
    const made = await new SetUp(orm).tokenFor(name);
    if (!made)
      throw new StartProblem(`There is nobody named ${name}.`, 'Look at People for the name.');
    // Read by the script that started this.
    console.log(`INSEL_LET_IN ${made.token} ${made.name}`);
  } finally {
    await orm.close(true);
  }
} catch (error) {
  endWith(error, where, (text) => console.error(text));
}
