/** Adapters of a guest: their network, MAC, cable and translation; one more, one less, two changed over. */
import { generateMac, macComplaint, parseMac } from '../address/index.js';
import { giveAddress, macBlockAt, release } from '../network/index.js';
import {
  draftOf,
  editFields,
  isRefusal,
  noSuch,
  refuse,
  type ChangeBase,
  type Decider,
  type Row,
  type Subject,
  type Values,
} from '../record/index.js';

const subjectOf = (guest: Row<'guest'>): Subject => ({
  kind: 'guest',
  id: guest.id,
  name: guest.name,
});

/** Edits an adapter; an empty MAC asks for a generated one. */
export interface EditAdapter extends ChangeBase {
  type: 'adapter.edit';
  id: string;
  fields: Values;
}

export const editAdapter: Decider<EditAdapter> = (fleet, change, edge) => {
  const draft = draftOf(fleet, edge);
  const held = fleet.get('adapter', change.id);
  if (!held) return noSuch('adapter');
  const guest = fleet.need('guest', held.guestId);
  const generate = change.fields.mac === '';
  const mac = generate
    ? generateMac(
        (found) => fleet.macHolders(found).length > 0,
        edge.randomByte,
        macBlockAt(fleet, guest.hostId),
      )
    : (change.fields.mac as string | undefined);
  const fields = mac === undefined ? change.fields : { ...change.fields, mac };
  const adapter = editFields(fleet, draft, 'adapter', change.id, fields, [
    'networkId',
    'mac',
    'connected',
    'masquerade',
    'position',
    'model',
    'nameInside',
  ]);
  if (isRefusal(adapter)) return adapter;
  const complaint = mac ? macComplaint(mac) : undefined;
  if (complaint)
    return refuse({
      code: 'bad-mac',
      field: 'mac',
      sentence: complaint,
      remedy: 'Leave it empty to have one generated.',
    });
  if (mac !== undefined) draft.update('adapter', adapter.id, { macAssigned: generate });
  return {
    draft,
    title: `edited an adapter of ${guest.name}: ${Object.keys(change.fields).join(', ')}`,
    subjects: [subjectOf(guest)],
  };
};

/** Gives a guest one more adapter, with a generated MAC and, if wanted, the next free address of its network. */
export interface AddAdapter extends ChangeBase {
  type: 'adapter.add';
  guestId: string;
  networkId: string | null;
  /** As found; left out: one is generated. */
  mac?: string;
  address: { take: 'next' } | { take: 'given'; ip: string } | { take: 'none' };
}

export const addAdapter: Decider<AddAdapter> = (fleet, change, edge) => {
  const guest = fleet.get('guest', change.guestId);
  if (!guest) return noSuch('guest');
  const given = change.mac?.trim();
  const read = given ? parseMac(given) : undefined;
  if (read && !read.ok) return refuse({ code: 'bad-mac', field: 'mac', sentence: read.sentence });
  const draft = draftOf(fleet, edge);
  const mac = read
    ? read.value
    : generateMac(
        (found) => fleet.macHolders(found).length > 0,
        edge.randomByte,
        macBlockAt(fleet, guest.hostId),
      );
  const position =
    Math.max(
      -1,
      ...fleet.referring('adapter', 'guestId', guest.id).map((adapter) => adapter.position),
    ) + 1;
  const adapterId = draft.create('adapter', {
    guestId: guest.id,
    networkId: change.networkId,
    position,
    mac,
    macAssigned: !read,
  });
  const on = fleet.get('network', change.networkId)?.name;
  const title = `gave ${guest.name} adapter ${position + 1}${on ? ` on ${on}` : ''}`;
  if (change.address.take === 'none') return { draft, title, subjects: [subjectOf(guest)] };
  const address = giveAddress(fleet, draft, {
    holder: { adapterId },
    networkId: change.networkId,
    ip: change.address.take === 'given' ? change.address.ip : undefined,
    assigned: change.address.take === 'next',
    field: 'ip',
    now: edge.now,
    randomByte: edge.randomByte,
  });
  if (isRefusal(address)) return address;
  return {
    draft,
    title: `${title}, ${address.ip}`,
    subjects: [subjectOf(guest)],
    objections: address.objections,
  };
};

/** Takes an adapter from a guest; its addresses are released. */
export interface RemoveAdapter extends ChangeBase {
  type: 'adapter.remove';
  id: string;
}

export const removeAdapter: Decider<RemoveAdapter> = (fleet, change, edge) => {
  const adapter = fleet.get('adapter', change.id);
  if (!adapter) return noSuch('adapter');
  const guest = fleet.need('guest', adapter.guestId);
  const draft = draftOf(fleet, edge);
  for (const address of fleet.referring('address', 'adapterId', adapter.id))
    release(fleet, draft, address, edge.now);
  draft.remove('adapter', adapter.id);
  return {
    draft,
    title: `took adapter ${adapter.position + 1} from ${guest.name}`,
    subjects: [subjectOf(guest)],
  };
};

/** Changes two adapters of one guest over: each goes to the other's network, addresses and MACs stay. */
export interface SwapAdapters extends ChangeBase {
  type: 'adapter.swap';
  aId: string;
  bId: string;
}

export const swapAdapters: Decider<SwapAdapters> = (fleet, change, edge) => {
  const [a, b] = [fleet.get('adapter', change.aId), fleet.get('adapter', change.bId)];
  if (!a || !b) return noSuch('adapter');
  if (a.guestId !== b.guestId)
    return refuse({
      code: 'of-two-guests',
      field: 'bId',
      sentence: 'These adapters belong to two guests.',
    });
  const guest = fleet.need('guest', a.guestId);
  const draft = draftOf(fleet, edge);
  draft.update('adapter', a.id, { networkId: b.networkId });
  draft.update('adapter', b.id, { networkId: a.networkId });
  return {
    draft,
    title: `changed adapters ${a.position + 1} and ${b.position + 1} of ${guest.name} over`,
    subjects: [subjectOf(guest)],
  };
};
