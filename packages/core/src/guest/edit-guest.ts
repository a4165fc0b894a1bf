import { parseName } from '../address/index.js';
import { roomObjections } from '../host/index.js';
import { givenWords } from '../quantity/index.js';
import {
  change,
  draftOf,
  editFields,
  fieldsOf,
  isRefusal,
  omittable,
  ref,
  refuse,
  some,
  type DeciderOf,
  type Fleet,
  type Refusal,
} from '../record/index.js';
import { processorObjections } from './draft-guest.js';
import { guestName, SAID_OF_GUEST } from './guest-input.js';

/** While it is planned or being built this is planning and needs room; later it is reality. */
export const editGuest = change({
  type: 'guest.edit',
  title: 'Edit the guest',
  alters: ['id'],
  input: {
    id: ref('guest'),
    name: omittable(guestName),
    ...some(fieldsOf('guest'), ...SAID_OF_GUEST, 'confirmedAt', 'confirmedBy'),
  },
});

export const decideEditGuest: DeciderOf<typeof editGuest> = (fleet, { id, ...fields }, context) => {
  const draft = draftOf(fleet, context);
  const guest = editFields(fleet, draft, 'guest', id, fields);
  if (isRefusal(guest)) return guest;
  if (fields.name !== undefined) {
    const name = parseName(fields.name);
    if (!name.ok)
      return refuse({
        code: 'bad-name',
        field: 'name',
        sentence: name.sentence,
        remedy: name.suggestion && `Write ${name.suggestion}.`,
      });
  }
  const { hostId } = fields;
  if (hostId !== undefined && !fleet.get('host', hostId))
    return refuse({
      code: 'no-such-record',
      field: 'hostId',
      sentence: 'Choose a host from the record.',
    });
  if (hostId !== undefined && hostId !== guest.hostId && openMigration(fleet, guest.id)) {
    return refuse({
      code: 'being-migrated',
      field: 'hostId',
      sentence: `${guest.name} is being migrated.`,
      remedy: 'Finish or roll back the migration first.',
    });
  }
  const asks = (...names: (keyof typeof fields)[]) =>
    names.some((name) => fields[name] !== undefined);
  const planning = guest.state === 'planned' || guest.state === 'building';
  const objections: Refusal[] = [];
  if (planning && asks('vcpu', 'memoryMiB', 'hostId') && wholeNumbers(fields)) {
    const hosts = [hostId ?? guest.hostId];
    objections.push(...roomObjections(fleet, draft.patches(), { hosts, pools: [] }));
  }
  if (planning && asks('hostId', 'processorMode', 'nestedVirtualisation')) {
    const home = fleet.need('host', guest.hostId);
    const host = fleet.get('host', hostId) ?? home;
    // What is being built has a disk that was made for one architecture; what is only planned has none.
    const from = guest.state === 'building' ? home : null;
    objections.push(...processorObjections({ ...guest, ...fields }, host, from));
  }
  return {
    draft,
    title: `edited guest ${guest.name}: ${givenWords(fields)}`,
    subjects: [{ kind: 'guest', id: guest.id, name: guest.name }],
    objections,
  };
};

const wholeNumbers = ({ vcpu = 1, memoryMiB = 1 }: { vcpu?: number; memoryMiB?: number }) =>
  Number.isSafeInteger(vcpu) && Number.isSafeInteger(memoryMiB);

const openMigration = (fleet: Fleet, guestId: string): boolean =>
  fleet
    .referring('migration', 'guestId', guestId)
    .some((migration) => migration.state === 'started' || migration.state === 'switched');
