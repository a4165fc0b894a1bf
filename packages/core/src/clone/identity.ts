/**
 * What a clone must be given of its own, and by when. Two tiers block: what two machines on one network break each other
 * with, and what others trust a machine by. The rest has a week. Common practice, no source.
 */
import {
  objection,
  type Fleet,
  type IDENTITY_ITEMS,
  type Refusal,
  type Row,
} from '../record/index.js';

export type IdentityItem = (typeof IDENTITY_ITEMS)[number];
export type Tier = 'before it touches a network' | 'before service' | 'within a week';

export const TIERS: readonly Tier[] = [
  'before it touches a network',
  'before service',
  'within a week',
];
/** Days after which the last tier is late. */
export const LATE_DAYS = 7;

interface About {
  tier: Tier;
  /** What happens if it is forgotten. */
  forgotten: string;
}

export const IDENTITY: Readonly<Record<IdentityItem, About>> = {
  'computer name': {
    tier: 'before it touches a network',
    forgotten: 'names resolve to one of the two, and people alter the wrong machine',
  },
  'machine identifier': {
    tier: 'before it touches a network',
    forgotten: 'both draw the same lease although their MAC addresses differ',
  },
  'MAC address': {
    tier: 'before it touches a network',
    forgotten: 'the switch sends frames now to one, now to the other',
  },
  'static address': {
    tier: 'before it touches a network',
    forgotten: 'both answer for one address, and connections break at random',
  },
  'SSH host keys': {
    tier: 'before service',
    forgotten: 'who holds the key of one can pretend to be the other',
  },
  certificates: {
    tier: 'before service',
    forgotten: 'its certificate names another machine, and its key is known there',
  },
  'licence key': { tier: 'before service', forgotten: 'one licence is used twice' },
  'administrator password': {
    tier: 'before service',
    forgotten: 'who knows the password of one has all of them',
  },
  'enrolment with monitoring, backup and directory': {
    tier: 'within a week',
    forgotten: 'nobody watches it or saves it, or it reports under the name of its origin',
  },
};

/** Items of a guest that are still its origin's, by tier; empty for what is no clone. */
export function openIdentity(fleet: Fleet, guestId: string): Map<Tier, Row<'identityItem'>[]> {
  const open = new Map<Tier, Row<'identityItem'>[]>();
  for (const clone of fleet.referring('clone', 'guestId', guestId))
    for (const item of fleet.referring('identityItem', 'cloneId', clone.id)) {
      if (item.doneAt !== null) continue;
      const { tier } = IDENTITY[item.item];
      open.set(tier, [...(open.get(tier) ?? []), item]);
    }
  return open;
}

/** Its origin and the other clones of it that are in service: with whom it shares what is still open. */
export function twinsUp(fleet: Fleet, guestId: string): Row<'guest'>[] {
  const [clone] = fleet.referring('clone', 'guestId', guestId);
  if (!clone) return [];
  return [
    clone.originId,
    ...fleet.referring('clone', 'originId', clone.originId).map((one) => one.guestId),
  ]
    .filter((id) => id !== guestId)
    .map((id) => fleet.need('guest', id))
    .filter(
      (guest) =>
        guest.state === 'in service' &&
        (guest.id === clone.originId ||
          (openIdentity(fleet, guest.id).get('before it touches a network') ?? []).length > 0),
    );
}

/** Why a clone is not put in service yet: an administrator may go past it with a written reason. */
export function identityObjections(fleet: Fleet, guest: Row<'guest'>): Refusal[] {
  const open = openIdentity(fleet, guest.id);
  const network = open.get('before it touches a network') ?? [];
  const service = open.get('before service') ?? [];
  const blocking = [...network, ...service];
  if (blocking.length === 0) return [];
  const [twin] = network.length > 0 ? twinsUp(fleet, guest.id) : [];
  const first = blocking[0]!.item;
  const names = blocking.map(({ item }) => item).join(', ');
  return [
    objection({
      code: 'identity-open-before-service',
      field: 'state',
      by: 'administrator',
      sentence: `${guest.name} still has of its origin: ${names}. ${twin ? `${twin.name} is up: ${IDENTITY[first].forgotten}` : `Forgotten, ${IDENTITY[first].forgotten}`}.`,
      remedy: 'Give it its own, and tick each.',
    }),
  ];
}
