/** A list leaves and comes back as it was; what a spreadsheet would run is defused. */
import Papa from 'papaparse';
import { createElement as h } from 'react';
import { describe, expect, it } from 'vitest';
import { asCsv, asJson, asTsv, cellsOf, fused, textOf, type TakenColumn } from './list-text.js';

interface Row {
  name: string;
  memory: number;
  notes: string;
}
const COLUMNS: TakenColumn<Row>[] = [
  { title: 'Guest', cell: (row) => row.name },
  { title: 'Memory', cell: (row) => h('b', null, row.memory, ' MiB'), value: (row) => row.memory },
  { title: 'Notes', cell: (row) => h('i', null, row.notes) },
  { title: '', cell: () => h('svg') },
];
const ROWS: Row[] = [
  { name: 'tide', memory: 4096, notes: 'a "quoted", word\nand a line' },
  { name: '=HYPERLINK("x")', memory: -12, notes: '+sum' },
  { name: 'plain', memory: 0, notes: '-7' },
];
const back = (text: string, delimiter: string) =>
  Papa.parse<string[]>(text.replace(/\r?\n$/, ''), { delimiter }).data.map((row) => row.map(fused));

describe('a list that leaves', () => {
  const cells = cellsOf(ROWS, COLUMNS);
  it('has the words of its cells, whatever they are drawn with', () => {
    expect(cells.titles).toEqual(['Guest', 'Memory', 'Notes', 'Finding']);
    expect(cells.rows[0]).toEqual(['tide', 4096, 'a "quoted", word\nand a line', '']);
    expect(textOf(h('p', null, 'at ', h('b', null, 3)))).toBe('at 3');
  });
  it.each([
    ['as CSV', asCsv(cells), ','],
    ['to the clipboard', asTsv(cells), '\t'],
  ])('%s comes back as it was', (_, { text, defused }, delimiter) => {
    const wanted = [cells.titles, ...cells.rows.map((row) => row.map(String))];
    expect(back(text, delimiter)).toEqual(wanted);
    expect(defused).toBe(2);
  });
  it('ends its lines as RFC 4180 has them', () => {
    const { text } = asCsv(cellsOf(ROWS.slice(2), COLUMNS));
    expect(text).toBe('Guest,Memory,Notes,Finding\r\nplain,0,-7,\r\n');
  });
  it.each(['=1+1', '+a', '@cmd', '-cmd', '\tx'])('%j is not run', (text) => {
    const row = { name: text, memory: 1, notes: '' };
    const [, line] = back(asCsv(cellsOf([row], COLUMNS)).text, ',');
    expect(line![0]).toBe(text);
    expect(asCsv(cellsOf([row], COLUMNS)).text).toContain(`'${text}`);
  });
  it('as JSON keeps numbers', () => {
    const [first] = JSON.parse(asJson(cells)) as Record<string, unknown>[];
    expect(first).toEqual({
      Guest: 'tide',
      Memory: 4096,
      Notes: 'a "quoted", word\nand a line',
      Finding: '',
    });
  });
});
