import { canonical } from '../address/index.js';
import {
  draftOf,
  editFields,
  isRefusal,
  machineOf,
  noSuch,
  refuse,
  type ChangeBase,
  type Decider,
  type Draft,
  type Fleet,
  type NamedKind,
  type Row,
  type Subject,
  type Values,
} from '../record/index.js';
import { giveAddress } from './give-address.js';

/** Gives a host, an adapter or a device's port one more address: assigned by Insel (the next free one if none is named), or found. */
export interface SetAddress extends ChangeBase {
  type: 'address.set';
  hostId?: string;
  adapterId?: string;
  devicePortId?: string;
  networkId?: string;
  /** Takes the next free address of this subnet, where a network has several. */
  subnetId?: string;
  ip?: string;
  assigned: boolean;
  use?: Row<'address'>['use'];
  purpose?: string;
  prefixLength?: number;
  /** Address row that this one replaces. */
  replaces?: string;
}

export const setAddress: Decider<SetAddress> = (fleet, change, edge) => {
  const adapter = fleet.get('adapter', change.adapterId);
  const host = fleet.get('host', change.hostId);
  const port = fleet.get('devicePort', change.devicePortId);
  if (!adapter && !host && !port)
    return noSuch(change.adapterId ? 'adapter' : change.devicePortId ? 'devicePort' : 'host');
  const draft = draftOf(fleet, edge);
  const replaced = fleet.get('address', change.replaces);
  if (change.replaces) {
    if (!replaced) return noSuch('address');
    release(fleet, draft, replaced, edge.now);
  }
  const given = giveAddress(fleet, draft, {
    holder: adapter
      ? { adapterId: adapter.id }
      : port
        ? { devicePortId: port.id }
        : { hostId: host!.id },
    networkId: change.networkId ?? adapter?.networkId ?? port?.networkId ?? null,
    subnetId: change.subnetId,
    ip: change.ip,
    assigned: change.assigned || change.ip === undefined,
    use: change.use,
    purpose: change.purpose,
    prefixLength: change.prefixLength,
    field: 'ip',
    now: edge.now,
    randomByte: edge.randomByte,
  });
  if (isRefusal(given)) return given;
  if (host) draft.update('host', host.id, { networkChangedAt: edge.now });
  const subject: Subject = adapter
    ? { kind: 'guest', id: adapter.guestId, name: fleet.need('guest', adapter.guestId).name }
    : port
      ? { kind: 'device', id: port.deviceId, name: fleet.need('device', port.deviceId).name }
      : { kind: 'host', id: host!.id, name: host!.name };
  const objections = given.objections.filter(
    (objection) => !(objection.code === 'found-in-use' && replaced?.ip === given.ip),
  );
  return {
    draft,
    title: `${change.assigned ? 'assigned' : 'recorded'} ${given.ip} ${change.assigned ? 'to' : 'on'} ${subject.name}`,
    subjects: [subject],
    objections,
  };
};

/** Says how an address is configured: its prefix length there, its use, the switch of the host that it sits on. */
export interface EditAddress extends ChangeBase {
  type: 'address.edit';
  id: string;
  fields: Values;
}

export const editAddress: Decider<EditAddress> = (fleet, change, edge) => {
  const draft = draftOf(fleet, edge);
  const address = editFields(fleet, draft, 'address', change.id, change.fields, [
    'prefixLength',
    'use',
    'purpose',
    'virtualSwitchId',
  ]);
  if (isRefusal(address)) return address;
  const length = change.fields.prefixLength;
  if (typeof length === 'number' && length > (address.ip.includes(':') ? 128 : 32)) {
    return refuse({
      code: 'bad-value',
      field: 'prefixLength',
      sentence: `/${length}: a prefix length of ${address.ip} is 0 to 32.`,
    });
  }
  if (address.hostId) draft.update('host', address.hostId, { networkChangedAt: edge.now });
  const subject = holderOf(fleet, address);
  return {
    draft,
    title: `edited ${address.ip} of ${subject.name}: ${Object.keys(change.fields).join(', ')}`,
    subjects: [subject],
  };
};

/** Takes an address from its holder; it is free again, at once or after its rest. */
export interface ReleaseAddress extends ChangeBase {
  type: 'address.release';
  id: string;
  /** Days it rests; left out: as its subnet says. */
  restDays?: number;
}

export const releaseAddress: Decider<ReleaseAddress> = (fleet, change, edge) => {
  const address = fleet.get('address', change.id);
  if (!address) return noSuch('address');
  const draft = draftOf(fleet, edge);
  const until = release(fleet, draft, address, edge.now, change.restDays);
  if (address.hostId) draft.update('host', address.hostId, { networkChangedAt: edge.now });
  const subject = holderOf(fleet, address);
  return {
    draft,
    title: `released ${address.ip} of ${subject.name}${until ? `, resting until ${until}` : ''}`,
    subjects: [subject],
  };
};

const DAY = 86_400_000;

/** Drafts the release of an address; gives the day until which it rests, if it does. */
export function release(
  fleet: Fleet,
  draft: Draft,
  address: Row<'address'>,
  now: string,
  restDays?: number,
): string | undefined {
  draft.remove('address', address.id);
  const subnet = fleet.get('subnet', address.subnetId);
  const days = restDays ?? subnet?.quarantineDays ?? 0;
  if (!subnet || days === 0 || !address.assigned) return undefined;
  const until = new Date(Date.parse(now) + days * DAY).toISOString().slice(0, 10);
  for (const earlier of fleet.referring('quarantine', 'subnetId', subnet.id))
    if (earlier.ip === address.ip || earlier.until <= now.slice(0, 10))
      draft.remove('quarantine', earlier.id);
  draft.create('quarantine', {
    subnetId: subnet.id,
    ip: address.ip,
    until,
    was: holderOf(fleet, address).name,
  });
  return until;
}

/** Ends the rest of a released address: it can be given out at once. */
export interface EndRest extends ChangeBase {
  type: 'address.end-rest';
  id: string;
}

export const endRest: Decider<EndRest> = (fleet, change, edge) => {
  const rest = fleet.get('quarantine', change.id);
  if (!rest) return noSuch('quarantine');
  const draft = draftOf(fleet, edge);
  draft.remove('quarantine', rest.id);
  const network = fleet.need('network', fleet.need('subnet', rest.subnetId).networkId);
  return {
    draft,
    title: `ended the rest of ${rest.ip}`,
    subjects: [{ kind: 'network', id: network.id, name: network.name }],
  };
};

/** The host, guest or device that carries an address. */
export function holderOf(fleet: Fleet, address: Row<'address'>): Subject & { kind: NamedKind } {
  const { kind, id } = machineOf(fleet, address);
  return { kind, id, name: fleet.need(kind, id).name };
}

/** Addresses whose text holds a part, in all domains, at most `most`. An address in another notation is found by its canonical text. */
export function addressesLike(fleet: Fleet, part: string, most: number): Row<'address'>[] {
  const whole = canonical(part);
  const wanted = whole.ok ? whole.value : part.trim().toLowerCase();
  const found: Row<'address'>[] = [];
  for (const row of fleet.all('address')) {
    if (whole.ok ? row.ip === wanted : row.ip.includes(wanted)) found.push(row);
    if (found.length >= most) break;
  }
  return found;
}
