import { describe, expect, it, test } from 'vitest';
import { formatVlans, parseVlans } from './index.js';

// VLAN ids 1 to 4094, 0 and 4095 reserved: IEEE Std 802.1Q, clause 9.6 and table 9-2 (from memory).
describe('sets of VLAN ids', () => {
  it('read ranges and single ids', () =>
    expect(parseVlans('10-12,20,4094')).toEqual({ ok: true, value: [10, 11, 12, 20, 4094] }));
  test.each(['4094-4095', '20-10', '0', '4095', '1.5', '010', 'ten', '1-2-3'])(
    '"%s" is refused with a sentence',
    (text) =>
      expect(parseVlans(text)).toMatchObject({
        ok: false,
        sentence: expect.stringMatching(/[.]$/) as string,
      }),
  );
  it('are written as people write them', () =>
    expect([formatVlans([20, 12, 10, 11, 11]), formatVlans([]), formatVlans([1, 2])]).toEqual([
      '10-12,20',
      '',
      '1,2',
    ]));
});
