import fc from 'fast-check';
import { describe, expect, it, test } from 'vitest';
import {
  formatPrefix,
  planPrefix,
  prefixOf,
  prefixQuestion,
  readNeeds,
  total,
  type Need,
} from './index.js';

const plan = (
  parent: string,
  needs: [string, number, boolean?][],
  growth = 0,
  taken: string[] = [],
) => {
  // The worked numbers count machines without a gateway: one less is asked for here, since the planner adds it.
  const wanted: Need[] = needs.map(([name, machines, link]) => ({
    name,
    machines: link ? machines : machines - 1,
    link,
  }));
  return planPrefix(prefixOf(parent), wanted, growth, taken.map(prefixOf));
};
const placed = (result: ReturnType<typeof plan>) =>
  result.ok
    ? result.plan.planned.map((row) => `${row.name} ${formatPrefix(row.block)}`).join(', ')
    : result.sentence;

describe('subnets cut out of a block, the largest first', () => {
  // Worked by hand from the rule and recomputed by a second program; block sizes RFC 4632, links RFC 3021.
  test.each([
    [
      '10.20.30.0/24',
      [
        ['servers', 100],
        ['clients', 50],
        ['mgmt', 25],
        ['backup', 10],
        ['link', 2, true],
      ],
      'servers 10.20.30.0/25, clients 10.20.30.128/26, mgmt 10.20.30.192/27, backup 10.20.30.224/28, link 10.20.30.240/31',
    ],
    [
      '192.168.10.0/24',
      [
        ['a', 60],
        ['b', 60],
        ['c', 30],
        ['d', 14],
        ['e', 6],
        ['f', 2],
        ['g', 2],
      ],
      'a 192.168.10.0/26, b 192.168.10.64/26, c 192.168.10.128/27, d 192.168.10.160/28, e 192.168.10.176/29, f 192.168.10.184/30, g 192.168.10.188/30',
    ],
    [
      '10.0.0.0/22',
      [
        ['g', 6],
        ['f', 14],
        ['e', 30],
        ['d', 60],
        ['c', 100],
        ['b', 200],
        ['a', 500],
      ],
      'g 10.0.3.240/29, f 10.0.3.224/28, e 10.0.3.192/27, d 10.0.3.128/26, c 10.0.3.0/25, b 10.0.2.0/24, a 10.0.0.0/23',
    ],
  ] as [string, [string, number, boolean?][], string][])('%s', (parent, needs, wanted) =>
    expect(placed(plan(parent, needs))).toBe(wanted),
  );

  it('says what stays free and what is spare', () => {
    const result = plan('10.20.30.0/24', [
      ['servers', 100],
      ['clients', 50],
      ['mgmt', 25],
      ['backup', 10],
      ['link', 2, true],
    ]);
    if (!result.ok) throw new Error(result.sentence);
    expect(result.plan.free.map(formatPrefix)).toEqual([
      '10.20.30.242/31',
      '10.20.30.244/30',
      '10.20.30.248/29',
    ]);
    expect(result.plan.planned.map((row) => row.spare)).toEqual([26, 12, 5, 4, 0]);
    // 242 addresses in blocks, 187 asked for.
    expect(result.plan.wastePercent).toBeCloseTo(((242 - 187) / 242) * 100, 9);
  });
  it('names the deficit', () =>
    expect(
      placed(
        plan('192.168.1.0/25', [
          ['a', 60],
          ['b', 30],
          ['c', 30],
          ['d', 10],
        ]),
      ),
    ).toBe('192.168.1.0/25 has 128 addresses left for this, the subnets take 144: 16 too few.'));
  it('says so when what is used lies in between', () =>
    expect(
      placed(plan('192.168.1.0/24', [['a', 100]], 0, ['192.168.1.64/26', '192.168.1.128/26'])),
    ).toContain('not in blocks that are large enough'));
  it('counts the gateway: 125 guests need a /25, 126 a /24', () => {
    const length = (machines: number) => {
      const result = planPrefix(prefixOf('10.0.0.0/16'), [{ name: 'a', machines }]);
      return result.ok ? result.plan.planned[0]!.block.length : 0;
    };
    expect([length(125), length(126)]).toEqual([25, 24]);
  });
  it('growth is rounded up, in whole numbers', () => {
    const result = planPrefix(
      prefixOf('10.0.0.0/16'),
      [
        { name: 'a', machines: 10 },
        { name: 'b', machines: 11 },
      ],
      30,
    );
    expect(result.ok && result.plan.planned.map((row) => row.wanted)).toEqual([14, 16]);
  });
  it('gives IPv6 networks a /64 and links a /127', () => {
    const result = planPrefix(prefixOf('2001:db8::/56'), [
      { name: 'a', machines: 500 },
      { name: 'link', machines: 2, link: true },
    ]);
    expect(result.ok && result.plan.planned.map((row) => formatPrefix(row.block))).toEqual([
      '2001:db8::/64',
      '2001:db8:0:1::/127',
    ]);
  });
  it('never fails in any order while the sum fits', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 120 }), { minLength: 1, maxLength: 12 }),
        (sizes) => {
          const result = planPrefix(
            prefixOf('10.0.0.0/21'),
            sizes.map((machines, i) => ({ name: String(i), machines })),
          );
          const sum = sizes.reduce(
            (all, machines) => all + 2 ** (machines + 2).toString(2).length,
            0,
          );
          expect(result.ok).toBe(sum <= 2048);
          if (!result.ok) return;
          const all = [...result.plan.planned.map((row) => row.block), ...result.plan.free];
          expect(all.reduce((count, block) => count + total(block), 0n)).toBe(2048n);
        },
      ),
    );
  });
});

describe('needs as people say them', () => {
  it('are read with growth and links', () =>
    expect(readNeeds('60 guests, 12 management, 2 links, 30 % growth')).toEqual({
      ok: true,
      growthPercent: 30,
      needs: [
        { name: 'guests', machines: 60 },
        { name: 'management', machines: 12 },
        { name: 'link 1', machines: 2, link: true },
        { name: 'link 2', machines: 2, link: true },
      ],
    }));
  it('also with the name first', () =>
    expect(readNeeds('guests 60')).toMatchObject({ needs: [{ name: 'guests', machines: 60 }] }));
  test.each(['', 'guests', '0 guests', '9999999999 guests', '300 links'])(
    '"%s" gets a sentence',
    (text) =>
      expect(readNeeds(text)).toMatchObject({
        ok: false,
        sentence: expect.stringMatching(/[.]$/) as string,
      }),
  );
});

describe('quick questions', () => {
  it('how many parts', () =>
    expect(prefixQuestion('10.20.0.0/22 / 26')).toEqual({
      block: '10.20.0.0/22',
      sentence: '10.20.0.0/22 makes 16 × /26, each for 62 machines',
    }));
  it('what a block holds', () =>
    expect(prefixQuestion('192.0.2.0/26')!.sentence).toBe(
      '192.0.2.0/26 holds 62 machines, 192.0.2.1 – 192.0.2.62',
    ));
  it('anything else is none', () =>
    expect([
      prefixQuestion('gannet'),
      prefixQuestion('10.0.0.1/8'),
      prefixQuestion('10.0.0.0/8/4')?.sentence,
    ]).toEqual([undefined, undefined, 'A part of 10.0.0.0/8 is from /8 to /32']));
});
