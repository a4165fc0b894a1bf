import { practice } from '../figure/index.js';
import { managementPlace } from '../host/index.js';
import type { Fleet } from '../record/index.js';
import { hostRule } from './host-finding.js';

/** Every name server that a host asks is a guest of that very host. */
export const nameServerOnOwnHost = hostRule('name-server-on-own-host', (fleet, host) => {
  const servers = managementPlace(fleet, host.id)?.nameServers ?? [];
  const here = servers.map((ip) => guestWith(fleet, ip, host.id));
  if (servers.length === 0 || here.some((guest) => guest === undefined)) return [];
  return [
    {
      severity: 'caution' as const,
      evidence: `${host.name} asks ${servers.join(' and ')} for names, and ${here.join(' and ')} ${here.length === 1 ? 'is a guest' : 'are guests'} of ${host.name} itself.`,
      consequence:
        'After a power cut the host has no names until its own guests run: what it mounts or joins by name fails.',
      remedy: 'Give the host a second name server that runs elsewhere.',
      source: practice('No service may need what it itself carries'),
    },
  ];
});

function guestWith(fleet: Fleet, ip: string, hostId: string): string | undefined {
  for (const domain of fleet.all('routingDomain')) {
    for (const address of fleet.withIp(domain.id, ip)) {
      const guest = fleet.get('guest', fleet.get('adapter', address.adapterId)?.guestId);
      if (guest?.hostId === hostId && guest.state !== 'retired') return guest.name;
    }
  }
  return undefined;
}
