/** Why a server or command did not start: one sentence and what to do, no trace. */
import { isConnectionLost, placeOf } from './database/watch.js';
import { OtherShape } from './record/load.js';
import { StartProblem } from './start-problem.js';

interface Where {
  databaseUrl?: string;
  port?: number;
  host?: string;
}

/** @returns the problem as a sentence and a remedy; undefined for a bug, whose trace is wanted */
function startProblemOf(
  error: unknown,
  { databaseUrl, port, host }: Where,
): StartProblem | undefined {
  if (error instanceof StartProblem) return error;
  const place = databaseUrl ? placeOf(databaseUrl) : 'its place';
  if (error instanceof OtherShape)
    return new StartProblem(
      error.message,
      'Stop, and start the version that wrote it or a newer one: npm start brings it up.',
    );
  const { code, syscall } = (error ?? {}) as { code?: string; syscall?: string };
  if (code === 'EADDRINUSE' && syscall === 'listen')
    return new StartProblem(
      `Port ${port} of ${host} is taken by another program.`,
      'Set INSEL_PORT to a free one.',
    );
  if (code === 'EACCES' && syscall === 'listen')
    return new StartProblem(
      `Port ${port} may not be opened by this user.`,
      'Set INSEL_PORT to one above 1023.',
    );
  if (code === 'EADDRNOTAVAIL')
    return new StartProblem(
      `This machine has no address ${host}.`,
      'Set INSEL_HOST to one that it has.',
    );
  if (code === '28P01' || code === '28000')
    return new StartProblem(
      `The database at ${place} does not accept the password.`,
      'Set INSEL_DATABASE_URL to the one of settings.json.',
    );
  if (code === '3D000')
    return new StartProblem(
      `There is no database at ${place}.`,
      'Start Insel with npm start, which makes it.',
    );
  if (code === '42P01' || code === '42703')
    return new StartProblem(
      `The database at ${place} has not all tables of this version.`,
      'Run the migrations: npm start does.',
    );
  if (isConnectionLost(error))
    return new StartProblem(
      `The database at ${place} does not answer.`,
      'Start it, or set INSEL_DATABASE_URL to where it is.',
    );
  return undefined;
}

/** Ends the process with what went wrong. */
export function endWith(error: unknown, where: Where, tell: (text: string) => void): never {
  const problem = startProblemOf(error, where);
  if (!problem) throw error;
  tell(`${problem.message} ${problem.remedy}`);
  process.exit(1);
}
