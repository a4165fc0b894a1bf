import { createHash } from 'node:crypto';
import { describe, expect, it, test } from 'vitest';
import { compareFingerprints, parseFingerprint, withColons } from './fingerprint.js';

/** SHA-256 of "abc": FIPS 180-2, appendix B.1 (value recomputed below). */
const ABC = 'ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad';

describe('a SHA-256 fingerprint', () => {
  it('is the one that the example of the standard gives', () =>
    expect(createHash('sha256').update('abc').digest('hex')).toBe(ABC));
  test.each([
    ABC,
    ABC.toUpperCase(),
    'BA:78:16:BF:8F:01:CF:EA:41:41:40:DE:5D:AE:22:23:B0:03:61:A3:96:17:7A:9C:B4:10:FF:61:F2:00:15:AD',
    'SHA256:ungWv48Bz+pBQUDeXa4iI7ADYaOWF3qctBD/YfIAFa0',
    'ungWv48Bz+pBQUDeXa4iI7ADYaOWF3qctBD/YfIAFa0=',
    'sha256 Fingerprint=BA:78:16:BF:8F:01:CF:EA:41:41:40:DE:5D:AE:22:23:B0:03:61:A3:96:17:7A:9C:B4:10:FF:61:F2:00:15:AD',
    ABC.match(/.{4}/g)!.join(' '),
  ])('is read as %s', (text) => expect(parseFingerprint(text)).toEqual({ ok: true, value: ABC }));
  test.each([
    ['a9993e364706816aba3e25717850c26c9cd0d89d', 'as SHA-1 has'],
    ['900150983cd24fb0d6963f7d28e17f72', 'as MD5 has'],
    ['15ad', '4 hexadecimal digits'],
    ['not a fingerprint', '64 hexadecimal digits'],
    ['', '64 hexadecimal digits'],
    ['ungWv48Bz+pBQUDeXa4iI7ADYaOWF3qctBD/YfIAFa1', '64 hexadecimal digits'],
  ])('is refused as %s', (text, words) =>
    expect(parseFingerprint(text)).toMatchObject({
      ok: false,
      sentence: expect.stringContaining(words) as string,
    }),
  );
  it('is shown in pairs', () => expect(withColons(ABC)).toHaveLength(95));
});

describe('a comparison', () => {
  const forged = createHash('sha256').update('forged-49370').digest('hex');
  it('looks at all 64 digits and shows the first group that differs', () => {
    expect(compareFingerprints(ABC, ABC)).toEqual({
      equal: true,
      firstDifferentGroup: null,
      differing: 0,
      fooledByTheEnd: false,
    });
    expect(compareFingerprints(ABC, `${ABC.slice(0, 62)}00`)).toMatchObject({
      equal: false,
      firstDifferentGroup: 16,
      fooledByTheEnd: false,
    });
  });
  it('is not fooled by equal last four digits, found by trying 49,371 inputs', () => {
    expect(forged).toBe('e4b70645773118d888ab24f7f47a085a26e5cb221dfce7e2e732fd8884fc15ad');
    expect(compareFingerprints(ABC, forged)).toMatchObject({
      equal: false,
      firstDifferentGroup: 1,
      fooledByTheEnd: true,
    });
  });
});
