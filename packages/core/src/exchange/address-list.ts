/**
 * A pasted list of machines, one a line: a name, an address, a MAC, in any order, parted by spaces, commas, semicolons or
 * tabs. Nothing is refused for being wrong: what cannot be read is kept as said and becomes a finding.
 */
import { canonical, parseMac } from '../address/index.js';
import { type Fleet } from '../record/index.js';
import { addressesOf } from '../names/index.js';

export interface ListLine {
  /** Line of the text, from 1. */
  line: number;
  name: string;
  ip: string | null;
  mac: string | null;
  /** What could not be read, one sentence a fault. */
  unread: string[];
}

export const MOST_LINES = 5000;

/** Reads the list; empty lines, comments and a line of headings are passed over. */
export function readList(text: string): ListLine[] {
  return text.split(/\r?\n/).flatMap((raw, i) => {
    const parts = raw
      .replace(/[#].*/, '')
      .split(/[\s,;|]+/)
      .map((part) => part.replace(/^"|"$/g, ''))
      .filter(Boolean);
    if (
      parts.length === 0 ||
      parts.every((part) => /^(name|host|hostname|ip|address|mac|description)$/i.test(part))
    )
      return [];
    return [readLine(parts, i + 1)];
  });
}

function readLine(parts: readonly string[], line: number): ListLine {
  const found: ListLine = { line, name: '', ip: null, mac: null, unread: [] };
  const more = (what: string, text: string) => found.unread.push(`a second ${what}: ${text}`);
  for (const part of parts) {
    const mac = parseMac(part);
    const ip = canonical(part);
    if (mac.ok && /[^0-9]/.test(part)) {
      if (found.mac) more('MAC', part);
      else found.mac = mac.value;
    } else if (ip.ok) {
      if (found.ip) more('address', part);
      else found.ip = ip.value;
    } else if (looksLikeMac(part)) found.unread.push(mac.ok ? part : mac.sentence);
    else if (looksLikeAddress(part)) found.unread.push(ip.sentence);
    else if (found.name === '') found.name = part;
    else more('name', part);
  }
  return found;
}

const looksLikeMac = (text: string): boolean =>
  /^[0-9a-z]{1,3}([:-][0-9a-z]{1,3}){4,}$/i.test(text) && !text.includes('::');
const looksLikeAddress = (text: string): boolean =>
  /^[\d.]+(\/\d+)?$/.test(text) || (text.includes(':') && /^[0-9a-f:.%/]+$/i.test(text));

export interface ListRow extends ListLine {
  /** What taking the line does. */
  does: 'new device' | 'known already' | 'address on a known machine' | 'device to look at';
  /** The machine of that name, where there is one. */
  known: { kind: 'host' | 'guest' | 'device'; id: string; name: string } | null;
}

/** What each line would come to, before anything is taken. */
export function previewList(fleet: Fleet, lines: readonly ListLine[]): ListRow[] {
  return lines.map((line) => {
    const [known] = line.name ? fleet.named(line.name.split('.')[0]!) : [];
    const machine = known ? { ...known, name: fleet.need(known.kind, known.id).name } : null;
    const held = machine && line.ip ? carries(fleet, machine, line.ip) : false;
    const does =
      line.unread.length > 0
        ? 'device to look at'
        : !machine
          ? 'new device'
          : held || !line.ip
            ? 'known already'
            : 'address on a known machine';
    return { ...line, does, known: machine };
  });
}

function carries(
  fleet: Fleet,
  { kind, id }: { kind: 'host' | 'guest' | 'device'; id: string },
  ip: string,
): boolean {
  return addressesOf(fleet, kind, id).some((row) => row.ip === ip);
}
