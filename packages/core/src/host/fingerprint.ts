/**
 * SHA-256 fingerprints of certificates and keys (FIPS 180-4: 32 bytes), read in the usual notations: hexadecimal with or
 * without colons or spaces, and base64 with or without padding, behind "SHA256:" or not (RFC 4648, section 4).
 */
const DIGITS = 64;

export type FingerprintResult = { ok: true; value: string } | { ok: false; sentence: string };

/** Gives 64 lower-case hexadecimal digits. @example parseFingerprint('SHA256:ungWv48Bz+pBQUDeXa4iI7ADYaOWF3qctBD/YfIAFa0').value // 'ba7816bf…' */
export function parseFingerprint(text: string): FingerprintResult {
  const bare = text.trim().replace(/^(sha-?256)( fingerprint)?\s*[:=]\s*/i, '');
  const hex = bare.replace(/[\s:.-]/g, '').toLowerCase();
  if (/^[0-9a-f]+$/.test(hex) && hex.length === DIGITS) return { ok: true, value: hex };
  if (/^[A-Za-z0-9+/]{43}=?$/.test(bare)) {
    const decoded = fromBase64(bare);
    if (decoded) return { ok: true, value: decoded };
  }
  if (/^[0-9a-f]+$/.test(hex) && hex.length > 0) {
    const known: Record<number, string> = { 32: 'MD5', 40: 'SHA-1', 128: 'SHA-512' };
    return {
      ok: false,
      sentence: `This has ${hex.length} hexadecimal digits${known[hex.length] ? `, as ${known[hex.length]} has` : ''}; SHA-256 has ${DIGITS}. Copy the whole SHA-256 value.`,
    };
  }
  return {
    ok: false,
    sentence:
      'Write a SHA-256 fingerprint: 64 hexadecimal digits, with colons or without, or "SHA256:" and 43 base64 characters.',
  };
}

const ALPHABET = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';

/** 43 characters hold 258 bits: the last two must be 0. */
function fromBase64(text: string): string | undefined {
  let bits = '';
  for (const letter of text.replace(/=$/, ''))
    bits += ALPHABET.indexOf(letter).toString(2).padStart(6, '0');
  if (bits.slice(256) !== '00') return undefined;
  return bits
    .slice(0, 256)
    .match(/.{4}/g)!
    .map((nibble) => parseInt(nibble, 2).toString(16))
    .join('');
}

/** Digits in groups of four, for reading aloud. */
export const groupsOfFour = (hex: string): string => hex.match(/.{1,4}/g)?.join(' ') ?? '';

/** Pairs with colons, as certificates are usually shown. */
export const withColons = (hex: string): string => hex.toUpperCase().match(/../g)?.join(':') ?? '';

export interface FingerprintComparison {
  equal: boolean;
  /** Number of the first group of four digits that differs, from 1. */
  firstDifferentGroup: number | null;
  /** Digits that differ, of 64. */
  differing: number;
  /** Equal in the last four digits, yet different: what a comparison by eye would have passed. */
  fooledByTheEnd: boolean;
}

/** Compares two fingerprints in full. Both as `parseFingerprint` gives them. */
export function compareFingerprints(one: string, other: string): FingerprintComparison {
  const different = [...one].map((digit, i) => digit !== other[i]);
  const first = different.indexOf(true);
  return {
    equal: first === -1,
    firstDifferentGroup: first === -1 ? null : Math.floor(first / 4) + 1,
    differing: different.filter(Boolean).length,
    fooledByTheEnd: first !== -1 && one.slice(-4) === other.slice(-4),
  };
}

/** Why the last four characters prove nothing: 16 bits. */
export const LAST_FOUR =
  'Four digits are 16 bits: one forged certificate in 65,536 ends alike, found by trying in minutes. All 64 are compared here.';
