/** Which fields rows are looked up by, and where a part belongs. */
import { type Kind, KIND_NAMES, REFERENCES, KINDS } from './kinds/index.js';

/** Keys of hosts that are in no group, and of those that run in a guest. */
export const NO_GROUP = 'of no group';
export const NESTED = 'in a guest';

/** Indexes beside those of references, with the key under which a row is filed. */
export const LOOK_UPS: readonly {
  name: 'names' | 'macs' | 'ips' | 'facts' | 'acceptances' | 'backing' | 'nested' | 'needed';
  kinds: readonly Kind[];
  keyOf: (row: AnyRow) => string | null;
}[] = [
  {
    name: 'names',
    kinds: ['host', 'guest', 'device'],
    keyOf: (row) => String(row.name).toLowerCase(),
  },
  {
    name: 'macs',
    kinds: ['adapter', 'port', 'devicePort'],
    keyOf: (row) => row.mac as string | null,
  },
  { name: 'ips', kinds: ['address'], keyOf: (row) => `${String(row.domainId)}|${String(row.ip)}` },
  {
    name: 'facts',
    kinds: ['identityFact'],
    keyOf: (row) => `${String(row.what)}|${String(row.value)}`,
  },
  {
    name: 'backing',
    kinds: ['host'],
    keyOf: ({ state, groupId }) =>
      state === 'in service' ? ((groupId as string | null) ?? NO_GROUP) : null,
  },
  {
    name: 'nested',
    kinds: ['host'],
    keyOf: ({ outerGuestId }) => (outerGuestId ? NESTED : null),
  },
  {
    name: 'needed',
    kinds: ['dependency', 'provider', 'pool', 'host'],
    // A need says who needs as well.
    keyOf: (row) =>
      ('onGuestId' in row
        ? row.onGuestId
        : (row.guestId ?? row.serverGuestId ?? row.outerGuestId ?? null)) as string | null,
  },
  { name: 'acceptances', kinds: ['acceptance'], keyOf: (row) => row.findingId as string },
];

const LOOK_UPS_OF = new Map(
  KIND_NAMES.map((kind) => [kind, LOOK_UPS.filter(({ kinds }) => kinds.includes(kind))]),
);

/** Of a part: the field with its owner. A row with its parts, and theirs, is read as one. */
export const OWNER_FIELD: Readonly<Partial<Record<Kind, string>>> = Object.fromEntries(
  KIND_NAMES.flatMap((kind) => {
    const { owner } = KINDS[kind] as { owner?: string };
    return owner ? [[kind, owner]] : [];
  }),
);

/** Fields that refer to records, with the name of their index and whether they say of what a row is a part. */
const FIELDS = new Map(
  KIND_NAMES.map((kind) => [
    kind,
    REFERENCES[kind].map(({ field, to }) => ({
      field,
      to,
      index: `${kind}.${field}`,
      /** Name under which it is noted who read which rows refer, and nothing of them. */
      ids: `ids in ${kind}.${field}`,
      owner: OWNER_FIELD[kind] === field,
    })),
  ]),
);

/** The same by field: writing the name anew at each look-up would cost more than the look-up. */
const FIELD_OF = new Map(
  KIND_NAMES.map((kind) => [kind, new Map(FIELDS.get(kind)!.map((one) => [one.field, one]))]),
);

export type AnyRow = Readonly<Record<string, unknown>>;

export const lookUpsOf = (kind: Kind): typeof LOOK_UPS => LOOK_UPS_OF.get(kind)!;

export const fieldsToIndex = (kind: Kind) => FIELDS.get(kind)!;

export const fieldToIndex = (kind: Kind, field: string) => FIELD_OF.get(kind)!.get(field)!;
