import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { asLabel, namesOf, readPattern, type NameSlot } from './name-pattern.js';

const PIER: NameSlot = { host: 'gannet', site: 'Pier house' };
const TOWER: NameSlot = { host: 'tern', site: 'Sjøtårn' };
function names(
  pattern: string,
  slots: readonly NameSlot[] | number,
  { start = 1, taken = [] as string[] } = {},
) {
  const read = readPattern(pattern);
  if (!read.ok) throw new Error(read.sentence);
  return namesOf(read, {
    slots: typeof slots === 'number' ? Array.from({ length: slots }, () => PIER) : slots,
    start,
    taken: (name) => taken.includes(name),
  });
}

describe('a name pattern', () => {
  // Ranges: as `echo tide-{01..03}` prints in the common shells, seen there.
  it.each([
    ['tide-{01..03}', 3, ['tide-01', 'tide-02', 'tide-03']],
    ['tide-{8..11}', 4, ['tide-8', 'tide-9', 'tide-10', 'tide-11']],
    ['t{08..11}', 4, ['t08', 't09', 't10', 't11']],
    ['cam-{a..c}', 3, ['cam-a', 'cam-b', 'cam-c']],
    ['cam-{c..a}', 3, ['cam-c', 'cam-b', 'cam-a']],
    ['{a..b}{1..2}', 4, ['a1', 'a2', 'b1', 'b2']],
    ['tide-##', 2, ['tide-01', 'tide-02']],
    ['tide-{nn}-x', 2, ['tide-01-x', 'tide-02-x']],
    ['tide', 2, ['tide-1', 'tide-2']],
    ['{site}-cam-{a..b}', 2, ['pier-house-cam-a', 'pier-house-cam-b']],
  ])('%s for %i', (pattern, n, wanted) => expect(names(pattern, n)).toEqual(wanted));

  it('counts at each host for itself', () =>
    expect(names('{host}-w{n}', [PIER, TOWER, PIER, TOWER])).toEqual([
      'gannet-w1',
      'tern-w1',
      'gannet-w2',
      'tern-w2',
    ]));
  it('counts on behind a range, round after round', () =>
    expect(names('{a..b}{n}', 5)).toEqual(['a1', 'b1', 'a2', 'b2', 'a3']));
  it('passes over what is taken', () => {
    expect(names('tide-{nn}', 2, { taken: ['tide-01'] })).toEqual(['tide-02', 'tide-03']);
    expect(names('tide-{01..03}', 2, { taken: ['tide-02'] })).toEqual(['tide-01', 'tide-03']);
    expect(names('{host}-w{n}', [PIER, TOWER], { taken: ['gannet-w1'] })).toEqual([
      'gannet-w2',
      'tern-w1',
    ]);
  });
  it('gives no more than its ranges have', () => {
    expect(names('tide-{01..03}', 5)).toHaveLength(3);
    expect(readPattern('{a..c}-{1..4}')).toMatchObject({ ends: 12 });
    expect(readPattern('{a..c}-{n}')).toMatchObject({ ends: null });
  });
  it('begins where it is told', () =>
    expect(names('tide-{nn}', 2, { start: 40 })).toEqual(['tide-40', 'tide-41']));
  it.each([
    ['tide-{', 'A brace in "tide-{" has no partner.'],
    ['tide-{m}', '{m} is no field of a name: write {n}, {01..12}, {a..d}, {host} or {site}.'],
    ['{1..99999}', 'A range of 99999 names is more than 10000.'],
    ['{A..D}', '{A..D} is no field of a name: write {n}, {01..12}, {a..d}, {host} or {site}.'],
  ])('%s is told to be wrong', (pattern, sentence) =>
    expect(readPattern(pattern)).toEqual({ ok: false, sentence }),
  );

  it('never gives one name twice, whatever is taken', () =>
    fc.assert(
      fc.property(
        fc.constantFrom('x-{n}', '{host}-{nn}', '{a..c}{1..9}', 'q##', '{site}{n}'),
        fc.array(fc.constantFrom(PIER, TOWER), { maxLength: 20 }),
        fc.array(fc.constantFrom('x-1', 'gannet-01', 'a1', 'q02', 'pier-house1'), { maxLength: 3 }),
        (pattern, slots, taken) => {
          const found = names(pattern, slots, { taken: [...taken] });
          expect(new Set(found).size).toBe(found.length);
          expect(found.filter((name) => (taken as string[]).includes(name))).toEqual([]);
        },
      ),
    ));
});

describe('a name as a label', () => {
  it.each([
    ['Pier house', 'pier-house'],
    ['Sjøtårn', 'sjoetaarn'],
    ['Café (alt)', 'cafe-alt'],
    ['--x--', 'x'],
  ])('%s is %s', (name, label) => expect(asLabel(name)).toBe(label));
});
