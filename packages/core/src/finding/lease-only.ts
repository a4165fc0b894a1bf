import { practice } from '../figure/index.js';
import { managementAddresses } from '../host/index.js';
import { hostRule } from './host-finding.js';

/** A hypervisor is reached by a leased address only. */
export const leaseOnly = hostRule('lease-only', (fleet, host) => {
  const addresses = managementAddresses(fleet, host.id);
  if (addresses.length === 0 || addresses.some((address) => address.use !== 'lease')) return [];
  return [
    {
      severity: 'caution' as const,
      evidence: `${host.name} has only a leased address, ${addresses[0]!.ip}.`,
      consequence:
        'After a power cut it may come up under another address, before the server that would give it one.',
      remedy: 'Type a static address at the console, or make it a reservation.',
      source: practice('Management by a static address or a reservation'),
    },
  ];
});
