/**
 * A pasted list of machines, one a line: a name, an address, a MAC, in any order, parted by spaces, commas, semicolons or
 * tabs. Nothing is refused for being wrong: what cannot be read is kept as said and becomes a finding.
 */
import { canonical, parseMac } from '../address/index.js';
import {
  draftOf,
  isRefusal,
  refuse,
  type ChangeBase,
  type Decider,
  type Fleet,
} from '../record/index.js';
import { giveAddress } from '../network/give-address.js';
import { addressesOf } from '../names/machine-names.js';
import { subnetOf } from '../network/subnet.js';

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

/** Takes a pasted list: unknown names become devices, addresses are recorded as found, faults are kept as said. */
export interface TakeList extends ChangeBase {
  type: 'list.take';
  text: string;
  /** Network the machines are on, where the address does not tell. */
  networkId?: string | null;
}

export const takeList: Decider<TakeList> = (fleet, change, edge) => {
  const rows = previewList(fleet, readList(change.text));
  if (rows.length === 0)
    return refuse({
      code: 'none',
      field: 'text',
      sentence: 'There is no line with a name, an address or a MAC.',
    });
  if (rows.length > MOST_LINES)
    return refuse({
      code: 'too-many',
      field: 'text',
      sentence: `At most ${MOST_LINES.toLocaleString('en-GB')} lines at once, not ${rows.length.toLocaleString('en-GB')}.`,
    });
  const draft = draftOf(fleet, edge);
  let [devices, addresses] = [0, 0];
  for (const row of rows) {
    if (row.does === 'known already') continue;
    if (row.does === 'address on a known machine') {
      const holder = holderFor(fleet, row.known!);
      if (holder) {
        const given = giveAddress(fleet, draft, {
          holder,
          networkId: change.networkId ?? null,
          ip: row.ip!,
          assigned: false,
          field: 'text',
        });
        if (isRefusal(given)) return given;
        addresses += 1;
        continue;
      }
    }
    const name = (row.name || row.ip || row.mac || `line ${row.line}`).slice(0, 100);
    const deviceId = draft.create('device', {
      name,
      kind: 'other',
      state: 'in service',
      unread: row.unread.map((fault) => `line ${row.line}: ${fault}`.slice(0, 200)).slice(0, 20),
      confirmedAt: edge.now,
      confirmedBy: 'pasted list',
    });
    devices += 1;
    const subnetNetwork = change.networkId ?? null;
    const devicePortId = draft.create('devicePort', {
      deviceId,
      name: 'port',
      networkId: networkOf(fleet, row.ip, subnetNetwork),
      mac: row.mac,
    });
    if (!row.ip) continue;
    const given = giveAddress(fleet, draft, {
      holder: { devicePortId },
      networkId: subnetNetwork,
      ip: row.ip,
      assigned: false,
      field: 'text',
    });
    if (isRefusal(given)) return given;
    addresses += 1;
  }
  return {
    draft,
    title: `took a list of ${rows.length} lines in: ${devices} devices, ${addresses} addresses`,
    subjects: [],
  };
};

function networkOf(fleet: Fleet, ip: string | null, fallback: string | null): string | null {
  if (!ip) return fallback;
  for (const domain of fleet.all('routingDomain')) {
    const subnet = subnetOf(fleet, domain.id, ip);
    if (subnet) return subnet.networkId;
  }
  return fallback;
}

function holderFor(fleet: Fleet, { kind, id }: { kind: 'host' | 'guest' | 'device'; id: string }) {
  if (kind === 'host') return { hostId: id };
  if (kind === 'guest') {
    const [first] = fleet
      .referring('adapter', 'guestId', id)
      .sort((a, b) => a.position - b.position);
    return first && { adapterId: first.id };
  }
  const [port] = fleet.referring('devicePort', 'deviceId', id);
  return port && { devicePortId: port.id };
}
