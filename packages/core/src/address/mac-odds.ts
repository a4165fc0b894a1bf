/**
 * The chance that random MACs repeat: P = 1 − ∏ (1 − i/N), summed as logarithms, since 1 − tiny loses its digits in
 * floating point. Inside one record the chance is 0 (a draw that is taken is drawn again); the figure tells the risk between
 * records that know nothing of each other.
 */
import { own, standard, type Figure } from '../figure/index.js';

/**
 * @param freeBits bits left to chance
 * @param n addresses drawn
 */
export function repetitionChance(freeBits: number, n: number): number {
  const space = 2 ** freeBits;
  if (n > space) return 1;
  let sum = 0;
  for (let i = 1; i < n; i += 1) sum += Math.log1p(-i / space);
  return -Math.expm1(sum);
}

/** The chance as a figure with its workings. @param fixedOctets octets of the block that are the same for all */
export function repetitionFigure(fixedOctets: number, n: number): Figure {
  const freeBits = 48 - 8 * fixedOctets;
  const chance = n < 2 ? 0 : repetitionChance(freeBits, n);
  return {
    name: 'mac-repetition',
    title: 'Chance that two MACs of separate records are equal',
    value: chance * 100,
    unit: 'percent',
    lines: [
      { label: 'Octets fixed by the block', value: fixedOctets, unit: 'count', operator: '·' },
      {
        label: 'Bits left to chance, 48 − 8 per fixed octet',
        value: freeBits,
        unit: 'count',
        operator: '·',
      },
      { label: 'Addresses drawn', value: n, unit: 'count', operator: '·' },
      {
        label: '1 − ∏ (1 − i ÷ 2^bits)',
        value: chance * 100,
        unit: 'percent',
        operator: '=',
        note: 'inside this record it is 0: a MAC that is taken is drawn again',
      },
    ],
    sources: [
      standard('Locally administered addresses: IEEE Std 802, clause 8'),
      own('Exact product, as logarithms'),
    ],
  };
}
