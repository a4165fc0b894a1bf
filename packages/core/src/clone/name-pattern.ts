/**
 * Names of a batch from a pattern: `{01..12}` and `{a..d}` run through their values as in a shell's brace expansion
 * (POSIX shells do not have it; the common ones agree), `{n}` and `{nn}` count, `{host}` and `{site}` say where the
 * machine is to be. `#` stands for `{n}`, `##` for `{nn}`. A pattern without any of them counts behind a hyphen.
 */

/** Where a machine of the batch is to be. */
export interface NameSlot {
  host: string;
  site: string;
}

type Part = { text: string } | { values: string[] } | { width: number } | { of: keyof NameSlot };

export type NamePattern =
  | {
      ok: true;
      parts: Part[];
      /** How many names its ranges run through; null where it counts on without an end. */
      ends: number | null;
    }
  | { ok: false; sentence: string };

/** A range longer than this is a slip. */
const LONGEST_RANGE = 10_000;

/** @example readPattern('tide-{01..12}') // { ok: true, ends: 12, … } */
export function readPattern(pattern: string): NamePattern {
  const parts: Part[] = [];
  for (const [token] of pattern.matchAll(/\{[^{}]*\}|#+|[^{}#]+|[{}]/g)) {
    if (token === '{' || token === '}')
      return { ok: false, sentence: `A brace in "${pattern}" has no partner.` };
    if (token.startsWith('#')) parts.push({ width: token.length });
    else if (!token.startsWith('{')) parts.push({ text: token });
    else {
      const part = fieldOf(token.slice(1, -1));
      if ('sentence' in part) return { ok: false, sentence: part.sentence };
      parts.push(part);
    }
  }
  const ranges = parts.flatMap((part) => ('values' in part ? [part.values.length] : []));
  const counts = parts.some((part) => 'width' in part);
  if (ranges.length === 0 && !counts) parts.push({ text: '-' }, { width: 1 });
  return {
    ok: true,
    parts,
    ends: ranges.length === 0 || counts ? null : ranges.reduce((all, each) => all * each, 1),
  };
}

function fieldOf(text: string): Part | { sentence: string } {
  if (/^n+$/.test(text)) return { width: text.length };
  if (text === 'host' || text === 'site') return { of: text };
  const numbers = /^(\d{1,9})\.\.(\d{1,9})$/.exec(text);
  if (numbers) {
    const [from, to] = [Number(numbers[1]), Number(numbers[2])];
    const zeros = [numbers[1]!, numbers[2]!].some((end) => /^0\d/.test(end));
    const width = zeros ? Math.max(numbers[1]!.length, numbers[2]!.length) : 1;
    return run(from, to, (value) => String(value).padStart(width, '0'));
  }
  const letters = /^([a-z])\.\.([a-z])$/.exec(text);
  if (letters) {
    const [from, to] = [letters[1]!.charCodeAt(0), letters[2]!.charCodeAt(0)];
    return run(from, to, (value) => String.fromCharCode(value));
  }
  return {
    sentence: `{${text}} is no field of a name: write {n}, {01..12}, {a..d}, {host} or {site}.`,
  };
}

function run(
  from: number,
  to: number,
  word: (value: number) => string,
): Part | { sentence: string } {
  const length = Math.abs(to - from) + 1;
  if (length > LONGEST_RANGE)
    return { sentence: `A range of ${length} names is more than ${LONGEST_RANGE}.` };
  const step = to < from ? -1 : 1;
  return { values: Array.from({ length }, (_, i) => word(from + i * step)) };
}

export interface NamesWanted {
  /** One a clone, in order. */
  slots: readonly NameSlot[];
  /** First number of what counts. */
  start: number;
  taken: (name: string) => boolean;
}

/**
 * A name for each slot; names that are taken are passed over. Where the ranges give too few, those there are.
 *
 * @example { parts of 'tide-{nn}' }, start 1, 'tide-01' taken → tide-02, tide-03, …
 */
export function namesOf(
  { parts }: Extract<NamePattern, { ok: true }>,
  { slots, start, taken }: NamesWanted,
): string[] {
  const names: string[] = [];
  const given = new Set<string>();
  const ranges = parts.flatMap((part) => ('values' in part ? [part.values] : []));
  const runs = ranges.reduce((all, values) => all * values.length, 1);
  const counts = parts.some((part) => 'width' in part);
  const next = new Map<string, number>();
  let at = 0;
  for (const slot of slots) {
    for (;;) {
      if (ranges.length > 0 && !counts && at >= runs) return names;
      const chosen = valuesAt(ranges, at);
      // What counts does so for itself at each host, site or value of a range.
      const key = written(parts, chosen, slot, '#');
      const number = next.get(key) ?? start;
      const name = written(parts, chosen, slot, number);
      if (counts) next.set(key, number + 1);
      const free = !taken(name) && !given.has(name.toLowerCase());
      if (!counts || free) at += 1;
      if (!free) continue;
      given.add(name.toLowerCase());
      names.push(name);
      break;
    }
  }
  return names;
}

/** The last range varies fastest; behind its end it begins anew. */
function valuesAt(ranges: readonly string[][], index: number): string[] {
  const chosen: string[] = [];
  let rest = index;
  for (const values of [...ranges].reverse()) {
    chosen.unshift(values[rest % values.length]!);
    rest = Math.floor(rest / values.length);
  }
  return chosen;
}

function written(
  parts: readonly Part[],
  values: readonly string[],
  slot: NameSlot,
  number: number | '#',
): string {
  let range = 0;
  return parts
    .map((part) =>
      'text' in part
        ? part.text
        : 'values' in part
          ? values[range++]!
          : 'of' in part
            ? asLabel(slot[part.of])
            : String(number).padStart(number === '#' ? 1 : part.width, '0'),
    )
    .join('');
}

const LETTERS: Record<string, string> = {
  ä: 'ae',
  ö: 'oe',
  ü: 'ue',
  ß: 'ss',
  å: 'aa',
  æ: 'ae',
  ø: 'oe',
};

/** A name as a part of a label in the DNS (RFC 1035): small letters, digits, hyphens. @example asLabel('Pier house') // 'pier-house' */
export const asLabel = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[äöüßåæø]/g, (letter) => LETTERS[letter]!)
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '');
