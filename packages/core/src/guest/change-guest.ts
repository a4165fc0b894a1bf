import { parseName } from '../address/index.js';
import { roomObjections } from '../host/room.js';
import {
  draftOf,
  editFields,
  isRefusal,
  noSuch,
  refuse,
  type ChangeBase,
  type Decider,
  type NewFields,
  type Row,
  type Values,
} from '../record/index.js';
import { draftGuest, type AdapterInput, type VolumeInput } from './draft-guest.js';

/** Plans a guest: its place must have room, its name, MAC and address are given out. */
export interface PlanGuest extends ChangeBase {
  type: 'guest.plan';
  fields: NewFields<'guest'>;
  volumes: VolumeInput[];
  adapters: AdapterInput[];
  mediumIds?: string[];
  /** Rules of placement that it joins. */
  ruleIds?: string[];
}

export const planGuest: Decider<PlanGuest> = (fleet, change, edge) => {
  const draft = draftOf(fleet, edge);
  const drafted = draftGuest(
    fleet,
    draft,
    edge,
    { ...change, fields: { ...change.fields, state: 'planned' } },
    true,
  );
  if (isRefusal(drafted)) return drafted;
  for (const ruleId of change.ruleIds ?? [])
    draft.create('placementMember', { ruleId, guestId: drafted.guestId });
  const host = fleet.need('host', change.fields.hostId!);
  const pools = change.volumes.map((volume) => volume.poolId).filter((id) => fleet.get('pool', id));
  const sound = change.volumes.every((volume) => fleet.get('pool', volume.poolId));
  const room =
    sound && Number.isSafeInteger(change.fields.memoryMiB)
      ? roomObjections(fleet, draft.patches(), { hosts: [host.id], pools })
      : [];
  const name = String(change.fields.name).trim();
  return {
    draft,
    title: `planned guest ${name} on ${host.name}`,
    subjects: [{ kind: 'guest', id: drafted.guestId, name }],
    objections: [...room, ...drafted.objections],
  };
};

/** Records a guest that exists, as it is. Never refused for lack of room or for a conflict. */
export interface RecordGuest extends ChangeBase {
  type: 'guest.record';
  fields: NewFields<'guest'>;
  volumes: VolumeInput[];
  adapters: AdapterInput[];
  mediumIds?: string[];
}

export const recordGuest: Decider<RecordGuest> = (fleet, change, edge) => {
  const draft = draftOf(fleet, edge);
  const drafted = draftGuest(fleet, draft, edge, change, false);
  if (isRefusal(drafted)) return drafted;
  const name = String(change.fields.name).trim();
  const host = fleet.need('host', change.fields.hostId!);
  return {
    draft,
    title: `recorded guest ${name} on ${host.name}`,
    subjects: [{ kind: 'guest', id: drafted.guestId, name }],
  };
};

const EDITABLE = [
  'name',
  'template',
  'hostId',
  'family',
  'purpose',
  'vcpu',
  'memoryMiB',
  'heldWhenStopped',
  'processorMode',
  'nestedVirtualisation',
  'startSeconds',
  'domain',
  'gateway',
  'gateway6',
  'noGateway',
  'gatewayOnLink',
  'forwards',
  'profileId',
  'groupId',
  'firmware',
  'bootFirst',
  'graphics',
  'criticality',
  'outageWindow',
  'endDate',
  'notes',
  'labels',
  'owner',
  'confirmedAt',
  'confirmedBy',
];

/** Edits a guest's own fields. While it is planned or being built this is planning and needs room; later it is reality. */
export interface EditGuest extends ChangeBase {
  type: 'guest.edit';
  id: string;
  fields: Values;
}

export const editGuest: Decider<EditGuest> = (fleet, change, edge) => {
  const draft = draftOf(fleet, edge);
  const guest = editFields(fleet, draft, 'guest', change.id, change.fields, EDITABLE);
  if (isRefusal(guest)) return guest;
  if (change.fields.name !== undefined) {
    const name = parseName(String(change.fields.name));
    if (!name.ok)
      return refuse({
        code: 'bad-name',
        field: 'name',
        sentence: name.sentence,
        remedy: name.suggestion && `Write ${name.suggestion}.`,
      });
  }
  const hostId = change.fields.hostId as string | undefined;
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
  const asks = ['vcpu', 'memoryMiB', 'hostId'].some((name) => change.fields[name] !== undefined);
  const planning = asks && (guest.state === 'planned' || guest.state === 'building');
  const objections =
    planning && wholeNumbers(change.fields)
      ? roomObjections(fleet, draft.patches(), { hosts: [hostId ?? guest.hostId], pools: [] })
      : [];
  return {
    draft,
    title: `edited guest ${guest.name}: ${Object.keys(change.fields).join(', ')}`,
    subjects: [{ kind: 'guest', id: guest.id, name: guest.name }],
    objections,
  };
};

const wholeNumbers = (fields: Values) =>
  [fields.vcpu ?? 1, fields.memoryMiB ?? 1].every((value) => Number.isSafeInteger(value));

function openMigration(fleet: Parameters<typeof editGuest>[0], guestId: string): boolean {
  return fleet
    .referring('migration', 'guestId', guestId)
    .some((migration) => migration.state === 'started' || migration.state === 'switched');
}

type State = Row<'guest'>['state'];
export const GUEST_STATE_FOLLOWS: Readonly<Record<State, readonly State[]>> = {
  planned: ['building', 'in service', 'retired'],
  building: ['planned', 'in service', 'stopped', 'retired'],
  'in service': ['stopped', 'retired'],
  stopped: ['in service', 'retired'],
  retired: ['stopped'],
};

/** Records that a guest's state has changed in the world. */
export interface SetGuestState extends ChangeBase {
  type: 'guest.set-state';
  id: string;
  state: State;
}

export const setGuestState: Decider<SetGuestState> = (fleet, change, edge) => {
  const guest = fleet.get('guest', change.id);
  if (!guest) return noSuch('guest');
  if (!GUEST_STATE_FOLLOWS[guest.state].includes(change.state)) {
    return refuse({
      code: 'state-cannot-follow',
      field: 'state',
      sentence: `A guest that is ${guest.state} does not become ${change.state}.`,
      remedy: `After ${guest.state} comes ${GUEST_STATE_FOLLOWS[guest.state].join(', ')}.`,
    });
  }
  const draft = draftOf(fleet, edge);
  draft.update('guest', guest.id, { state: change.state, stateAt: change.happenedAt ?? edge.now });
  return {
    draft,
    title: `set guest ${guest.name} to ${change.state}`,
    subjects: [{ kind: 'guest', id: guest.id, name: guest.name }],
  };
};
