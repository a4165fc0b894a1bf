import { createHash, randomBytes } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import PQueue from 'p-queue';
import { ProblemException } from '../problem-exception.js';

/** argon2id by OWASP's advice (19 MiB, two passes, one lane; from memory); at most two at once, since each costs memory. */
const OPTIONS = { memoryCost: 19456, timeCost: 2, parallelism: 1 };
const comparing = new PQueue({ concurrency: 2 });
/** Strangers are signed in so many at once, so that connections are left for everybody else, … */
const strangers = new PQueue({ concurrency: 3 });
/** … and so many more may wait for it. */
const MOST_STRANGERS_WAITING = 12;

const inTurn = <T>(work: () => Promise<T>, priority = 1): Promise<T> =>
  comparing.add(work, { priority });

/**
 * Signs somebody in who was never here before: behind other strangers, never before who is known.
 * @throws ProblemException 503 where too many wait
 */
export function amongStrangers<T>(work: () => Promise<T>): Promise<T> {
  if (strangers.size >= MOST_STRANGERS_WAITING)
    throw new ProblemException(503, {
      code: 'busy',
      sentence: 'Too many are signing in at this moment.',
      remedy: 'Try again in a second.',
      retryAfterSeconds: 1,
    });
  return strangers.add(work);
}

export const hashPassword = (password: string): Promise<string> =>
  inTurn(() => hash(password, OPTIONS));

/** @param known somebody who has signed in from there before: does not wait behind strangers */
export const verifyPassword = (stored: string, password: string, known = true): Promise<boolean> =>
  inTurn(() => verify(stored, password), known ? 1 : 0);

/** A token for a cookie, a script or the first set-up: 256 random bits. */
export const newToken = (): string => randomBytes(32).toString('base64url');

/** What is stored of a token. */
export const tokenHash = (token: string): string =>
  createHash('sha256').update(token).digest('hex');
