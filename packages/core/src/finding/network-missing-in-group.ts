import { practice } from '../figure/index.js';
import { carryNetwork, carries, carriesNetwork } from '../host/index.js';
import { hostRule } from './host-finding.js';
import { mendBy } from './mend.js';

/** A host does not carry a network on which guests of its group run: they cannot come to it. */
export const networkMissingInGroup = hostRule('network-missing-in-group', (fleet, host) => {
  if (!host.groupId || !carries(host)) return [];
  const mates = fleet
    .referring('host', 'groupId', host.groupId)
    .filter((mate) => mate.id !== host.id && carries(mate));
  const wanted = new Map<string, Set<string>>();
  for (const mate of mates) {
    for (const guest of fleet.referring('guest', 'hostId', mate.id)) {
      if (guest.state === 'retired') continue;
      for (const adapter of fleet.referring('adapter', 'guestId', guest.id)) {
        if (
          !adapter.networkId ||
          carriesNetwork(fleet, host.id, adapter.networkId) ||
          insideOnly(fleet, adapter.networkId)
        )
          continue;
        wanted.set(adapter.networkId, (wanted.get(adapter.networkId) ?? new Set()).add(guest.name));
      }
    }
  }
  return [...wanted].map(([networkId, guests]) => {
    const { name } = fleet.need('network', networkId);
    return {
      at: networkId,
      severity: 'caution' as const,
      evidence: `${host.name} does not carry ${name}, on which ${guests.size} ${guests.size === 1 ? 'guest' : 'guests'} of its group run (${[...guests].slice(0, 3).join(', ')}${guests.size > 3 ? ' …' : ''}).`,
      consequence: `They can neither move to ${host.name} nor restart there.`,
      remedy: `Let ${host.name} carry ${name}.`,
      source: practice('Hosts of a group carry the same networks'),
      mend: mendBy(fleet, `Carry ${name} on ${host.name}`, carryNetwork, {
        hostId: host.id,
        networkId,
        mode: 'bridged',
      }),
    };
  });
});

/** A network inside one host goes nowhere else. */
const insideOnly = (fleet: Parameters<typeof carriesNetwork>[0], networkId: string): boolean =>
  fleet
    .referring('virtualSwitch', 'networkId', networkId)
    .every((found) => found.mode !== 'bridged');
