/** What a guest calls its adapters: by its family, and for Linux by the pattern of its platform. */
import type { Fleet, Row } from '../record/index.js';
import { platformOf } from '../host/index.js';

/**
 * Common practice, no source. Linux: the platform's pattern, {n} counted on from its first number. NT family: numbered
 * names. BSD: the driver's short name with a number from 0, known only by its kind.
 *
 * @param place of the adapter among those of the guest, from 0
 * @returns empty where nobody can say
 */
export function interfaceName(
  family: Row<'guest'>['family'],
  platform: Pick<Row<'platform'>, 'interfacePattern' | 'interfaceFirst'>,
  place: number,
): string {
  if (family === 'Linux' || family === 'appliance')
    return platform.interfacePattern.replaceAll('{n}', String(platform.interfaceFirst + place));
  if (family === 'NT family') return place === 0 ? 'Ethernet' : `Ethernet ${place + 1}`;
  return '';
}

/** The MAC that its frames carry: of a sub-interface that of its trunk. */
export const macOfAdapter = (fleet: Fleet, adapter: Row<'adapter'>): string | null =>
  (fleet.get('adapter', adapter.trunkId) ?? adapter).mac;

/** What is noted for the adapter, or else what is to be expected; of a sub-interface that of its trunk, a dot and its VLAN. */
export function adapterName(
  fleet: Fleet,
  guest: Row<'guest'>,
  adapter: Row<'adapter'>,
): { name: string; expected: boolean } {
  if (adapter.nameInside) return { name: adapter.nameInside, expected: false };
  const trunk = fleet.get('adapter', adapter.trunkId);
  if (trunk) {
    const { name } = adapterName(fleet, guest, trunk);
    const vlan = fleet.get('network', adapter.networkId)?.vlanId;
    return { name: name && vlan ? `${name}.${vlan}` : '', expected: true };
  }
  const place = fleet
    .referring('adapter', 'guestId', guest.id)
    .filter((other) => other.trunkId === null && other.position < adapter.position).length;
  return {
    name: interfaceName(guest.family, platformOf(fleet, guest.hostId), place),
    expected: true,
  };
}
