import { createHash, randomBytes } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';

/** argon2id by OWASP's advice (19 MiB, two passes, one lane; from memory); at most two at once, since each costs memory. */
const OPTIONS = { memoryCost: 19456, timeCost: 2, parallelism: 1 };
const AT_ONCE = 2;
let running = 0;
const waiting: (() => void)[] = [];

async function inTurn<T>(work: () => Promise<T>): Promise<T> {
  if (running >= AT_ONCE) await new Promise<void>((resolve) => waiting.push(resolve));
  running += 1;
  try {
    return await work();
  } finally {
    running -= 1;
    waiting.shift()?.();
  }
}

export const hashPassword = (password: string): Promise<string> =>
  inTurn(() => hash(password, OPTIONS));
export const verifyPassword = (stored: string, password: string): Promise<boolean> =>
  inTurn(() => verify(stored, password));

/** A token for a cookie, a script or the first set-up: 256 random bits. */
export const newToken = (): string => randomBytes(32).toString('base64url');

/** What is stored of a token. */
export const tokenHash = (token: string): string =>
  createHash('sha256').update(token).digest('hex');
