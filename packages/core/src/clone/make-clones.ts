import { GivenOut, guestName, identityItemsOf } from '../guest/index.js';
import { roomObjections } from '../host/index.js';
import {
  change,
  choice,
  draftOf,
  fieldsOf,
  isRefusal,
  integer,
  list,
  noSuch,
  objection,
  omittable,
  ref,
  refs,
  refuse,
  some,
  text,
  type DeciderOf,
  type Fleet,
  type InputOf,
  type Patch,
  type Refusal,
  type Row,
} from '../record/index.js';
import { addressColumns, adapterWishes } from './clone-addresses.js';
import { cloneNames } from './clone-names.js';
import { cannotBe, seatsOf } from './clone-seats.js';
import { copyGuest, originOf } from './copy-guest.js';
import { exceeded } from './entitlement-use.js';
import { SPREAD_RULES } from './spread.js';
import {
  AGE_DAYS,
  ageOfVersion,
  isGeneralised,
  stateOfVersion,
  versionName,
  versionOf,
} from '../template/index.js';

/** More at once would be a plan of its own. */
export const MOST_CLONES = 500;
const guest = fieldsOf('guest');

/** Copies of a guest, each with a name, fresh MACs, an address of its own and an open list of identity items. */
export const makeClones = change({
  type: 'clone.make',
  title: 'Make clones',
  carried: 'by hand',
  input: {
    originId: ref('guest'),
    copy: fieldsOf('clone').copy,
    /** Such as `tide-{01..12}` or `{host}-w{n}`: see name-pattern.ts. */
    pattern: guestName,
    start: integer(0, 99_999),
    /** Consecutive addresses; the lowest ones wherever they lie; none but those that are written. */
    taking: choice('run', 'single', 'none'),
    /** Set inside each, or given out by a DHCP server from a reservation. */
    addressUse: omittable(choice('static', 'reservation')),
    /** Which hosts; left out: beside the origin. */
    spread: omittable(choice(...SPREAD_RULES)),
    /** Only these hosts; left out: all that can. */
    among: omittable(refs('host', 200)),
    /** Of all of them, where it differs from the origin. */
    ...some(guest, 'vcpu', 'memoryMiB', 'groupId', 'startSeconds', 'endDate', 'owner', 'purpose'),
    /** A service that each of them provides. */
    serviceId: omittable(ref('service')),
    /** What is left out follows from pattern, spread and the next free run. */
    clones: list(
      {
        name: omittable(guestName),
        hostId: omittable(ref('host')),
        poolId: omittable(ref('pool')),
        /** Address and MAC of the first adapter. */
        ip: omittable(fieldsOf('address').ip),
        mac: omittable(text(50)),
        ...some(guest, 'vcpu', 'memoryMiB'),
      },
      MOST_CLONES,
    ),
  },
});
export type MakeClones = InputOf<(typeof makeClones)['input']>;

export const decideMakeClones: DeciderOf<typeof makeClones> = (fleet, input, context) => {
  const guest = fleet.get('guest', input.originId);
  if (!guest) return noSuch('guest');
  const count = input.clones.length;
  if (count < 1 || count > MOST_CLONES)
    return refuse({
      code: 'how-many',
      field: 'count',
      sentence: `Make 1 to ${MOST_CLONES} clones at a time.`,
    });
  const origin = originOf(fleet, guest);
  const seats = seatsOf(fleet, guest, input);
  if (isRefusal(seats)) return seats;
  const names = cloneNames(fleet, input, seats);
  if (isRefusal(names)) return names;
  const columns = addressColumns(fleet, context, origin.adapters, input);
  if (isRefusal(columns)) return columns;
  const draft = draftOf(fleet, context);
  const givenOut = new GivenOut();
  const objections: Refusal[] = originObjections(fleet, guest, context.now);
  const subjects = [{ kind: 'guest' as const, id: guest.id, name: guest.name }];
  const places = { hosts: new Set<string>(), pools: new Set<string>() };
  const items = identityItemsOf(fleet, guest);
  for (const [i, seat] of seats.entries()) {
    const cannot = cannotBe(fleet, guest, origin.volumes, input.copy, seat);
    if (cannot) return { ...cannot, field: `clones.${i}.${cannot.field}` };
    const drafted = copyGuest(
      fleet,
      draft,
      context,
      origin,
      {
        name: names[i]!,
        hostId: seat.hostId,
        poolId: seat.poolId,
        dependent: input.copy === 'dependent',
        fields: altered(input, i),
        adapters: adapterWishes(columns, input, i),
      },
      givenOut,
    );
    if (isRefusal(drafted))
      return { ...drafted, field: drafted.field && `clones.${i}.${drafted.field}` };
    const { guestId } = drafted;
    for (const objection of drafted.objections)
      objections.push({ ...objection, field: `clones.${i}.${objection.field}` });
    places.hosts.add(seat.hostId);
    for (const { poolId } of origin.volumes) places.pools.add(seat.poolId ?? poolId);
    if (input.serviceId) draft.create('provider', { serviceId: input.serviceId, guestId });
    const cloneId = draft.create('clone', {
      guestId,
      originId: guest.id,
      copy: input.copy,
      madeAt: context.now,
    });
    for (const item of items) draft.create('identityItem', { cloneId, item });
    subjects.push({ kind: 'guest', id: guestId, name: names[i]! });
  }
  const patches = draft.patches();
  const sound =
    [...places.pools].every((id) => fleet.get('pool', id)) &&
    (!input.serviceId || fleet.get('service', input.serviceId) !== undefined) &&
    (!input.groupId || fleet.get('guestGroup', input.groupId) !== undefined);
  const room = sound
    ? [...roomObjections(fleet, patches, places), ...licenceObjections(fleet, patches)]
    : [];
  return {
    draft,
    title: `planned ${count} ${count === 1 ? 'clone' : 'clones'} of ${guest.name}: ${names.slice(0, 3).join(', ')}${count > 3 ? ' …' : ''}`,
    subjects,
    objections: [...room, ...objections],
  };
};

/** Licences that these clones would take beyond what they allow. */
function licenceObjections(fleet: Fleet, patches: readonly Patch[]): Refusal[] {
  if (fleet.count('entitlement') === 0) return [];
  const before = new Set(exceeded(fleet).map(({ entitlement }) => entitlement.id));
  return exceeded(fleet.overlay(patches))
    .filter(({ entitlement }) => !before.has(entitlement.id))
    .map(({ entitlement, used }) =>
      objection({
        code: 'licence-exceeded',
        field: 'originId',
        sentence: `${entitlement.name} allows ${entitlement.count.toLocaleString('en-GB')}, counted by ${entitlement.unit}; with these clones ${used.toLocaleString('en-GB')} would be used.`,
        remedy: 'Make fewer, gather them on hosts that count already, or obtain more.',
      }),
    );
}

/** What is said of one clone, else of all of them, instead of what its origin has. */
function altered(input: MakeClones, i: number) {
  const { groupId, startSeconds, endDate, owner, purpose } = input;
  const { vcpu = input.vcpu, memoryMiB = input.memoryMiB } = input.clones[i]!;
  return Object.fromEntries(
    Object.entries({ groupId, startSeconds, endDate, owner, purpose, vcpu, memoryMiB }).filter(
      ([, value]) => value !== undefined,
    ),
  );
}

function originObjections(fleet: Fleet, origin: Row<'guest'>, now: string): Refusal[] {
  const version = versionOf(fleet, origin.id);
  const found = version ? versionObjections(fleet, version, now) : [];
  const [copied] = fleet.referring('clone', 'guestId', origin.id);
  if (copied && !version && fleet.referringCount('clone', 'guestId', copied.originId) > 0)
    found.push(
      objection({
        code: 'clone-of-clone',
        field: 'originId',
        sentence: `${origin.name} is itself a clone of a clone: what is wrong in it is copied once more, and nobody knows where it came from.`,
        remedy: 'Clone the template that stands at the head of the line.',
      }),
    );
  if (origin.state === 'stopped' || origin.template) return found;
  if (origin.state === 'in service') {
    return [
      ...found,
      objection({
        code: 'origin-running',
        field: 'originId',
        sentence: `${origin.name} is in service: the copy of a running disk may be torn.`,
        remedy: 'Stop it first, or write why the copy is sound.',
      }),
    ];
  }
  return [
    ...found,
    objection({
      code: 'origin-not-built',
      field: 'originId',
      sentence: `${origin.name} is ${origin.state}: there is no disk to copy yet.`,
      remedy: 'Build it first, or write why these clones are planned already.',
    }),
  ];
}

function versionObjections(fleet: Fleet, version: Row<'templateVersion'>, now: string): Refusal[] {
  const name = versionName(fleet, version);
  const state = stateOfVersion(version);
  if (state !== 'sealed')
    return [
      objection({
        code: 'version-not-sealed',
        field: 'originId',
        sentence: `${name} is ${state}: ${isGeneralised(fleet, version.id) ? 'it is not finished' : 'every copy of it has the identity of its origin'}.`,
        remedy: 'Seal it first, or clone the current version.',
      }),
    ];
  const age = ageOfVersion(fleet, version, now)!;
  if (age < AGE_DAYS.reason) return [];
  return [
    objection({
      code: 'version-old',
      field: 'originId',
      sentence: `${name} was sealed ${age} days ago: its clones begin with that many days of updates missing.`,
      remedy: 'Make a new version, or write why this one will do.',
    }),
  ];
}
