/** Releasing an address, and who holds one. */
import {
  machineOf,
  type Draft,
  type Fleet,
  type NamedKind,
  type Row,
  type Subject,
} from '../record/index.js';

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

/** The host, guest or device that carries an address. */
export function holderOf(fleet: Fleet, address: Row<'address'>): Subject & { kind: NamedKind } {
  const { kind, id } = machineOf(fleet, address);
  return { kind, id, name: fleet.need(kind, id).name };
}
