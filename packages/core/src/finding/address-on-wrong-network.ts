import { standard } from '../figure/index.js';
import { editAdapter, swapAdapters } from '../guest/index.js';
import { mendBy } from './mend.js';
import { ruleAt } from './rule-at.js';

/** A guest's adapter is on one network and carries an address of another one: two adapters changed over, or one moved. */
export const addressOnWrongNetwork = ruleAt(
  'adapter',
  'address-on-wrong-network',
  (fleet, adapter) => {
    const guest = fleet.need('guest', adapter.guestId);
    if (!adapter.networkId || guest.state === 'retired') return [];
    return fleet.referring('address', 'adapterId', adapter.id).flatMap((address) => {
      const subnet = fleet.get('subnet', address.subnetId);
      if (!subnet || subnet.networkId === adapter.networkId) return [];
      const [home, here] = [
        fleet.need('network', subnet.networkId),
        fleet.need('network', adapter.networkId!),
      ];
      const swap = fleet
        .referring('adapter', 'guestId', guest.id)
        .find((other) => other.id !== adapter.id && other.networkId === home.id);
      return [
        {
          at: address.id,
          severity: 'blocker' as const,
          about: { kind: 'guest' as const, id: guest.id, name: guest.name },
          evidence: `${guest.name} carries ${address.ip} of ${home.name} on adapter ${adapter.position + 1}, which is on ${here.name}.`,
          consequence:
            'It looks healthy from inside: addresses are there, links are up, and nothing passes.',
          remedy: swap
            ? 'Its two adapters are probably changed over.'
            : `Put the adapter on ${home.name}, or give it an address of ${here.name}.`,
          source: standard(
            'An address is valid on the link of its subnet: RFC 1122, section 3.3.1.1',
          ),
          mend: swap
            ? mendBy(
                fleet,
                `Change adapters ${adapter.position + 1} and ${swap.position + 1} over`,
                swapAdapters,
                { aId: adapter.id, bId: swap.id },
              )
            : mendBy(fleet, `Put it on ${home.name}`, editAdapter, {
                id: adapter.id,
                networkId: home.id,
              }),
        },
      ];
    });
  },
);
