/** The question of one host after another, counted once, against the question put anew for each. */
import { expect, it } from 'vitest';
import { beside, besideEach } from './beside.js';
import { crowd, rule, standing } from './cases.js';
import { settle } from './settle.js';

it('is the same for every host as the question put for it alone', () => {
  for (let seed = 0; seed < 40; seed += 1) {
    const { question: plain, start } = standing(seed, { hosts: 6, guests: 24, full: 0.7 });
    const limits = [
      rule([0, 1, 2, 3], [0, 0, 1, 1, 2, 2], 2),
      rule([4, 5], [0, 1, 2, 3, 4, 5], null),
    ];
    const question = { ...plain, limits };
    const more = plain.room.map((_, i) => i % 3);
    const off = new Set(seed % 3 === 0 ? [5] : []);
    const each = besideEach({ question, at: start, off, more, dims: [0] });
    for (let host = 0; host < 6; host += 1) {
      const units = [...start.keys()].filter((unit) => start[unit] === host);
      const asked = { question, at: start, units, gone: new Set([host, ...off]), more, dims: [0] };
      const anew = beside(asked);
      const found = each(host);
      expect(found.units).toEqual(units);
      const { limits: bound, ...rest } = found.question;
      const { limits: all, ...others } = anew;
      expect(rest).toEqual(others);
      expect(bound).toEqual(all.filter(({ members }) => members.length > 0));
      expect(settle(found.question, 5_000).answer).toBe(settle(anew, 5_000).answer);
    }
  }
});

it('a host with nothing on it loses nothing', () => {
  const { question, start } = crowd(1, { hosts: 8, guests: 20, kinds: 1 });
  const at = start.map((host) => (host === 3 ? 4 : host));
  expect(besideEach({ question, at })(3)).toMatchObject({ units: [], question: { units: 0 } });
});
