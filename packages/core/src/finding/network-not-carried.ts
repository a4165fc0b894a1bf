import { own } from '../figure/index.js';
import { carriesNetwork } from '../host/index.js';
import type { Rule } from './finding.js';

/** A guest's adapter is on a network that its host does not carry. */
export const networkNotCarried: Rule<'guest'> = {
  name: 'network-not-carried',
  kind: 'guest',
  look: (fleet, id) => {
    const guest = fleet.need('guest', id);
    if (guest.state === 'retired') return [];
    return fleet.referring('adapter', 'guestId', id).flatMap((adapter) => {
      if (!adapter.networkId || carriesNetwork(fleet, guest.hostId, adapter.networkId)) return [];
      const [host, network] = [
        fleet.need('host', guest.hostId).name,
        fleet.need('network', adapter.networkId).name,
      ];
      return [
        {
          id: `network-not-carried|${id}|${adapter.id}`,
          rule: 'network-not-carried',
          severity: 'blocker' as const,
          about: { kind: 'guest' as const, id, name: guest.name },
          evidence: `${guest.name} has an adapter on ${network}, which ${host} does not carry.`,
          consequence: 'The guest has no connection there.',
          remedy: `Record ${network} on ${host}, or put the adapter on another network.`,
          source: own('A network reaches a guest through a virtual switch of its host'),
          mend: { label: `Open ${host}`, kind: 'open' as const, id: guest.hostId },
        },
      ];
    });
  },
};
