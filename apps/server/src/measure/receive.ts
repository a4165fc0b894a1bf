/**
 * A body is received whole before anything is done with it: into a file that is gone afterwards, within limits of size and
 * time. However slowly it arrives, it holds no connection to the database.
 */
import { once } from 'node:events';
import { createWriteStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { finished } from 'node:stream/promises';
import { ProblemException } from '../problem-exception.js';

const LIMITS = {
  bytes: 2 ** 30,
  /** Nothing may be heard for so long, and the whole may take so long. */
  silenceMs: 30_000,
  wholeMs: 30 * 60_000,
  atOnce: 12,
};

let receiving = 0;

/**
 * Receives a body, works with the file, removes it.
 * @param onBytes called with each piece; false stops the receiving, and what has arrived is worked with
 * @throws ProblemException 413 over the size, 408 over the time, 503 while too many send at once
 */
export async function received<T>(
  body: Readable,
  onBytes: (bytes: number) => boolean,
  work: (file: string) => Promise<T>,
): Promise<T> {
  if (receiving >= LIMITS.atOnce)
    throw new ProblemException(503, {
      code: 'busy',
      sentence: 'Too many files are being sent at this moment.',
      remedy: 'Try again in a minute.',
      retryAfterSeconds: 60,
    });
  receiving += 1;
  const folder = await mkdtemp(join(tmpdir(), 'insel-body-'));
  try {
    const file = join(folder, 'body');
    await writeTo(file, body, onBytes);
    return await work(file);
  } finally {
    receiving -= 1;
    body.resume();
    await rm(folder, { recursive: true, force: true });
  }
}

async function writeTo(
  file: string,
  body: Readable,
  onBytes: (bytes: number) => boolean,
): Promise<void> {
  const out = createWriteStream(file);
  const clock = new Patience();
  let bytes = 0;
  try {
    const pieces = body.iterator({ destroyOnReturn: false });
    for (;;) {
      const next = await clock.wait(pieces.next());
      if (next.done) break;
      const piece = next.value as Buffer;
      bytes += piece.length;
      if (bytes > LIMITS.bytes)
        throw new ProblemException(413, {
          code: 'too-large',
          sentence: 'The file is larger than 1 GiB.',
          remedy: 'Send it in parts.',
        });
      if (!onBytes(piece.length)) break;
      if (!out.write(piece)) await once(out, 'drain');
    }
  } finally {
    clock.stop();
    out.end();
    await finished(out);
  }
}

/** Waits for each piece, and for all of them together. */
class Patience {
  private reject: (error: Error) => void = () => undefined;
  private readonly whole = setTimeout(() => this.reject(tooSlow()), LIMITS.wholeMs);
  private silence: NodeJS.Timeout | undefined;

  wait<T>(piece: Promise<T>): Promise<T> {
    clearTimeout(this.silence);
    return new Promise<T>((resolve, reject) => {
      this.reject = reject;
      this.silence = setTimeout(() => reject(tooSlow()), LIMITS.silenceMs);
      piece.then(resolve, reject);
    });
  }

  stop(): void {
    clearTimeout(this.silence);
    clearTimeout(this.whole);
  }
}

const tooSlow = (): ProblemException =>
  new ProblemException(408, {
    code: 'too-slow',
    sentence: 'The file stopped arriving; nothing of it was taken in.',
    remedy: 'Send it again.',
  });
