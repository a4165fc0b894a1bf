import { addressOf, addressOfReverse, specialUse } from '../address/index.js';
import { own, standard } from '../figure/index.js';
import { hostNameComplaint, machineName, type MachineName } from '../names/index.js';
import type { Fleet, NamedKind, Row } from '../record/index.js';
import type { Rule } from './finding.js';
import { ruleAt, type RuleFinding } from './rule-at.js';

interface NameIndex {
  /** Names that a file gives to an address, forward and reverse. */
  forward: Map<string, Row<'nameRecord'>[]>;
  reverse: Map<string, Row<'nameRecord'>[]>;
  /** Domains that some file of names says something about. */
  domains: Set<string>;
  /** Networks whose reverse names some file holds, by the zone part of the name. */
  anyReverse: boolean;
}

/** One look at all files of names for each state of the record. */
function namesOf(fleet: Fleet): NameIndex {
  return fleet.whole('names', () => {
    const index: NameIndex = {
      forward: new Map(),
      reverse: new Map(),
      domains: new Set(),
      anyReverse: false,
    };
    for (const row of fleet.all('nameRecord')) {
      const key = row.type === 'PTR' ? addressOfReverse(row.owner) : row.owner;
      if (!key) continue;
      const map = row.type === 'PTR' ? index.reverse : index.forward;
      map.set(key, [...(map.get(key) ?? []), row]);
      if (row.type === 'PTR') index.anyReverse = true;
      else index.domains.add(row.owner.split('.').slice(1).join('.'));
    }
    return index;
  });
}

/** Endings that never meet the public tree, or are for examples. */
const INSIDE_ENDINGS = /(^|\.)(test|example|invalid|localhost|internal|home\.arpa)$/;

const look =
  (kind: NamedKind) =>
  (fleet: Fleet, row: { id: string }): RuleFinding[] => {
    const machine = machineName(fleet, kind, row.id);
    if (!machine) return [];
    return [
      ...illegal(machine),
      ...domainFaults(fleet, machine),
      ...(fleet.count('nameRecord') > 0 ? lookUps(namesOf(fleet), machine) : []),
    ];
  };

/** What is wrong with the names of a machine: illegal, in an unfortunate domain, missing or different in the files of names. */
export const hostNames: Rule<'host'> = ruleAt('host', 'names', look('host'));
export const guestNames: Rule<'guest'> = ruleAt('guest', 'names', look('guest'));
export const deviceNames: Rule<'device'> = ruleAt('device', 'names', look('device'));

function illegal(machine: MachineName): RuleFinding[] {
  const complaint = hostNameComplaint(machine.full);
  if (!complaint) return [];
  return [
    {
      rule: 'illegal-name',
      severity: 'caution',
      evidence: `${machine.full} is no name for a machine: ${complaint}`,
      consequence: 'Zones refuse it, certificates and mail do not match it.',
      remedy: 'Rename it with letters, digits and hyphens.',
      source: standard('Names of machines: RFC 1123, section 2.1'),
    },
  ];
}

function domainFaults(fleet: Fleet, machine: MachineName): RuleFinding[] {
  const found: RuleFinding[] = [];
  const { domain } = machine;
  const own = ownDomain(fleet, machine);
  const said = machine.addresses
    .map((address) => fleet.get('subnet', address.subnetId)?.domain)
    .find(Boolean);
  if (own && said && own !== said) {
    found.push({
      rule: 'search-domain-differs',
      severity: 'note',
      evidence: `${machine.name} is in ${own}, its subnet looks names up in ${said}.`,
      consequence: 'Its short name is not found by its neighbours, and it does not find theirs.',
      remedy: 'Say the same domain at both, or use full names.',
      source: standard('Search lists: RFC 1535, section 6'),
    });
  }
  if (!domain || INSIDE_ENDINGS.test(domain)) return found;
  const privateOnly = machine.addresses.every(({ ip }) =>
    ['private', 'shared', 'unique local'].includes(specialUse(addressOf(ip))?.use ?? ''),
  );
  const labels = domain.split('.').length;
  if (domain === 'local' || domain.endsWith('.local')) {
    found.push({
      rule: 'inside-domain',
      severity: 'caution',
      evidence: `${machine.full} ends in .local.`,
      consequence:
        'That ending belongs to multicast names: many systems never ask a server for it.',
      remedy: 'Use a part of a domain of your own, or home.arpa or internal.',
      source: standard('.local: RFC 6762, section 3'),
    });
  } else if (labels === 1) {
    found.push({
      rule: 'inside-domain',
      severity: 'note',
      evidence: `${machine.full} lies in the made-up ending "${domain}".`,
      consequence:
        'Endings like it have been given to others before: then your names lead to strangers.',
      remedy: 'Use a part of a domain of your own, or home.arpa or internal.',
      source: standard('Endings set aside: RFC 6761, RFC 8375'),
    });
  } else if (labels === 2 && privateOnly) {
    found.push({
      rule: 'inside-domain',
      severity: 'note',
      evidence: `${machine.full} has inside addresses only and stands right in the public domain ${domain}.`,
      consequence: 'The domain has to be kept twice, inside and outside, and the two drift apart.',
      remedy: `Put inside machines into a part of it, such as inside.${domain}.`,
      source: ownSource,
    });
  }
  return found;
}

const ownSource = own('Inside names lie in a part of the domain of their own');

function ownDomain(fleet: Fleet, { kind, id }: { kind: NamedKind; id: string }): string {
  return fleet.need(kind, id).domain.trim().toLowerCase().replace(/\.$/, '');
}

function lookUps(index: NameIndex, machine: MachineName): RuleFinding[] {
  if (!machine.domain || !index.domains.has(machine.domain)) return [];
  const found: RuleFinding[] = [];
  const source = standard('Forward and reverse names agree: RFC 1912, section 2.1');
  const mine = machine.addresses.map(({ ip }) => ip);
  const forward = index.forward.get(machine.full) ?? [];
  const wrong = forward.filter((row) => row.type !== 'CNAME' && !mine.includes(row.data));
  if (forward.length === 0) {
    found.push({
      rule: 'name-missing',
      severity: 'note',
      evidence: `No file of names knows ${machine.full}.`,
      consequence: 'It is reached by its address only.',
      remedy: 'Add it to the zone; the record writes the line.',
      source,
    });
  } else if (wrong.length > 0) {
    const files = [...new Set(wrong.map((row) => row.source))].join(', ');
    found.push({
      rule: 'name-differs',
      severity: 'caution',
      evidence: `${machine.full} leads to ${wrong.map((row) => row.data).join(', ')} (${files}), the record says ${mine.join(', ')}.`,
      consequence: 'Who asks for it by name meets nobody, or another machine.',
      remedy: 'Correct the zone, or the record if the zone is right.',
      source,
    });
  }
  for (const ip of mine) {
    const names = [...new Set((index.reverse.get(ip) ?? []).map((row) => row.data))];
    if (names.length > 1)
      found.push({
        rule: 'two-names-for-one-address',
        at: ip,
        severity: 'note',
        evidence: `${ip} leads back to ${names.join(' and ')}.`,
        consequence: 'Programs take one of them, and not always the same.',
        remedy: 'Keep one pointer for an address.',
        source,
      });
    else if (names.length === 1 && names[0] !== machine.full)
      found.push({
        rule: 'reverse-differs',
        at: ip,
        severity: 'caution',
        evidence: `${ip} leads back to ${names[0]}, it is ${machine.full}.`,
        consequence:
          'A controller that joins it by name fails, often without saying why; logs name the wrong machine.',
        remedy: 'Correct the pointer.',
        source,
      });
    else if (names.length === 0 && index.anyReverse)
      found.push({
        rule: 'reverse-missing',
        at: ip,
        severity: 'note',
        evidence: `No file of names leads back from ${ip} to ${machine.full}.`,
        consequence: 'Programs that check both ways refuse it or wait.',
        remedy: 'Add the pointer.',
        source,
      });
  }
  return found;
}
