import { draftOf, holderName, isRefusal, noSuch, type ChangeBase, type Decider, type Fleet, type Row, type Subject } from '../record/index.js';
import { giveAddress } from './give-address.js';

/** Gives a host or an adapter one more address: assigned by Insel (the next free one if none is named), or found. */
export interface SetAddress extends ChangeBase {
  type: 'address.set';
  hostId?: string;
  adapterId?: string;
  networkId?: string;
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
  if (!adapter && !host) return noSuch(change.adapterId ? 'adapter' : 'host');
  const draft = draftOf(fleet, edge);
  if (change.replaces) {
    if (!fleet.get('address', change.replaces)) return noSuch('address');
    draft.remove('address', change.replaces);
  }
  const given = giveAddress(fleet, draft, {
    holder: adapter ? { adapterId: adapter.id } : { hostId: host!.id },
    networkId: change.networkId ?? adapter?.networkId ?? null,
    ip: change.ip,
    assigned: change.assigned || change.ip === undefined,
    use: change.use,
    purpose: change.purpose,
    prefixLength: change.prefixLength,
    field: 'ip',
  });
  if (isRefusal(given)) return given;
  if (host) draft.update('host', host.id, { networkChangedAt: edge.now });
  const subject: Subject = adapter
    ? { kind: 'guest', id: adapter.guestId, name: fleet.need('guest', adapter.guestId).name }
    : { kind: 'host', id: host!.id, name: host!.name };
  const objections = given.objections.filter((objection) => !(change.replaces && objection.code === 'found-in-use' && fleet.get('address', change.replaces)?.ip === given.ip));
  return { draft, title: `${change.assigned ? 'assigned' : 'recorded'} ${given.ip} ${change.assigned ? 'to' : 'on'} ${subject.name}`, subjects: [subject], objections };
};

/** Takes an address from its holder; it is free again. */
export interface ReleaseAddress extends ChangeBase {
  type: 'address.release';
  id: string;
}

export const releaseAddress: Decider<ReleaseAddress> = (fleet, change, edge) => {
  const address = fleet.get('address', change.id);
  if (!address) return noSuch('address');
  const draft = draftOf(fleet, edge);
  draft.remove('address', address.id);
  if (address.hostId) draft.update('host', address.hostId, { networkChangedAt: edge.now });
  return { draft, title: `released ${address.ip} of ${holderName(fleet, address)}`, subjects: [holderOf(fleet, address)] };
};

/** The host or guest that carries an address. */
export function holderOf(fleet: Fleet, address: Row<'address'>): Subject & { kind: 'host' | 'guest' } {
  if (address.hostId) return { kind: 'host', id: address.hostId, name: fleet.need('host', address.hostId).name };
  const guest = fleet.need('guest', fleet.need('adapter', address.adapterId!).guestId);
  return { kind: 'guest', id: guest.id, name: guest.name };
}
