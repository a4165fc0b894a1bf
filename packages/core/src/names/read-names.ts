/**
 * Zone files (RFC 1035, section 5.1) and hosts files as lists of names. Read as far as names need: A, AAAA, CNAME and PTR;
 * other types are counted and passed over. `$INCLUDE` and `$GENERATE` are refused, since they say what is not in the text.
 */
import { canonical } from '../address/index.js';
import type { Row } from '../record/index.js';
import { trimDomain } from './machine-names.js';

export interface ReadName {
  owner: string;
  type: Row<'nameRecord'>['type'];
  data: string;
  /** Line of the text, from 1. */
  line: number;
}

export interface ReadNames {
  names: ReadName[];
  /** What could not be read, by line. */
  faults: { line: number; sentence: string }[];
  /** Records of other types, by type. */
  passedOver: Record<string, number>;
}

/** Longest text taken, in characters. */
const MOST_NAME_TEXT = 2_000_000;

/** A hosts file has an address at the beginning of its lines; a zone file never has. */
export function readNames(text: string, origin: string): ReadNames {
  if (text.length > MOST_NAME_TEXT)
    return {
      names: [],
      passedOver: {},
      faults: [
        {
          line: 1,
          sentence: `The text has ${text.length.toLocaleString('en-GB')} characters; at most ${MOST_NAME_TEXT.toLocaleString('en-GB')} are read at once.`,
        },
      ],
    };
  const first = text
    .split(/\r?\n/)
    .map((line) => line.replace(/#.*/, '').trim())
    .find((line) => line !== '' && !line.startsWith(';'));
  return first && canonical(first.split(/\s+/)[0]!).ok ? readHosts(text) : readZone(text, origin);
}

export function readHosts(text: string): ReadNames {
  const result: ReadNames = { names: [], faults: [], passedOver: {} };
  for (const [i, raw] of text.split(/\r?\n/).entries()) {
    const [first, ...names] = raw.replace(/#.*/, '').trim().split(/\s+/);
    if (!first) continue;
    const ip = canonical(first);
    if (!ip.ok) result.faults.push({ line: i + 1, sentence: ip.sentence });
    else if (names.length === 0)
      result.faults.push({ line: i + 1, sentence: `${ip.value} has no name behind it.` });
    else if (
      ip.value !== '::1' &&
      !ip.value.startsWith('127.') &&
      !ip.value.startsWith('ff0') &&
      !ip.value.startsWith('fe0')
    ) {
      const [name, ...aliases] = names.map(trimDomain);
      result.names.push({
        owner: name!,
        type: ip.value.includes(':') ? 'AAAA' : 'A',
        data: ip.value,
        line: i + 1,
      });
      // The short form of the same name is no alias.
      for (const alias of aliases)
        if (alias !== name!.split('.')[0])
          result.names.push({ owner: alias, type: 'CNAME', data: name!, line: i + 1 });
    }
  }
  return result;
}

const TYPES = ['A', 'AAAA', 'CNAME', 'PTR'] as const;

export function readZone(text: string, givenOrigin: string): ReadNames {
  const result: ReadNames = { names: [], faults: [], passedOver: {} };
  let origin = trimDomain(givenOrigin);
  let owner = '';
  for (const { line, tokens, indented } of logicalLines(text, result)) {
    const fault = (sentence: string) => result.faults.push({ line, sentence });
    const [head] = tokens;
    if (head?.startsWith('$')) {
      const directive = head.toUpperCase();
      if (directive === '$ORIGIN') origin = full(tokens[1] ?? '', origin);
      else if (directive !== '$TTL') fault(`${head} is not followed: paste what it stands for.`);
      continue;
    }
    const rest = [...tokens];
    if (!indented) owner = full(rest.shift()!, origin);
    while (
      rest[0] !== undefined &&
      (/^\d+[smhdw]?$/i.test(rest[0]) || /^(IN|CH|HS)$/i.test(rest[0]))
    )
      rest.shift();
    const type = rest.shift()?.toUpperCase();
    if (!type || !owner) fault('This line has no record type.');
    else if (!(TYPES as readonly string[]).includes(type))
      result.passedOver[type] = (result.passedOver[type] ?? 0) + 1;
    else addRecord(result, { owner, type: type as ReadName['type'], text: rest[0], origin, line });
  }
  return result;
}

function addRecord(
  result: ReadNames,
  {
    owner,
    type,
    text,
    origin,
    line,
  }: {
    owner: string;
    type: ReadName['type'];
    text: string | undefined;
    origin: string;
    line: number;
  },
): void {
  const fault = (sentence: string) => result.faults.push({ line, sentence });
  if (!text) return void fault(`The ${type} record of ${owner} says nothing.`);
  if (owner.length > 100)
    return void fault(`${owner.slice(0, 40)}… is longer than this record keeps (100 characters).`);
  if (type === 'CNAME' || type === 'PTR')
    return void result.names.push({ owner, type, data: full(text, origin), line });
  const ip = canonical(text);
  if (!ip.ok) return void fault(ip.sentence);
  if (ip.value.includes(':') !== (type === 'AAAA'))
    return void fault(`${text} is no address for ${type}.`);
  result.names.push({ owner, type, data: ip.value, line });
}

/** A name of a zone file in full, without the last point. */
function full(name: string, origin: string): string {
  const lower = name.toLowerCase();
  if (lower === '@') return origin;
  if (lower.endsWith('.')) return lower.slice(0, -1);
  return origin ? `${lower}.${origin}` : lower;
}

interface LogicalLine {
  line: number;
  tokens: string[];
  /** It begins with white space: the owner is that of the line before. */
  indented: boolean;
}

/** Lines joined over parentheses, comments taken off, quoted strings whole. */
function logicalLines(text: string, result: ReadNames): LogicalLine[] {
  const lines: LogicalLine[] = [];
  let open: LogicalLine | undefined;
  let depth = 0;
  for (const [i, raw] of text.split(/\r?\n/).entries()) {
    const tokens = raw.match(/"(?:[^"\\]|\\.)*"|;.*|[()]|(?:[^\s"();\\]|\\.)+/g) ?? [];
    if (!open) open = { line: i + 1, tokens: [], indented: /^\s/.test(raw) };
    for (const token of tokens) {
      if (token.startsWith(';')) break;
      if (token === '(') depth += 1;
      else if (token === ')') depth -= 1;
      else open.tokens.push(token);
    }
    if (depth > 0) continue;
    depth = 0;
    if (open.tokens.length > 0) lines.push(open);
    open = undefined;
  }
  if (depth > 0 && open)
    result.faults.push({
      line: open.line,
      sentence: 'A parenthesis that opens here is never closed.',
    });
  return lines;
}
