import { createHash } from 'node:crypto';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { digestOf } from './digest.js';

const streamOf = (chunks: Uint8Array[]) =>
  new ReadableStream<Uint8Array>({
    start(controller) {
      for (const chunk of chunks) controller.enqueue(chunk);
      controller.close();
    },
  });
const text = (words: string) => new TextEncoder().encode(words);

describe('the digest of a stream', () => {
  /** "abc" is NIST's published example (FIPS 180-2, appendix B.1; from memory, recomputed here with the platform's own). */
  it.each([
    ['', 'e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855'],
    ['abc', 'ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad'],
    [
      'hypervisor01.lab.example',
      '6c5a41d2af04fd36964fac7d149a44f4956737ff9ca5d027a01831ac02b152d9',
    ],
  ])('of "%s"', async (words, hex) => {
    expect(await digestOf(streamOf([text(words)]))).toBe(hex);
    expect(createHash('sha256').update(words).digest('hex')).toBe(hex);
  });
  it('is that of the platform, however the bytes are cut', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.uint8Array({ maxLength: 300 }), { maxLength: 12 }),
        async (chunks) => {
          const whole = createHash('sha256');
          for (const chunk of chunks) whole.update(chunk);
          expect(await digestOf(streamOf(chunks))).toBe(whole.digest('hex'));
        },
      ),
    );
  });
  it('tells how far it is', async () => {
    const told: number[] = [];
    await digestOf(streamOf([text('abc'), text('defg')]), (bytes) => told.push(bytes));
    expect(told).toEqual([3, 7]);
  });
});
