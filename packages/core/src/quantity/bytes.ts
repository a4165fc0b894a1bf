/**
 * Sizes. A size of a disk, volume or pool is a whole number of bytes; memory is a whole number of MiB. Both stay below
 * 2^53, so that a double holds them exactly (RFC 8259, section 6). Decimal prefixes are SI (1 GB = 10^9 bytes), binary
 * prefixes are IEC 80000-13 (1 GiB = 2^30 bytes); the two are never mixed and a bare "500G" is asked back.
 */
export type Bytes = number & { readonly __unit?: 'bytes' };
export type MiB = number & { readonly __unit?: 'MiB' };

export const MIB = 1024 ** 2;
export const GIB = 1024 ** 3;
export const GB = 1e9;
export const TB = 1e12;
const LARGEST_SIZE = Number.MAX_SAFE_INTEGER;

/** What a text was read as, or the sentence that says why it was not. */
export type Parsed<T> = { ok: true; value: T; note?: string } | { ok: false; sentence: string };

const UNIT: Record<string, bigint> = {
  B: 1n,
  kB: 10n ** 3n,
  MB: 10n ** 6n,
  GB: 10n ** 9n,
  TB: 10n ** 12n,
  PB: 10n ** 15n,
  KiB: 2n ** 10n,
  MiB: 2n ** 20n,
  GiB: 2n ** 30n,
  TiB: 2n ** 40n,
  PiB: 2n ** 50n,
};
const SPELLING = new Map(Object.keys(UNIT).map((unit) => [unit.toLowerCase(), unit]));
for (const letter of ['K', 'M', 'G', 'T', 'P'])
  SPELLING.set(`${letter.toLowerCase()}i`, `${letter}iB`);

/**
 * Reads a size such as "500 GB", "1.5 GiB" or "12 GiB" as whole bytes.
 *
 * A fraction that is no whole byte is rounded half up and said so. "500 gb" and "500 Gb" are read as GB with a note,
 * since lower-case b may mean bit. A single letter ("500G"), a comma, an exponent, a sign or a missing unit is refused.
 *
 * @returns whole bytes, at most 2^53 − 1
 * @example parseBytes('1.5 GiB') // { ok: true, value: 1610612736 }
 */
export function parseBytes(text: string): Parsed<Bytes> {
  const match = /^\s*(\d+)(?:\.(\d+))?\s*([A-Za-z]+)\s*$/.exec(text);
  if (!match) return { ok: false, sentence: sizeComplaint(text) };
  const [, whole = '0', fraction = '', written = ''] = match;
  if (/^[kmgtp]$/i.test(written)) {
    const letter = written === 'k' ? 'k' : written.toUpperCase();
    return {
      ok: false,
      sentence: `"${written}" alone can mean ${letter}B or ${letter.toUpperCase()}iB: write one of them.`,
    };
  }
  const unit = SPELLING.get(written.toLowerCase());
  if (!unit)
    return {
      ok: false,
      sentence: `"${written}" is not a unit of size: use GB, TB (decimal) or GiB, TiB (binary).`,
    };
  const scale = 10n ** BigInt(fraction.length);
  const scaled = BigInt(whole + fraction) * UNIT[unit]!;
  const value = (scaled * 2n + scale) / (scale * 2n);
  if (value > BigInt(LARGEST_SIZE))
    return { ok: false, sentence: 'Larger than 8 PiB, the largest size the record holds.' };
  const notes: string[] = [];
  if (scaled % scale !== 0n) notes.push('rounded to a whole byte');
  if (/b$/.test(written)) notes.push(`read as ${unit}`);
  return notes.length
    ? { ok: true, value: Number(value), note: notes.join(', ') }
    : { ok: true, value: Number(value) };
}

function sizeComplaint(text: string): string {
  if (text.trim() === '') return 'Write a size with its unit, such as 500 GB or 12 GiB.';
  if (/,/.test(text))
    return 'Write the decimal mark as a point and no thousands separator: 1.5 GiB.';
  if (/^\s*[-+]/.test(text)) return 'A size is not negative.';
  if (/^\s*\d+(\.\d+)?\s*$/.test(text)) return 'Add the unit: GB (decimal) or GiB (binary).';
  return `"${text.trim()}" is not a size: write a number and a unit, such as 500 GB or 12 GiB.`;
}

/**
 * Reads an amount of memory as whole MiB, rounded up: "4 GiB", "512 MiB". Decimal units are refused, since memory
 * is counted in binary units and 4 GB typed for memory nearly always means 4 GiB.
 */
export function parseMemory(text: string): Parsed<MiB> {
  const decimal = /^\s*(\d+(?:\.\d+)?)\s*([MGT])B\s*$/i.exec(text);
  if (decimal)
    return {
      ok: false,
      sentence: `Memory is counted in binary units: write ${decimal[1]} ${decimal[2]!.toUpperCase()}iB.`,
    };
  const bytes = parseBytes(text);
  if (!bytes.ok) return bytes;
  return { ok: true, value: Math.ceil(bytes.value / MIB) };
}

const BINARY_STEPS = ['B', 'KiB', 'MiB', 'GiB', 'TiB', 'PiB'];
const DECIMAL_STEPS = ['B', 'kB', 'MB', 'GB', 'TB', 'PB'];

/** How a printed size is cut to its digits: what is free never looks larger, what is needed never looks smaller. */
export type Rounding = 'nearest' | 'down' | 'up';

/** Prints bytes with a binary prefix; the unit is chosen after rounding, so 1023.99 GiB reads "1 TiB", not "1024 GiB". */
export function formatBinary(bytes: Bytes, rounding: Rounding = 'nearest', digits = 1): string {
  return format(bytes, 1024, BINARY_STEPS, rounding, digits);
}

/** Prints bytes with a decimal (SI) prefix. */
export function formatDecimal(bytes: Bytes, rounding: Rounding = 'nearest', digits = 1): string {
  return format(bytes, 1000, DECIMAL_STEPS, rounding, digits);
}

/** Both readings, for disks: "500 GB = 465.7 GiB". */
export function formatBoth(bytes: Bytes): string {
  return `${formatDecimal(bytes)} = ${formatBinary(bytes)}`;
}

/** Prints whole MiB as GiB or TiB where that is shorter. */
export function formatMemory(mib: MiB, rounding: Rounding = 'nearest', digits = 1): string {
  return formatBinary(mib * MIB, rounding, digits);
}

function format(
  bytes: number,
  base: number,
  steps: string[],
  rounding: Rounding,
  digits: number,
): string {
  const sign = bytes < 0 ? '−' : '';
  const cut = cutter(
    bytes < 0 && rounding !== 'nearest' ? (rounding === 'down' ? 'up' : 'down') : rounding,
    digits,
  );
  let size = Math.abs(bytes);
  let step = 0;
  while (step < steps.length - 1 && cut(size) >= base) {
    size /= base;
    step += 1;
  }
  const shown = step === 0 ? String(Math.round(size)) : String(cut(size));
  return `${sign}${shown} ${steps[step]}`;
}

function cutter(rounding: Rounding, digits: number): (n: number) => number {
  const power = 10 ** digits;
  const how = { nearest: Math.round, down: Math.floor, up: Math.ceil }[rounding];
  return (n) => how(Number((n * power).toPrecision(15))) / power;
}
