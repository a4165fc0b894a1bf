/**
 * IPv4 and IPv6 addresses as a family and an unsigned integer (BigInt). Parsing is strict: leading zeros, missing parts,
 * hexadecimal and single-number forms of IPv4 are refused, since tools read them differently (RFC 6943, section 3.1.1).
 * Printing gives the canonical text: dotted decimal, and RFC 5952 for IPv6 (with the mixed form of its section 5 for
 * IPv4-mapped addresses).
 */
export type Family = 4 | 6;

export interface Address {
  family: Family;
  value: bigint;
}

export type AddressResult<T> =
  { ok: true; value: T } | { ok: false; sentence: string; suggestion?: string };

export const BITS: Record<Family, number> = { 4: 32, 6: 128 };

/** @example parseAddress('10.20.4.300') // { ok: false, sentence: '10.20.4.300: each part is 0 to 255.' } */
export function parseAddress(text: string): AddressResult<Address> {
  const trimmed = text.trim();
  if (trimmed === '')
    return { ok: false, sentence: 'Write an address, such as 192.0.2.10 or 2001:db8::10.' };
  return trimmed.includes(':') ? parse6(trimmed) : parse4(trimmed);
}

function parse4(text: string): AddressResult<Address> {
  if (text.includes('/'))
    return {
      ok: false,
      sentence: `${text}: give the address without its prefix length here.`,
      suggestion: text.split('/')[0],
    };
  const parts = text.split('.');
  if (!/^[0-9.]+$/.test(text))
    return {
      ok: false,
      sentence: `${text}: an IPv4 address is four numbers with points between them.`,
    };
  if (parts.length !== 4 || parts.some((part) => part === '')) {
    return {
      ok: false,
      sentence: `${text}: an IPv4 address has four parts, this has ${parts.filter(Boolean).length}.`,
    };
  }
  const leading = parts.find((part) => /^0\d/.test(part));
  if (leading !== undefined) {
    return {
      ok: false,
      sentence: `${text}: "${leading}" starts with 0, which some tools read as octal.`,
      suggestion: parts.map((part) => String(Number(part))).join('.'),
    };
  }
  if (parts.some((part) => part.length > 3 || Number(part) > 255))
    return { ok: false, sentence: `${text}: each part is 0 to 255.` };
  return {
    ok: true,
    value: { family: 4, value: BigInt(parts.reduce((sum, part) => sum * 256 + Number(part), 0)) },
  };
}

function parse6(text: string): AddressResult<Address> {
  const refuse = (why: string): AddressResult<Address> => ({
    ok: false,
    sentence: `${text}: ${why}`,
  });
  if (text.includes('%'))
    return {
      ...refuse('a zone id is not part of the address.'),
      suggestion: text.split('%')[0],
    } as AddressResult<Address>;
  if (text.includes('/'))
    return {
      ...refuse('give the address without its prefix length here.'),
      suggestion: text.split('/')[0],
    } as AddressResult<Address>;
  let body = text;
  let tail: string[] = [];
  const dotted = /^(.*:)(\d+\.\d+\.\d+\.\d+)$/.exec(text);
  if (dotted) {
    const four = parse4(dotted[2]!);
    if (!four.ok) return refuse(four.sentence);
    tail = [(four.value.value >> 16n).toString(16), (four.value.value & 0xffffn).toString(16)];
    body = dotted[1]!.endsWith('::') ? dotted[1]! : dotted[1]!.slice(0, -1);
  }
  if (!/^[0-9a-fA-F:]+$/.test(body))
    return refuse('an IPv6 address has only hexadecimal digits and colons.');
  const halves = body.split('::');
  if (halves.length > 2) return refuse('"::" may stand only once.');
  const fields = (half: string) => (half === '' ? [] : half.split(':'));
  const head = fields(halves[0]!);
  const rest = halves.length === 2 ? [...fields(halves[1]!), ...tail] : [];
  if (halves.length === 1) head.push(...tail);
  const all = [...head, ...rest];
  if (all.some((field) => field === '')) return refuse('a field between colons is empty.');
  if (all.some((field) => field.length > 4)) return refuse('each field has at most four digits.');
  if (halves.length === 1 && all.length !== 8)
    return refuse(`without "::" there are eight fields, this has ${all.length}.`);
  if (halves.length === 2 && all.length > 7) return refuse('"::" stands for at least one field.');
  const filled = [
    ...head,
    ...Array<string>(halves.length === 2 ? 8 - all.length : 0).fill('0'),
    ...rest,
  ];
  return {
    ok: true,
    value: {
      family: 6,
      value: filled.reduce((sum, field) => (sum << 16n) | BigInt(parseInt(field, 16)), 0n),
    },
  };
}

/** Canonical text of an address. */
export function formatAddress({ family, value }: Address): string {
  if (family === 4) return [24n, 16n, 8n, 0n].map((shift) => (value >> shift) & 255n).join('.');
  if (value >> 32n === 0xffffn)
    return `::ffff:${formatAddress({ family: 4, value: value & 0xffffffffn })}`;
  const fields = Array.from({ length: 8 }, (_, i) =>
    Number((value >> BigInt(112 - 16 * i)) & 0xffffn),
  );
  let best = { start: -1, length: 1 };
  for (let i = 0; i < 8;) {
    let end = i;
    while (end < 8 && fields[end] === 0) end += 1;
    if (end - i > best.length) best = { start: i, length: end - i };
    i = end === i ? i + 1 : end;
  }
  const hex = fields.map((field) => field.toString(16));
  if (best.start < 0) return hex.join(':');
  return `${hex.slice(0, best.start).join(':')}::${hex.slice(best.start + best.length).join(':')}`;
}

/** Canonical text of an address text, or the reason why it is none. */
export function canonical(text: string): AddressResult<string> {
  const parsed = parseAddress(text);
  return parsed.ok ? { ok: true, value: formatAddress(parsed.value) } : parsed;
}

/** The address of a text that is known to be one. @throws Error if it is not */
export function addressOf(text: string): Address {
  const parsed = parseAddress(text);
  if (!parsed.ok) throw new Error(parsed.sentence);
  return parsed.value;
}

/** The canonical text, or the text as it was where it means no address. */
export function canonicalOr(text: string): string {
  const read = canonical(text);
  return read.ok ? read.value : text;
}
