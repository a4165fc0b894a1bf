import { generateMac, parseMac } from '../address/index.js';
import { giveAddress, macBlockAt } from '../network/index.js';
import {
  change,
  draftOf,
  fieldsOf,
  isRefusal,
  noSuch,
  omittable,
  ref,
  refuse,
  said,
  type DeciderOf,
  type Subject,
} from '../record/index.js';
import { addressChoice } from './guest-input.js';

/** One more adapter or sub-interface, with a generated MAC unless one is given, and if wanted an address of its network. */
export const addAdapter = change({
  type: 'adapter.add',
  title: 'Add an adapter',
  input: {
    guestId: ref('guest'),
    networkId: said(fieldsOf('adapter').networkId),
    mac: omittable(fieldsOf('adapter').mac),
    /** The new one is a sub-interface: tagged with its network's VLAN on that adapter. */
    trunkId: omittable(fieldsOf('adapter').trunkId),
    address: addressChoice,
  },
});

export const decideAddAdapter: DeciderOf<typeof addAdapter> = (fleet, input, context) => {
  const guest = fleet.get('guest', input.guestId);
  if (!guest) return noSuch('guest');
  const given = input.mac?.trim();
  const read = given ? parseMac(given) : undefined;
  if (read && !read.ok) return refuse({ code: 'bad-mac', field: 'mac', sentence: read.sentence });
  const draft = draftOf(fleet, context);
  const trunk = fleet.get('adapter', input.trunkId);
  if (input.trunkId && !trunk) return noSuch('adapter');
  const network = fleet.get('network', input.networkId);
  if (trunk && !network?.vlanId)
    return refuse({
      code: 'no-vlan',
      field: 'networkId',
      sentence: network
        ? `${network.name} has no VLAN id: its frames cannot be told apart on a trunk.`
        : 'A sub-interface is on a network: its VLAN is the tag.',
      remedy: network
        ? 'Record the VLAN id of the network, or add an adapter of its own.'
        : 'Choose the network.',
    });
  const generated = () =>
    generateMac(
      (found) => fleet.macHolders(found).length > 0,
      context.randomByte,
      macBlockAt(fleet, guest.hostId),
    );
  const mac = read ? read.value : trunk ? null : generated();
  const position =
    Math.max(
      -1,
      ...fleet.referring('adapter', 'guestId', guest.id).map((adapter) => adapter.position),
    ) + 1;
  const adapterId = draft.create('adapter', {
    guestId: guest.id,
    networkId: input.networkId,
    position,
    mac,
    macAssigned: !read && !trunk,
    trunkId: trunk?.id ?? null,
  });
  const on = network ? ` on ${network.name}` : '';
  const over = trunk ? `, tagged on adapter ${trunk.position + 1}` : '';
  const title = `gave ${guest.name} adapter ${position + 1}${on}${over}`;
  const subjects: Subject[] = [{ kind: 'guest', id: guest.id, name: guest.name }];
  if (input.address.as === 'none') return { draft, title, subjects };
  const address = giveAddress(fleet, draft, {
    holder: { adapterId },
    networkId: input.networkId,
    ip: input.address.as === 'given' ? input.address.ip : undefined,
    assigned: input.address.as === 'next',
    field: 'ip',
    now: context.now,
    randomByte: context.randomByte,
  });
  if (isRefusal(address)) return address;
  return {
    draft,
    title: `${title}, ${address.ip}`,
    subjects,
    objections: address.objections,
  };
};
