import type { Lineage } from '@insel/contract';
import { diskNames, type Fleet } from '@insel/core';
import { asRead, namedById } from './common.js';
import { firstAddress } from './guests.js';

function cloneRow(fleet: Fleet, id: string): Lineage['clones'][number] {
  const clone = fleet.need('clone', id);
  const guest = fleet.need('guest', clone.guestId);
  const items = fleet.referring('identityItem', 'cloneId', id);
  const open = items.filter((item) => item.doneAt === null);
  return {
    ...asRead(clone),
    guest: { ...asRead(guest), name: guest.name },
    address: firstAddress(fleet, guest.id),
    disks: diskNames(fleet, guest),
    state: guest.state,
    origin: namedById(fleet, 'guest', clone.originId),
    copy: clone.copy,
    madeAt: clone.madeAt,
    done: items.length - open.length,
    items: items.length,
    host: namedById(fleet, 'host', guest.hostId),
    open: open.map((item) => item.item),
    identity: items.map(({ id: itemId, item, doneAt, doneBy }) => ({
      id: itemId,
      item,
      doneAt,
      doneBy,
    })),
  };
}

/** Every guest that was copied, with its clones in the order they were made. */
export function lineages(fleet: Fleet): Lineage[] {
  const byOrigin = new Map<string, Lineage>();
  for (const clone of fleet.all('clone')) {
    const origin = fleet.need('guest', clone.originId);
    const line = byOrigin.get(origin.id) ?? {
      origin: { id: origin.id, name: origin.name, state: origin.state, template: origin.template },
      clones: [],
    };
    line.clones.push(cloneRow(fleet, clone.id));
    byOrigin.set(origin.id, line);
  }
  for (const line of byOrigin.values())
    line.clones.sort(
      (a, b) => a.madeAt.localeCompare(b.madeAt) || a.guest.name.localeCompare(b.guest.name),
    );
  return [...byOrigin.values()].sort((a, b) => a.origin.name.localeCompare(b.origin.name));
}
