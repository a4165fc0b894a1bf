/**
 * A disc image with the first-start files of a guest: ISO 9660 with Joliet and Rock Ridge, under the volume label that the
 * convention asks for (from memory). Written by xorriso, from Debian's package of that name.
 */
import { spawn } from 'node:child_process';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ProblemException } from '../problem-exception.js';

const LABEL = 'cidata';
/** An image of three small files is 370 kB; what takes longer than this hangs. */
const PATIENCE_MS = 10_000;

export async function seedImage(files: readonly { name: string; text: string }[]): Promise<Buffer> {
  const folder = await mkdtemp(join(tmpdir(), 'insel-seed-'));
  try {
    await Promise.all(files.map(({ name, text }) => writeFile(join(folder, name), text)));
    return await printed('xorriso', ['-as', 'mkisofs', '-quiet', '-V', LABEL, '-J', '-r', folder]);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

function printed(program: string, args: readonly string[]): Promise<Buffer> {
  return new Promise((resolve, reject) => {
    const parts: Buffer[] = [];
    const child = spawn(program, args, {
      stdio: ['ignore', 'pipe', 'ignore'],
      timeout: PATIENCE_MS,
    });
    child.stdout.on('data', (part: Buffer) => parts.push(part));
    child.on('error', () => reject(missing(program)));
    child.on('close', (status) =>
      status === 0 ? resolve(Buffer.concat(parts)) : reject(missing(program)),
    );
  });
}

const missing = (program: string): ProblemException =>
  new ProblemException(503, {
    code: 'program-missing',
    sentence: `The image was not written: the server has no working ${program}.`,
    remedy: `Install Debian’s package ${program} on the server, or take the three files instead.`,
  });
