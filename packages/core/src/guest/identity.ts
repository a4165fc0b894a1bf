/**
 * What a clone must be given of its own, and by when. Two tiers block: what two machines on one network break each other
 * with, and what others trust a machine by. The rest has a week. Common practice, no source.
 */
import { IDENTITY_ITEMS, objection, type Fleet, type Refusal, type Row } from '../record/index.js';
import { isGeneralised, versionOf } from '../template/index.js';

export type IdentityItem = (typeof IDENTITY_ITEMS)[number];
export type Tier = 'before it touches a network' | 'before service' | 'within a week';

export const TIERS: readonly Tier[] = [
  'before it touches a network',
  'before service',
  'within a week',
];
/** Days after which the last tier is late. */
export const LATE_DAYS = 7;

export interface About {
  tier: Tier;
  /** What happens if it is forgotten. */
  forgotten: string;
  /** How it is done, by kind of system. */
  how: { unix: string; nt: string; appliance: string };
  /** How somebody sees that it is done. */
  proof: string;
  /** What a generalised version, or one that was sealed, does not hold any more. */
  sealedAway?: 'generalised' | 'sealed';
}

const NT_GENERALISE = 'Run its own preparation tool with generalise and shut down, then start it.';

/** Procedures of general system tools, from memory. */
export const IDENTITY: Readonly<Record<IdentityItem, About>> = {
  'computer name': {
    tier: 'before it touches a network',
    forgotten: 'names resolve to one of the two, and people alter the wrong machine',
    how: {
      unix: 'Write the name to /etc/hostname and its line in /etc/hosts.',
      nt: 'Rename the computer in its settings, then restart.',
      appliance: 'Set the name at its console.',
    },
    proof: 'it prints the name of the record',
  },
  'machine identifier': {
    tier: 'before it touches a network',
    forgotten: 'both draw the same lease although their MAC addresses differ',
    how: {
      unix: 'Empty /etc/machine-id: it is drawn anew at the next start.',
      nt: NT_GENERALISE,
      appliance: 'Draw a new host identifier by its own means; a new pool signature as well.',
    },
    proof: 'it prints an identifier that neither its origin nor a sibling has',
    sealedAway: 'generalised',
  },
  'MAC address': {
    tier: 'before it touches a network',
    forgotten: 'the switch sends frames now to one, now to the other',
    how: {
      unix: 'Give its adapters the addresses of the record, while it is off.',
      nt: 'Give its adapters the addresses of the record, while it is off.',
      appliance: 'Give its adapters and its management port the addresses of the record.',
    },
    proof: 'it prints the MAC addresses of the record',
  },
  'static address': {
    tier: 'before it touches a network',
    forgotten: 'both answer for one address, and connections break at random',
    how: {
      unix: 'Write address, gateway and name servers where this system keeps them.',
      nt: 'Set address, gateway and name servers in the properties of its adapter.',
      appliance: 'Set address, gateway and name servers at its console.',
    },
    proof: 'it prints every address of the record and no other',
  },
  'interface binding': {
    tier: 'before it touches a network',
    forgotten: 'its interface is named anew, and the address stays with one that is gone',
    how: {
      unix: 'Remove rules that bind names of interfaces to MAC addresses.',
      nt: 'Remove hidden adapters in the list of devices: one may hold the static address.',
      appliance: 'Assign its ports anew at its console.',
    },
    proof: 'the interface with the MAC of the record is up',
    sealedAway: 'generalised',
  },
  'directory membership': {
    tier: 'before it touches a network',
    forgotten: 'both use one account of the directory, and one of them is locked out',
    how: {
      unix: 'Leave the directory, remove its keytab; join again under the new name.',
      nt: 'Leave the domain before cloning, join again under the new name.',
      appliance: 'Leave the directory, join again under the new name.',
    },
    proof: 'the directory lists it under its own name',
    sealedAway: 'sealed',
  },
  'SSH host keys': {
    tier: 'before service',
    forgotten: 'who holds the key of one can pretend to be the other',
    how: {
      unix: 'Remove the keys and have them drawn anew.',
      nt: 'Remove the keys and have them drawn anew, if it serves SSH at all.',
      appliance: 'Draw new keys by its own means.',
    },
    proof: 'it prints fingerprints that neither its origin nor a sibling has',
    sealedAway: 'generalised',
  },
  certificates: {
    tier: 'before service',
    forgotten: 'its certificate names another machine, and its key is known there',
    how: {
      unix: 'Draw a new key and have a certificate issued under its own name.',
      nt: 'Remove the old one from its store and enrol anew.',
      appliance: 'Draw a new self-signed one, or install one under its own name.',
    },
    proof: 'the certificate names it, with a fingerprint of its own',
  },
  'licence key': {
    tier: 'before service',
    forgotten: 'one licence is used twice',
    how: {
      unix: 'Enter its own entitlement, where one is needed.',
      nt: 'Enter its own key, or let it activate against the service that counts.',
      appliance: 'Install its own licence.',
    },
    proof: 'it shows a licence that no other machine shows',
  },
  'administrator password': {
    tier: 'before service',
    forgotten: 'who knows the password of one has all of them',
    how: {
      unix: 'Set a new one; note where it is kept, never the password itself.',
      nt: 'Set a new one; note where it is kept, never the password itself.',
      appliance: 'Replace the default password; note where the new one is kept.',
    },
    proof: 'the password of its origin is refused',
  },
  'scheduled jobs': {
    tier: 'within a week',
    forgotten: 'what its origin does at night is done twice: mails, reports, deletions',
    how: {
      unix: 'Look through its timers and crontabs; stop what belongs to its origin.',
      nt: 'Look through its scheduled tasks; disable what belongs to its origin.',
      appliance: 'Look through its schedules.',
    },
    proof: 'its list of jobs holds only its own',
  },
  'enrolment with monitoring, backup and directory': {
    tier: 'within a week',
    forgotten: 'nobody watches it or saves it, or it reports under the name of its origin',
    how: {
      unix: 'Enrol its agents anew: monitoring, backup, updates.',
      nt: 'Enrol its agents anew: monitoring, backup, updates.',
      appliance: 'Enrol it anew: monitoring, backup, updates.',
    },
    proof: 'each of them lists it under its own name',
  },
};

/** Of an item that a role adds: nobody here knows more of it than its name. */
const ADDED: About = {
  tier: 'before service',
  forgotten: 'what its role says about it is not so',
  how: {
    unix: 'As its role says.',
    nt: 'As its role says.',
    appliance: 'As its role says.',
  },
  proof: 'somebody has looked',
};

export const isKnownItem = (item: string): item is IdentityItem => Object.hasOwn(IDENTITY, item);

/** What is known of an item, whether it is one of ours or one that a role adds. */
export const aboutItem = (item: string): About => (isKnownItem(item) ? IDENTITY[item] : ADDED);

/** Which of the procedures a system follows. */
export const waysOf = (family: Row<'guest'>['family']): keyof About['how'] =>
  family === 'NT family' ? 'nt' : family === 'appliance' ? 'appliance' : 'unix';

/**
 * What a copy must be given anew: what its role says, or everything; without what is not in the disks of a sealed version
 * any more.
 */
export function identityItemsOf(fleet: Fleet, origin: Row<'guest'>): readonly string[] {
  const profile = fleet.get('profile', origin.profileId);
  const wanted = profile?.identity ?? [];
  const known = IDENTITY_ITEMS.filter((item) => wanted.includes(item));
  const version = versionOf(fleet, origin.id);
  const sealed = version !== undefined && version.sealedAt !== null;
  const generalised = sealed && isGeneralised(fleet, version.id);
  const away = (item: IdentityItem) =>
    IDENTITY[item].sealedAway === 'generalised'
      ? generalised
      : IDENTITY[item].sealedAway === 'sealed' && sealed;
  const usual = (known.length ? known : IDENTITY_ITEMS).filter((item) => !away(item));
  return [...new Set([...usual, ...(profile?.moreIdentity ?? [])])];
}

/** Items of a guest that are still its origin's, by tier; empty for what is no clone. */
export function openIdentity(fleet: Fleet, guestId: string): Map<Tier, Row<'identityItem'>[]> {
  const open = new Map<Tier, Row<'identityItem'>[]>();
  for (const clone of fleet.referring('clone', 'guestId', guestId))
    for (const item of fleet.referring('identityItem', 'cloneId', clone.id)) {
      if (item.doneAt !== null) continue;
      const { tier } = aboutItem(item.item);
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
      sentence: `${guest.name} still has of its origin: ${names}. ${twin ? `${twin.name} is up: ${aboutItem(first).forgotten}` : `Forgotten, ${aboutItem(first).forgotten}`}.`,
      remedy: 'Give it its own, and tick each.',
    }),
  ];
}
