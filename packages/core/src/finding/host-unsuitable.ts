import { own } from '../figure/index.js';
import { suitability } from '../host/index.js';
import { hostRule } from './host-finding.js';

/** A machine does not meet what its platform asks. */
export const hostUnsuitable = hostRule('host-unsuitable', (fleet, host) =>
  suitability(fleet, host.id)
    .filter((point) => point.passes === false)
    .map(({ point, sentence, remedy }) => ({
      at: point,
      severity:
        host.state === 'planned' || host.state === 'building'
          ? ('blocker' as const)
          : ('caution' as const),
      evidence: `${host.name}: ${sentence}`,
      consequence: 'The platform does not install, or does not run guests there.',
      remedy: remedy ?? 'Choose another platform or another machine.',
      source: own('Properties of the platform, as recorded'),
    })),
);
