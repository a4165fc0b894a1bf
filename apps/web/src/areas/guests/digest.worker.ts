/** Reads a file in a thread of its own; the file never leaves the browser. Ended from outside, it just stops. */
import { digestOf } from './digest.js';

export type FromDigest =
  | { type: 'progress'; bytes: number }
  | { type: 'done'; sha256: string }
  | { type: 'failed'; message: string };

/** Told at most so often, in bytes. */
const STEP = 8 * 1024 * 1024;
const say = (message: FromDigest) => postMessage(message);

onmessage = ({ data: file }: MessageEvent<File>) => {
  let reported = 0;
  digestOf(file.stream(), (bytes) => {
    if (bytes - reported < STEP) return;
    reported = bytes;
    say({ type: 'progress', bytes });
  }).then(
    (sha256) => say({ type: 'done', sha256 }),
    (error: Error) => say({ type: 'failed', message: error.message }),
  );
};
