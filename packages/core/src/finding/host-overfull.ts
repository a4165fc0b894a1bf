import { practice, printValue } from '../figure/index.js';
import { capacity, carries, load } from '../host/index.js';
import type { Finding, Rule } from './finding.js';

/** A host is promised more memory or processors than it has for guests. */
export const hostOverfull: Rule<'host'> = {
  name: 'host-overfull',
  kind: 'host',
  look: (fleet, id) => {
    const host = fleet.need('host', id);
    if (!carries(host)) return [];
    const [has, used] = [capacity(fleet, id), load(fleet, id)];
    const short = { memory: used.memoryMiB - has.memory.value, vcpu: used.vcpu - has.vcpu.value };
    const about = { kind: 'host' as const, id, name: host.name };
    const mend = { label: `Open ${host.name}`, kind: 'open' as const, id };
    const found: Finding[] = [];
    if (short.memory > 0) {
      found.push({
        id: `host-overfull|memory|${id}`,
        rule: 'host-overfull',
        severity: 'blocker',
        about,
        evidence: `${host.name} is short of ${printValue(short.memory, 'MiB', 'up')} of memory for its guests.`,
        consequence:
          'When all guests use what they were given, the host swaps or ends some of them.',
        remedy: 'Migrate a guest away, give one less memory, or add modules.',
        source: practice('Memory is not promised twice'),
        mend,
      });
    }
    if (short.vcpu > 0) {
      found.push({
        id: `host-overfull|processors|${id}`,
        rule: 'host-overfull',
        severity: 'caution',
        about,
        evidence: `${host.name} has ${short.vcpu} vCPU more on it than the policy allows.`,
        consequence: 'Guests wait for a processor when several are busy.',
        remedy: 'Migrate a guest away, or alter the policy with a reason.',
        source: practice('4 vCPU per core for general servers'),
        mend,
      });
    }
    return found;
  },
};
