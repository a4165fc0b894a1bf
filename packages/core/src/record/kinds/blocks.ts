/** Several address blocks in one text, as people write them. */
import { formatPrefix, parsePrefix, prefixOf, type Prefix } from '../../address/index.js';
import { text, type Read } from '../field.js';

/**
 * @example readBlocks('10.0.0.0/8  fd00::/8') // { ok: true, value: '10.0.0.0/8, fd00::/8' }
 */
export function readBlocks(written: string): Read {
  const blocks: string[] = [];
  for (const word of written.split(/[\s,;]+/).filter(Boolean)) {
    const read = parsePrefix(word);
    if (!read.ok) return { ...read, sentence: `${word}: ${read.sentence}` };
    blocks.push(formatPrefix(read.value));
  }
  return { ok: true, value: [...new Set(blocks)].join(', ') };
}

/** The blocks of a text that was read. */
export const blocksOf = (text: string): Prefix[] =>
  text === '' ? [] : text.split(', ').map(prefixOf);

/** Blocks in canonical notation, separated by commas; empty: nobody limits it. */
export const blocks = () => ({ ...text(400), reads: readBlocks });
