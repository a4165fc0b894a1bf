/** What clones are made from: templates, their versions along time, and what was seen to before one was sealed. */
import { choice, date, initially, integer, name, optional, ref, text, time } from '../field.js';
import { described } from './described.js';
import { FAMILIES } from './guest.js';

/** A line of versions of one prepared system. */
export const template = {
  fields: { name: name(), purpose: text(), ...described },
};

/** A stopped guest whose disks are copied. Once sealed, it is not started any more: what is altered is a new version. */
export const templateVersion = {
  owner: 'templateId',
  fields: {
    templateId: ref('template'),
    number: integer(1, 9999),
    guestId: ref('guest'),
    /** The version that it is a copy of; null for one that was installed from a medium. */
    fromId: optional(ref('templateVersion')),
    changed: text(2000),
    installed: text(2000),
    mediumId: optional(ref('medium')),
    begunAt: time(),
    sealedAt: optional(time()),
    sealedBy: text(100),
    /** No more clones are made from it. */
    retiredAt: optional(time()),
    /** Activations of the system that were reset on the way here: some allow only a few. */
    resets: initially(integer(0, 999), 0),
  },
} as const;

export const SEAL_ITEMS = [
  'disk copied',
  'updates installed',
  'identity generalised',
  'logs and host keys removed',
  'licence reset',
  'installation medium ejected',
  'adapter binding removed',
  'joined to no directory',
  'shut down cleanly',
] as const;

/** One thing to see to before a version is sealed. */
export const sealItem = {
  owner: 'versionId',
  fields: {
    versionId: ref('templateVersion'),
    item: choice(...SEAL_ITEMS),
    doneAt: optional(time()),
    doneBy: text(100),
    remark: text(),
  },
} as const;

export const ENTITLEMENT_UNITS = ['copy', 'host', 'processor', 'core pair', 'user'] as const;

/** What a licence allows: arithmetic only, nobody's terms. It covers guests of a role, a family, or with a label. */
export const entitlement = {
  fields: {
    name: name(),
    unit: choice(...ENTITLEMENT_UNITS),
    count: integer(1),
    /** Copies that one licensing of a host covers; 0: any number. */
    copiesPerHost: initially(integer(0, 1000), 0),
    /** Units that each host counts at least; 0: as many as it has. */
    leastPerHost: initially(integer(0, 10_000), 0),
    /** Of users, who are not in the record: how many there are. */
    users: initially(integer(0), 0),
    profileId: optional(ref('profile')),
    /** Of its guests; "any": not asked. */
    family: initially(choice('any', ...FAMILIES), 'any'),
    /** Label of its guests; empty: not asked. */
    label: text(100),
    until: optional(date()),
    ...described,
  },
};

export const FACT_KINDS = [
  'machine identifier',
  'computer name',
  'SSH host key',
  'certificate',
  'licence label',
] as const;

/** What a guest was seen to be known by. Never a secret: identifiers, fingerprints, a label of a licence. */
export const identityFact = {
  owner: 'guestId',
  fields: {
    guestId: ref('guest'),
    what: choice(...FACT_KINDS),
    value: text(200),
    seenAt: time(),
    seenBy: text(100),
  },
} as const;
