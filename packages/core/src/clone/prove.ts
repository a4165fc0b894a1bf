/** What a proof says of a clone: which items of identity it settles, which it contradicts, which it leaves open. */
import { canonicalOr } from '../address/index.js';
import type { Fleet, Row } from '../record/index.js';
import type { IdentityItem } from '../guest/index.js';
import type { Proof } from './proof-script.js';

export interface IdentityVerdict {
  item: IdentityItem;
  /** Null: nobody knows yet. */
  holds: boolean | null;
  /** What was seen, and what it was compared with. */
  seen: string;
}

type FactKind = Row<'identityFact'>['what'];

/** What a proof says a guest is known by, as it is kept. */
export const factsOf = (proof: Proof): { what: FactKind; value: string }[] => [
  ...(proof.name ? [{ what: 'computer name' as const, value: proof.name }] : []),
  ...(proof.machineId ? [{ what: 'machine identifier' as const, value: proof.machineId }] : []),
  ...proof.hostKeys.map((value) => ({ what: 'SSH host key' as const, value })),
  ...proof.certificates.map((value) => ({ what: 'certificate' as const, value })),
  ...proof.licences.map((value) => ({ what: 'licence label' as const, value })),
];

/** Whoever is known by the same, by what and value. */
export const knownBy = (fleet: Fleet, what: FactKind, value: string): string[] =>
  fleet.withFact(what, value).map(({ guestId }) => guestId);

export function verdictsOn(fleet: Fleet, guest: Row<'guest'>, proof: Proof): IdentityVerdict[] {
  const found: IdentityVerdict[] = [];
  if (proof.name) {
    const short = proof.name.split('.')[0]!.toLowerCase();
    found.push({
      item: 'computer name',
      holds: short === guest.name.toLowerCase(),
      seen: `it calls itself ${proof.name}`,
    });
  }
  const own = (item: IdentityItem, what: FactKind, values: readonly string[]) => {
    if (values.length > 0) found.push(ownOf(fleet, guest, item, what, values));
  };
  own('machine identifier', 'machine identifier', proof.machineId ? [proof.machineId] : []);
  own('SSH host keys', 'SSH host key', proof.hostKeys);
  own('certificates', 'certificate', proof.certificates);
  own('licence key', 'licence label', proof.licences);
  const adapters = fleet.referring('adapter', 'guestId', guest.id);
  if (proof.macs.length > 0) {
    const wanted = adapters.flatMap(({ mac }) => (mac ? [mac.toLowerCase()] : []));
    found.push(sameSet('MAC address', wanted, proof.macs));
  }
  if (proof.addresses.length > 0) {
    const wanted = adapters.flatMap(({ id }) =>
      fleet
        .referring('address', 'adapterId', id)
        .filter(({ use }) => use !== 'shared')
        .map(({ ip }) => ip),
    );
    found.push(sameSet('static address', wanted, proof.addresses.map(canonicalOr)));
  }
  return found;
}

/** A value that nobody else has; the origin's must be known, or nothing is proved. */
function ownOf(
  fleet: Fleet,
  guest: Row<'guest'>,
  item: IdentityItem,
  what: FactKind,
  values: readonly string[],
): IdentityVerdict {
  const other = values
    .flatMap((value) => knownBy(fleet, what, value))
    .find((id) => id !== guest.id);
  const seen = `${what} ${values.join(', ')}`;
  if (other)
    return {
      item,
      holds: false,
      seen: `${seen}, which ${fleet.need('guest', other).name} has too`,
    };
  const origins = fleet
    .referring('clone', 'guestId', guest.id)
    .map(({ originId }) => fleet.need('guest', originId));
  const unknown = origins.find(
    ({ id }) => !fleet.referring('identityFact', 'guestId', id).some((fact) => fact.what === what),
  );
  return unknown
    ? { item, holds: null, seen: `${seen}; that of ${unknown.name} is not on record` }
    : { item, holds: true, seen: `${seen}, which nobody else has` };
}

function sameSet(
  item: IdentityItem,
  wanted: readonly string[],
  seen: readonly string[],
): IdentityVerdict {
  const missing = wanted.filter((one) => !seen.includes(one));
  const more = seen.filter((one) => !wanted.includes(one));
  const holds = wanted.length === 0 ? null : missing.length === 0 && more.length === 0;
  const words = [
    `it shows ${seen.join(', ')}`,
    missing.length ? `not ${missing.join(', ')}` : '',
    more.length && wanted.length ? `and ${more.join(', ')} beyond the record` : '',
  ];
  return { item, holds, seen: words.filter(Boolean).join(', ') };
}
