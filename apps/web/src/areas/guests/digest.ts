/** SHA-256 (FIPS 180-4) of a stream as it is read: an image of any length needs little memory. */
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';

/** @param progress told the bytes read so far @returns 64 hexadecimal digits, lower case */
export async function digestOf(
  stream: ReadableStream<Uint8Array>,
  progress: (bytes: number) => void = () => undefined,
): Promise<string> {
  const hash = sha256.create();
  const reader = stream.getReader();
  let bytes = 0;
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return bytesToHex(hash.digest());
    hash.update(value);
    progress((bytes += value.length));
  }
}
