/**
 * CSV (RFC 4180) as it arrives: blocks of whole records, so that a file of any length needs little memory. The parser's
 * own stream takes fifteen times as long for a record at a time.
 */
import Papa from 'papaparse';

/** A record longer than this is no record: a quote was opened and never closed. */
const LONGEST = 1024 * 1024;

export class UnclosedQuote extends Error {}

/** Records by block; the delimiter is that of the first block. @throws UnclosedQuote */
export async function* csvBlocks(stream: AsyncIterable<Uint8Array>): AsyncGenerator<string[][]> {
  const decoder = new TextDecoder('utf-8');
  let rest = '';
  let delimiter: string | undefined;
  const parse = (text: string): string[][] => {
    const { data, meta } = Papa.parse<string[]>(text, {
      header: false,
      ...(delimiter ? { delimiter } : {}),
    });
    delimiter ??= meta.delimiter;
    return data;
  };
  for await (const chunk of stream) {
    rest += decoder.decode(chunk, { stream: true });
    const end = endOfRecords(rest);
    if (end > 0) {
      // Without its last line end, which would begin one more, empty record.
      yield parse(rest.slice(0, end).replace(/\r?\n$/, ''));
      rest = rest.slice(end);
    } else if (rest.length > LONGEST) throw new UnclosedQuote();
  }
  rest += decoder.decode();
  if (rest !== '') yield parse(rest.replace(/\r?\n$/, ''));
}

/** Just after the last line end that lies outside of quotes; 0 if there is none. */
export function endOfRecords(text: string): number {
  let open = false;
  let end = 0;
  for (let at = 0; at < text.length; at += 1) {
    const code = text.charCodeAt(at);
    if (code === QUOTE) open = !open;
    else if (code === LINE_END && !open) end = at + 1;
  }
  return end;
}

const QUOTE = 34;
const LINE_END = 10;
