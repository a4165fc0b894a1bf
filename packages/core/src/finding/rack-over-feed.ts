import { own } from '../figure/index.js';
import type { Rule } from './finding.js';

/** The hosts of a rack draw more than its feeds are planned for. */
export const rackOverFeed: Rule<'rack'> = {
  name: 'rack-over-feed',
  kind: 'rack',
  look: (fleet, id) => {
    const rack = fleet.need('rack', id);
    if (rack.feedWatts === null) return [];
    const hosts = fleet.referring('host', 'rackId', id).filter((host) => host.state !== 'retired');
    const draw = hosts.reduce((sum, host) => sum + (host.drawWatts ?? 0), 0);
    const unknown = hosts.filter((host) => host.drawWatts === null).length;
    if (draw <= rack.feedWatts) return [];
    return [
      {
        id: `rack-over-feed|${id}`,
        rule: 'rack-over-feed',
        severity: 'caution',
        about: { kind: 'rack', id, name: rack.name },
        evidence: `The hosts of ${rack.name} draw ${draw} W${unknown ? ` (${unknown} unknown)` : ''}; its feeds are planned for ${rack.feedWatts} W.`,
        consequence: 'A breaker trips when all of them are busy, or when one feed carries both.',
        remedy: 'Move a host to another rack; an electrician decides what the circuit carries.',
        source: own(
          'Planned draw against the limit recorded for the rack; local electrical codes decide',
        ),
        mend: { label: 'Open a host of the rack', kind: 'open', id: hosts[0]!.id },
      },
    ];
  },
};
