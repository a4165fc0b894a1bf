import { generateMac, macComplaint } from '../address/index.js';
import { macBlockAt } from '../network/index.js';
import { givenWords } from '../quantity/index.js';
import {
  change,
  draftOf,
  editFields,
  fieldsOf,
  isRefusal,
  noSuch,
  ref,
  refuse,
  some,
  type DeciderOf,
} from '../record/index.js';

/** An empty MAC asks for a generated one. */
export const editAdapter = change({
  type: 'adapter.edit',
  title: 'Edit the adapter',
  alters: ['id'],
  input: {
    id: ref('adapter'),
    ...some(
      fieldsOf('adapter'),
      'networkId',
      'mac',
      'connected',
      'masquerade',
      'masqueradeFrom',
      'model',
      'nameInside',
    ),
  },
});

export const decideEditAdapter: DeciderOf<typeof editAdapter> = (
  fleet,
  { id, ...given },
  context,
) => {
  const draft = draftOf(fleet, context);
  const held = fleet.get('adapter', id);
  if (!held) return noSuch('adapter');
  const guest = fleet.need('guest', held.guestId);
  if (given.mac !== undefined && held.trunkId !== null)
    return refuse({
      code: 'mac-of-trunk',
      field: 'mac',
      sentence: 'A sub-interface has the MAC of the adapter that it travels over.',
    });
  const generate = given.mac === '';
  const mac = generate
    ? generateMac(
        (found) => fleet.macHolders(found).length > 0,
        context.randomByte,
        macBlockAt(fleet, guest.hostId),
      )
    : given.mac;
  const fields = mac === undefined ? given : { ...given, mac };
  const adapter = editFields(fleet, draft, 'adapter', id, fields);
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
    title: `edited an adapter of ${guest.name}: ${givenWords(given)}`,
    subjects: [{ kind: 'guest', id: guest.id, name: guest.name }],
  };
};
