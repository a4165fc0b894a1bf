import { expect, it, test } from 'vitest';
import { arrayQuestion, readDisks } from './read-disks.js';

test.each([
  ['8 x 4 TB', Array.from({ length: 8 }, () => 4e12)],
  ['2×480GB, 4*2 TB', [480e9, 480e9, 2e12, 2e12, 2e12, 2e12]],
  ['1 TiB', [1_099_511_627_776]],
  ['', []],
])('%s', (text, disks) => expect(readDisks(text)).toEqual({ disks, fault: null }));

test.each([
  ['4 x 500G', 'write one of them'],
  ['much', 'not a size'],
  ['2000 x 1 TB', 'At most 1024'],
])('%s is refused', (text, sentence) => expect(readDisks(text).fault).toContain(sentence));

it('answers a question of the search field', () => {
  expect(arrayQuestion('raid 6 8x4tb')!.sentence).toBe(
    'Level 6 of 8 disks: 24 TB = 21.8 TiB usable, survives 2',
  );
  expect(arrayQuestion('raid 50 6x4TB')!.sentence).toBe(
    'Level 50 of 6 disks: 16 TB = 14.6 TiB usable, survives 1 to 2',
  );
  expect(arrayQuestion('array 5 2x1TB')!.sentence).toContain('at least 3');
  for (const text of ['raid', 'raid 7 3x1TB', 'raid 5 many', 'gannet'])
    expect(arrayQuestion(text)).toBeNull();
});
