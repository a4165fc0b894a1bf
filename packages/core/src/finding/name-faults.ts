import { addressOf, addressOfReverse, specialUse } from '../address/index.js';
import { own, standard } from '../figure/index.js';
import { hostNameComplaint, machineName, type MachineName } from '../names/index.js';
import type { Fleet, NamedKind, Row } from '../record/index.js';
import type { Rule } from './finding.js';
import { ruleAt, type Told } from './told.js';

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
    const index: NameIndex = { forward: new Map(), reverse: new Map(), domains: new Set(), anyReverse: false };
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
  (fleet: Fleet, row: { id: string }): Told[] => {
    const machine = machineName(fleet, kind, row.id);
    if (!machine) return [];
    return [...illegal(machine), ...domainFaults(fleet, machine), ...(fleet.count('nameRecord') > 0 ? lookUps(namesOf(fleet), machine) : [])];
  };

/** What is wrong with the names of a machine: illegal, in an unfortunate domain, missing or different in the files of names. */
export const hostNames: Rule<'host'> = ruleAt('host', 'names', look('host'));
export const guestNames: Rule<'guest'> = ruleAt('guest', 'names', look('guest'));
export const deviceNames: Rule<'device'> = ruleAt('device', 'names', look('device'));

function illegal(machine: MachineName): Told[] {
  const complaint = hostNameComplaint(machine.full);
  if (!complaint) return [];
  return [{ at: 'illegal', severity: 'caution', evidence: `${machine.full} is no name for a machine: ${complaint}`, consequence: 'Zones refuse it, certificates and mail do not match it.', remedy: 'Rename it with letters, digits and hyphens.', source: standard('Names of machines: RFC 1123, section 2.1') }];
}

function domainFaults(fleet: Fleet, machine: MachineName): Told[] {
  const found: Told[] = [];
  const { domain } = machine;
  const own = ownDomain(fleet, machine);
  const said = machine.addresses.map((address) => fleet.get('subnet', address.subnetId)?.domain).find(Boolean);
  if (own && said && own !== said) {
    found.push({ at: 'domain differs', severity: 'note', evidence: `${machine.name} is in ${own}, its subnet looks names up in ${said}.`, consequence: 'Its short name is not found by its neighbours, and it does not find theirs.', remedy: 'Say the same domain at both, or use full names.', source: standard('Search lists: RFC 1535, section 6') });
  }
  if (!domain || INSIDE_ENDINGS.test(domain)) return found;
  const privateOnly = machine.addresses.every(({ ip }) => ['private', 'shared', 'unique local'].includes(specialUse(addressOf(ip))?.use ?? ''));
  const labels = domain.split('.').length;
  if (domain === 'local' || domain.endsWith('.local')) {
    found.push({ at: 'local', severity: 'caution', evidence: `${machine.full} ends in .local.`, consequence: 'That ending belongs to multicast names: many systems never ask a server for it.', remedy: 'Use a part of a domain of your own, or home.arpa or internal.', source: standard('.local: RFC 6762, section 3') });
  } else if (labels === 1) {
    found.push({ at: 'single label', severity: 'note', evidence: `${machine.full} lies in the made-up ending "${domain}".`, consequence: 'Endings like it have been given to others before: then your names lead to strangers.', remedy: 'Use a part of a domain of your own, or home.arpa or internal.', source: standard('Endings set aside: RFC 6761, RFC 8375') });
  } else if (labels === 2 && privateOnly) {
    found.push({ at: 'bare domain', severity: 'note', evidence: `${machine.full} has inside addresses only and stands right in the public domain ${domain}.`, consequence: 'The domain has to be kept twice, inside and outside, and the two drift apart.', remedy: `Put inside machines into a part of it, such as inside.${domain}.`, source: ownSource });
  }
  return found;
}

const ownSource = own('Inside names lie in a part of the domain of their own');

function ownDomain(fleet: Fleet, { kind, id }: { kind: NamedKind; id: string }): string {
  return fleet.need(kind, id).domain.trim().toLowerCase().replace(/\.$/, '');
}

function lookUps(index: NameIndex, machine: MachineName): Told[] {
  const found: Told[] = [];
  const files = (rows: readonly Row<'nameRecord'>[]) => [...new Set(rows.map((row) => row.source))].join(', ');
  const forward = (index.forward.get(machine.full) ?? []).filter((row) => row.type !== 'CNAME');
  const source = standard('Forward and reverse names agree: RFC 1912, section 2.1');
  for (const { ip } of machine.addresses) {
    if (machine.domain && index.domains.has(machine.domain) && !forward.some((row) => row.data === ip)) {
      const said = forward.map((row) => row.data).filter((data) => data.includes(':') === ip.includes(':'));
      found.push({
        at: `forward ${ip}`,
        severity: 'caution',
        evidence: said.length ? `${machine.full} leads to ${said.join(', ')} (${files(forward)}), the record says ${ip}.` : `No file of names leads from ${machine.full} to ${ip}.`,
        consequence: 'Who asks for it by name meets nobody, or another machine.',
        remedy: 'Correct the zone, or the record if the zone is right.',
        source,
      });
    }
    const pointers = index.reverse.get(ip) ?? [];
    const names = new Set(pointers.map((row) => row.data));
    if (names.size > 1) found.push({ at: `twice ${ip}`, severity: 'note', evidence: `${ip} leads back to ${[...names].join(' and ')}.`, consequence: 'Programs take one of them, and not always the same.', remedy: 'Keep one pointer for an address.', source });
    else if (names.size === 1 && machine.domain && !names.has(machine.full)) found.push({ at: `reverse ${ip}`, severity: 'caution', evidence: `${ip} leads back to ${[...names][0]}, it is ${machine.full}.`, consequence: 'A controller that joins it by name fails, often without saying why; logs name the wrong machine.', remedy: 'Correct the pointer.', source });
    else if (names.size === 0 && index.anyReverse && machine.domain && index.domains.has(machine.domain)) found.push({ at: `reverse ${ip}`, severity: 'note', evidence: `No file of names leads back from ${ip} to ${machine.full}.`, consequence: 'Programs that check both ways refuse it or wait.', remedy: 'Add the pointer.', source });
  }
  return found;
}
