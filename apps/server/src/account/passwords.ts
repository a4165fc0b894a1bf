import { createHash, randomBytes } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import { ProblemException } from '../http/problem-exception.js';

/** argon2id by OWASP's advice (19 MiB, two passes, one lane; from memory); at most two at once, since each costs memory. */
const OPTIONS = { memoryCost: 19456, timeCost: 2, parallelism: 1 };
const AT_ONCE = 2;
/** Comparisons for people who were never here before that may wait; more would keep everybody else waiting. */
const MOST_STRANGERS_WAITING = 12;

let running = 0;
const waiting: { known: (() => void)[]; strangers: (() => void)[] } = { known: [], strangers: [] };

async function inTurn<T>(whose: keyof typeof waiting, work: () => Promise<T>): Promise<T> {
  if (running >= AT_ONCE) {
    if (whose === 'strangers' && waiting.strangers.length >= MOST_STRANGERS_WAITING)
      throw new ProblemException(503, {
        code: 'busy',
        sentence: 'Too many are signing in at this moment.',
        remedy: 'Try again in a second.',
        retryAfterSeconds: 1,
      });
    await new Promise<void>((resolve) => waiting[whose].push(resolve));
  } else running += 1;
  try {
    return await work();
  } finally {
    // The turn is handed on, so that nobody slips in between.
    const next = waiting.known.shift() ?? waiting.strangers.shift();
    if (next) next();
    else running -= 1;
  }
}

export const hashPassword = (password: string): Promise<string> =>
  inTurn('known', () => hash(password, OPTIONS));

/** @param known somebody who has signed in from there before: does not wait behind strangers */
export const verifyPassword = (stored: string, password: string, known = true): Promise<boolean> =>
  inTurn(known ? 'known' : 'strangers', () => verify(stored, password));

/** A token for a cookie, a script or the first set-up: 256 random bits. */
export const newToken = (): string => randomBytes(32).toString('base64url');

/** What is stored of a token. */
export const tokenHash = (token: string): string =>
  createHash('sha256').update(token).digest('hex');
