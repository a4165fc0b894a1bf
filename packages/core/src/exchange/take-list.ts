import { counted } from '../quantity/index.js';
import { giveAddress, subnetOf } from '../network/index.js';
import {
  change,
  draftOf,
  isRefusal,
  omittable,
  optional,
  pasted,
  ref,
  refuse,
  type DeciderOf,
  type Fleet,
} from '../record/index.js';
import { MOST_LINES, previewList, readList } from './address-list.js';

/** A pasted list: unknown names become devices, addresses are recorded as found, faults are kept as said. */
export const takeList = change({
  type: 'list.take',
  title: 'Take a list in',
  input: {
    text: pasted(1_000_000),
    /** Network the machines are on, where the address does not tell. */
    networkId: omittable(optional(ref('network'))),
  },
});

export const decideTakeList: DeciderOf<typeof takeList> = (fleet, input, context) => {
  const rows = previewList(fleet, readList(input.text));
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
  const draft = draftOf(fleet, context);
  let [devices, addresses] = [0, 0];
  for (const row of rows) {
    if (row.does === 'known already') continue;
    if (row.does === 'address on a known machine') {
      const holder = holderFor(fleet, row.known!);
      if (holder) {
        const given = giveAddress(fleet, draft, {
          holder,
          networkId: input.networkId ?? null,
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
      confirmedAt: context.now,
      confirmedBy: 'pasted list',
    });
    devices += 1;
    const subnetNetwork = input.networkId ?? null;
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
    title: `took a list of ${counted(rows.length, 'line')} in: ${counted(devices, 'device')}, ${counted(addresses, 'address', 'addresses')}`,
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
