/** Every rule, by the kind of record it looks at. A new rule is one file and one line here. */
import type { Fleet, Kind } from '../record/index.js';
import { duplicateAddress } from './duplicate-address.js';
import { fewAddressesLeft } from './few-addresses-left.js';
import type { Finding, Rule, Severity } from './finding.js';
import { gatewayOutside } from './gateway-outside.js';
import { holdPastDate } from './hold-past-date.js';
import { hostOverfull } from './host-overfull.js';
import { identityOpen } from './identity-open.js';
import { identityTwice } from './identity-twice.js';
import { networkNotCarried } from './network-not-carried.js';
import { poolOverfull } from './pool-overfull.js';
import { staticInDynamic } from './static-in-dynamic.js';

export const RULES: readonly Rule[] = [
  staticInDynamic,
  duplicateAddress,
  gatewayOutside,
  fewAddressesLeft,
  hostOverfull,
  poolOverfull,
  identityOpen,
  identityTwice,
  networkNotCarried,
  holdPastDate,
];

export const RULED_KINDS: readonly Kind[] = [...new Set(RULES.map((rule) => rule.kind))];

const RANK: Record<Severity, number> = { blocker: 0, caution: 1, note: 2 };

export const bySeverity = (a: Finding, b: Finding): number =>
  RANK[a.severity] - RANK[b.severity] || a.about.name.localeCompare(b.about.name) || a.id.localeCompare(b.id);

/** Findings of the rules that look at one record. */
export function findingsAt(fleet: Fleet, kind: Kind, id: string, now: string): Finding[] {
  return RULES.filter((rule) => rule.kind === kind).flatMap((rule) => rule.look(fleet, id, now));
}

/** Findings of the whole fleet, gravest first. */
export function allFindings(fleet: Fleet, now: string): Finding[] {
  const found: Finding[] = [];
  for (const kind of RULED_KINDS) for (const row of fleet.all(kind)) found.push(...findingsAt(fleet, kind, row.id, now));
  return found.sort(bySeverity);
}

/** Findings of those of the given records that a rule looks at. */
export function allFindingsAt(fleet: Fleet, ids: Iterable<string>, now: string): Finding[] {
  const found: Finding[] = [];
  for (const id of ids) for (const kind of RULED_KINDS) if (fleet.get(kind, id)) found.push(...findingsAt(fleet, kind, id, now));
  return found.sort(bySeverity);
}
