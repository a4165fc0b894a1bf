import { practice, printValue } from '../figure/index.js';
import { capacity, carries, load } from '../host/index.js';
import type { Rule } from './finding.js';

/** Guests lie in what the policy keeps free on a host. */
export const reserveUsed: Rule<'host'> = {
  name: 'reserve-used',
  kind: 'host',
  look: (fleet, id) => {
    const host = fleet.need('host', id);
    if (!carries(host)) return [];
    const [has, used] = [capacity(fleet, id), load(fleet, id)];
    const over = [
      { taken: used.memoryMiB, total: has.memory, reserve: has.reserve.memory, of: 'memory' },
      { taken: used.vcpu, total: has.vcpu, reserve: has.reserve.vcpu, of: 'processors' },
    ].filter(
      ({ taken, total, reserve }) => taken > total.value - reserve.value && taken <= total.value,
    );
    return over.map(({ taken, total, reserve, of }) => ({
      id: `reserve-used|${of}|${id}`,
      rule: 'reserve-used',
      severity: 'note',
      about: { kind: 'host', id, name: host.name },
      evidence: `${host.name} has ${printValue(taken - total.value + reserve.value, total.unit, 'up')} of its reserve of ${of} in use.`,
      consequence: 'When another host fails, that much fewer guests find room here.',
      remedy: 'Migrate a guest away, or lower the reserve of the group with a reason.',
      source: practice('A reserve for a failed host'),
      mend: { label: `Open ${host.name}`, kind: 'open', id },
    }));
  },
};
