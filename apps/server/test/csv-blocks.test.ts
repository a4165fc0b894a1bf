import fc from 'fast-check';
import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import { csvBlocks, endOfRecords, UnclosedQuote } from '../src/measure/csv-blocks.js';

const cut = (text: string, size: number): Uint8Array[] => {
  const bytes = new TextEncoder().encode(text);
  return Array.from({ length: Math.ceil(bytes.length / size) }, (_, i) =>
    bytes.subarray(i * size, (i + 1) * size),
  );
};
async function rowsOf(text: string, size: number): Promise<string[][]> {
  const rows: string[][] = [];
  for await (const block of csvBlocks(
    (async function* () {
      yield* cut(text, size);
    })(),
  ))
    rows.push(...block);
  return rows;
}

describe('CSV in blocks', () => {
  /** Lines of RFC 4180, section 2. */
  it('knows quoted commas, doubled quotes and line ends inside of quotes, wherever it is cut', async () => {
    const text = 'a,b,c\r\n"db ""main""","a,b",8\r\nx,"line1\nline2",\r\n';
    for (let size = 1; size <= text.length; size += 1)
      expect(await rowsOf(text, size)).toEqual([
        ['a', 'b', 'c'],
        ['db "main"', 'a,b', '8'],
        ['x', 'line1\nline2', ''],
      ]);
  });
  it('keeps letters of several bytes whole', async () => {
    for (let size = 1; size < 5; size += 1)
      expect(await rowsOf('ort,wert\nküste,5\n', size)).toEqual([
        ['ort', 'wert'],
        ['küste', '5'],
      ]);
  });
  it('reads whatever is written, cut anywhere', async () => {
    const field = fc.string({
      maxLength: 8,
      unit: fc.constantFrom('a', 'ö', '"', ',', '\n', '7', ' '),
    });
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.array(field, { minLength: 2, maxLength: 3 }), { minLength: 1, maxLength: 6 }),
        fc.integer({ min: 1, max: 40 }),
        async (rows, size) => {
          // A first line as real files have it: the delimiter is read off the first block.
          const all = [['time', 'guest', 'cpu'], ...rows];
          expect(
            await rowsOf(`${Papa.unparse(all, { newline: '\n', quotes: true })}\n`, size + 24),
          ).toEqual(all);
        },
      ),
    );
  });
  it('ends where the last record ends', () => {
    expect([
      endOfRecords('a\nb'),
      endOfRecords('a\n"b\n'),
      endOfRecords('"a\n'),
      endOfRecords('"a\nb"\nc'),
      endOfRecords(''),
    ]).toEqual([2, 2, 0, 6, 0]);
  });
  it('gives up on a quote that is never closed', async () => {
    await expect(rowsOf(`a,b\n"${'x\n'.repeat(700_000)}`, 65_536)).rejects.toThrow(UnclosedQuote);
  });
});
