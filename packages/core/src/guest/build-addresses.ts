/** Addresses of a guest that is built: how they are typed, and where they come from. */
import { addressOf, contains, prefixOf } from '../address/index.js';
import type { Row } from '../record/index.js';
import type { Building, BuildStep } from './build-step.js';
import { adapterName } from '../names/index.js';

export function addressSteps(at: Building): BuildStep[] {
  const { fleet, guest, adapters } = at;
  const place = placeOf(at);
  const steps = adapters.map((adapter, i): BuildStep => {
    const { name, expected } = adapterName(fleet, guest, adapter);
    const addresses = fleet.referring('address', 'adapterId', adapter.id).map((address) => {
      const subnet = fleet.get('subnet', address.subnetId);
      const length = address.prefixLength ?? (subnet ? prefixOf(subnet.prefix).length : null);
      return `${address.ip}${length === null ? '' : `/${length}`}${address.use === 'static' ? '' : ` (${address.use})`}`;
    });
    return {
      key: `address ${i + 1}`,
      text: `Adapter ${i + 1}${name ? `, ${expected ? 'expected as' : 'known as'} ${name}` : ''}: address and prefix`,
      value: addresses.join(', ') || null,
      caution:
        guest.forwards && adapter.id !== place.adapter?.id
          ? 'An inside: no gateway here, or its answers leave by the wrong side.'
          : undefined,
    };
  });
  if (adapters.length === 0) return steps;
  steps.push({
    key: 'gateway',
    text: guest.forwards ? 'Gateway, on the outside only' : 'Gateway',
    value: guest.noGateway ? 'none, on purpose' : place.gateway,
  });
  steps.push({
    key: 'name servers',
    text: 'Name servers',
    value: place.nameServers.join(', ') || (guest.noGateway ? 'none' : null),
  });
  return steps;
}

/**
 * Gateway and name servers: on the adapter on whose subnet the noted gateway lies, or else by the first address whose subnet
 * names one that is not the guest itself.
 */
export function placeOf({
  fleet,
  guest,
  adapters,
}: Pick<Building, 'fleet' | 'guest' | 'adapters'>): {
  gateway: string | null;
  nameServers: readonly string[];
  adapter: Row<'adapter'> | undefined;
} {
  const own = new Set<string>();
  const places = adapters.flatMap((adapter) =>
    fleet.referring('address', 'adapterId', adapter.id).flatMap((address) => {
      own.add(address.ip);
      const subnet = fleet.get('subnet', address.subnetId);
      return subnet ? [{ adapter, subnet }] : [];
    }),
  );
  const noted = guest.gateway === null ? undefined : addressOf(guest.gateway);
  const place =
    places.find(({ subnet }) => noted && contains(prefixOf(subnet.prefix), noted)) ??
    places.find(({ subnet }) => subnet.gateway && !own.has(subnet.gateway));
  return {
    gateway: guest.gateway ?? place?.subnet.gateway ?? null,
    nameServers: place?.subnet.nameServers ?? [],
    adapter: place?.adapter,
  };
}
