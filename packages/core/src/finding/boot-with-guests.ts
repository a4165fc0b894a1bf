import { practice } from '../figure/index.js';
import { hostRule } from './host-finding.js';

/** The hypervisor and the guests share one disk or array. */
export const bootWithGuests = hostRule('boot-with-guests', (fleet, host) => {
  const shared = [
    ...fleet
      .referring('array', 'hostId', host.id)
      .filter((array) => array.purpose === 'boot and guests')
      .map((array) => `array ${array.name}`),
    ...fleet
      .referring('disk', 'hostId', host.id)
      .filter((disk) => disk.purpose === 'boot and guests' && !disk.arrayId)
      .map((disk) => `disk ${disk.bay}`),
  ];
  return shared.map((what) => ({
    at: what,
    severity: 'note' as const,
    evidence: `${host.name} boots from ${what}, which holds guests as well.`,
    consequence:
      'Installing the hypervisor anew touches the guests’ disks, and a full pool stops the hypervisor.',
    remedy: 'Put the hypervisor on a small mirrored pair of its own when the host is next emptied.',
    source: practice('A small mirrored pair for the hypervisor, a larger array for guests'),
  }));
});
