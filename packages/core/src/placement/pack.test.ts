import fc from 'fast-check';
import { describe, expect, it, test } from 'vitest';
import { pack, type Piece, type Room } from './pack.js';

const rooms = (...sizes: [number, number][]): Room[] =>
  sizes.map(([vcpu, memoryMiB], i) => ({ id: `h${i}`, vcpu, memoryMiB }));
const pieces = (hosts: Room[], ...sizes: [number, number][]): Piece[] =>
  sizes.map(([vcpu, memory], i) => ({
    id: `g${i + 1}`,
    vcpu,
    memoryOn: () => memory,
    candidates: hosts.map((host) => host.id),
  }));
const alike = (n: number): Room[] =>
  rooms(...Array.from({ length: n }, (): [number, number] => [16, 64]));

describe('worked instances on hosts of 16 cores and 64 GiB (optimum by exhaustive search and a MILP solver, design section 12)', () => {
  test.each([
    [
      'A',
      3,
      [
        [8, 24],
        [8, 32],
        [1, 32],
        [8, 4],
        [6, 40],
        [6, 24],
        [2, 8],
        [8, 16],
      ],
    ],
    [
      'B',
      3,
      [
        [10, 24],
        [8, 24],
        [4, 24],
        [6, 24],
        [2, 24],
      ],
    ],
    [
      'C',
      3,
      [
        [10, 8],
        [8, 40],
        [8, 40],
      ],
    ],
    [
      'D',
      2,
      [
        [16, 64],
        [16, 64],
      ],
    ],
  ] as [string, number, [number, number][]][])(
    '%s fits on %d and on no fewer',
    (_, hosts, sizes) => {
      expect(pack(pieces(alike(hosts), ...sizes), alike(hosts)).answer).toBe('fits');
      expect(pack(pieces(alike(hosts - 1), ...sizes), alike(hosts - 1)).answer).toBe(
        'does not fit',
      );
    },
  );
  it('E: one guest larger than every host fits nowhere', () =>
    expect(pack(pieces(alike(5), [1, 65]), alike(5)).answer).toBe('does not fit'));
});

it('a fit of the sums is no fit of the guests: 40, 40, 40 GiB of 128 on two hosts of 64', () => {
  const result = pack(pieces(alike(2), [1, 40], [1, 40], [1, 40]), alike(2));
  expect(result.answer).toBe('does not fit');
  expect(result.placement.size).toBe(2);
});

it('says "not settled" when its steps are spent', () => {
  const hosts = rooms(...Array.from({ length: 6 }, (): [number, number] => [100, 100]));
  const many = pieces(hosts, ...Array.from({ length: 17 }, (): [number, number] => [1, 35]));
  expect(pack(many, hosts, undefined, 50).answer).toBe('does not fit');
  const hard = pieces(
    hosts,
    ...[53, 52, 51, 50, 50, 49, 48, 47, 35, 34, 33, 33, 33, 32].map((memory): [number, number] => [
      1,
      memory,
    ]),
  );
  expect(pack(hard, hosts, undefined, 20).answer).not.toBe('does not fit');
});

it('keeps to candidates and to rules between guests', () => {
  const hosts = alike(2);
  const [one, two] = pieces(hosts, [1, 10], [1, 10]);
  const result = pack([{ ...one!, candidates: ['h1'] }, two!], hosts, (piece, host, placed) =>
    [...placed].some(([other, at]) => other !== piece && at === host),
  );
  expect(result).toMatchObject({ answer: 'fits' });
  expect([...result.placement].sort()).toEqual([
    ['g1', 'h1'],
    ['g2', 'h0'],
  ]);
});

describe('against trying every placement', () => {
  const size = fc.tuple(fc.integer({ min: 1, max: 6 }), fc.integer({ min: 1, max: 6 }));
  it('answers alike for up to 5 guests on up to 3 hosts, and its witness holds', () => {
    fc.assert(
      fc.property(
        fc.array(size, { minLength: 1, maxLength: 5 }),
        fc.array(fc.tuple(fc.integer({ min: 1, max: 9 }), fc.integer({ min: 1, max: 9 })), {
          minLength: 1,
          maxLength: 3,
        }),
        (guests, free) => {
          const hosts = rooms(...free);
          const result = pack(pieces(hosts, ...guests), hosts);
          const holds = (places: number[]) =>
            hosts.every((host, h) => {
              const mine = guests.filter((_, g) => places[g] === h);
              return (
                mine.reduce((sum, [vcpu]) => sum + vcpu, 0) <= host.vcpu &&
                mine.reduce((sum, [, memory]) => sum + memory, 0) <= host.memoryMiB
              );
            });
          let any = false;
          for (let code = 0; code < hosts.length ** guests.length && !any; code += 1)
            any = holds(guests.map((_, g) => Math.floor(code / hosts.length ** g) % hosts.length));
          expect(result.answer).toBe(any ? 'fits' : 'does not fit');
          if (result.answer === 'fits')
            expect(
              holds(
                guests.map((_, g) =>
                  hosts.findIndex((host) => host.id === result.placement.get(`g${g + 1}`)),
                ),
              ),
            ).toBe(true);
        },
      ),
    );
  });
});
