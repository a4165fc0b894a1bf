import { describe, expect, it } from 'vitest';
import { chance } from './chance.js';
import { questionOf, rule } from './cases.js';
import { fewerByEjection } from './ejection.js';
import { PUBLISHED_CLASSES, publishedCase } from './published-cases.js';
import { usedBy, type PackingQuestion, type Placing } from './question.js';
import { searchAll } from './search.js';
import { faultsOf } from './verify.js';

const last = (question: PackingQuestion, start: Placing, least = 0, steps = 2_000) => {
  let at = start;
  for (const fewer of fewerByEjection(question, start, least, steps)) {
    expect(usedBy(fewer).size).toBe(usedBy(at).size - 1);
    at = fewer;
  }
  return at;
};

const eachOnItsOwn = ({ units }: PackingQuestion) =>
  Int32Array.from({ length: units }, (_, unit) => unit);

/** The fewest of the first hosts that hold all, by every placing there is: hosts are alike. */
function fewestByHand(question: PackingQuestion): number {
  for (let hosts = 1; ; hosts += 1) {
    const candidates = Int32Array.from({ length: hosts }, (_, host) => host);
    const narrow = { ...question, candidates: question.candidates.map(() => candidates) };
    const { fits } = searchAll(narrow, 400_000);
    expect(fits).not.toBeNull();
    if (fits) return hosts;
  }
}

describe('one host fewer, again and again', () => {
  it.each(PUBLISHED_CLASSES)(
    'class %i, 12 items: legal, never fewer than every placing says, and as few nearly always',
    (number) => {
      let more = 0;
      for (let seed = 0; seed < 6; seed += 1) {
        const { question } = publishedCase(number, 12, seed);
        const at = last(question, eachOnItsOwn(question));
        expect(faultsOf(question, at)).toEqual([]);
        const least = fewestByHand(question);
        expect(usedBy(at).size).toBeGreaterThanOrEqual(least);
        more += usedBy(at).size - least;
      }
      expect(more).toBeLessThanOrEqual(1);
    },
  );

  it('rules hold, and who may not go everywhere does not', () => {
    const random = chance(5);
    const hosts = Array.from({ length: 20 }, () => [32, 32]);
    const racks = hosts.map((_, host) => host % 5);
    const question = questionOf({
      units: hosts.map(() => [4 + Math.floor(random() * 9), 2 + Math.floor(random() * 9)]),
      hosts,
      candidates: hosts.map((_, unit) =>
        [...hosts.keys()].filter((host) => unit % 4 > 0 || host === unit || host % 2 === 0),
      ),
      limits: [rule([0, 1, 2, 3, 4, 5], [...hosts.keys()], 1), rule([6, 7, 8, 9], racks, 2)],
    });
    const at = last(question, eachOnItsOwn(question));
    expect(faultsOf(question, at)).toEqual([]);
    // Six lie apart, so fewer than six cannot be.
    expect(usedBy(at).size).toBeGreaterThanOrEqual(6);
    expect(usedBy(at).size).toBeLessThanOrEqual(8);
  });

  it('the same question has the same answer; it ends at what is asked, or when it is told to', () => {
    const { question } = publishedCase(6, 48, 1);
    const start = eachOnItsOwn(question);
    expect(last(question, start)).toEqual(last(question, start));
    expect(usedBy(last(question, start, 30)).size).toBe(30);
    let asked = 0;
    const told = [...fewerByEjection(question, start, 0, 2_000, () => (asked += 1) <= 3)];
    expect(told).toHaveLength(3);
    // A start is not altered.
    expect(start).toEqual(eachOnItsOwn(question));
  });
});
