/** The hypervisor's own place in the network: its addresses, the subnet they lie in, the ports that carry it. */
import { addressOf, contains, prefixOf } from '../address/index.js';
import type { Fleet, Row } from '../record/index.js';

/** Addresses by which the hypervisor itself is reached; the out-of-band controller's is another, and so are those it has inside for its guests. */
export function managementAddresses(fleet: Fleet, hostId: string): Row<'address'>[] {
  return fleet
    .referring('address', 'hostId', hostId)
    .filter((row) => row.purpose !== OUT_OF_BAND && !insideOnly(fleet, row.virtualSwitchId));
}

const insideOnly = (fleet: Fleet, switchId: string | null): boolean => {
  const found = fleet.get('virtualSwitch', switchId);
  return found !== undefined && found.mode !== 'bridged';
};

export const OUT_OF_BAND = 'out-of-band';

export function outOfBandAddress(fleet: Fleet, hostId: string): Row<'address'> | undefined {
  return fleet.referring('address', 'hostId', hostId).find((row) => row.purpose === OUT_OF_BAND);
}

export const managementPorts = (fleet: Fleet, hostId: string): Row<'port'>[] =>
  fleet.referring('port', 'hostId', hostId).filter((port) => port.management);

export interface ManagementPlace {
  ip: string;
  prefix: string | null;
  network: Row<'network'> | null;
  vlanId: number | null;
  gateway: string | null;
  nameServers: readonly string[];
}

/** What is configured on the host where that was looked at, otherwise what its subnet says. */
export function managementPlace(fleet: Fleet, hostId: string): ManagementPlace | null {
  const [first] = managementAddresses(fleet, hostId);
  if (!first) return null;
  const host = fleet.need('host', hostId);
  const subnet = fleet.get('subnet', first.subnetId);
  const network = subnet ? fleet.need('network', subnet.networkId) : null;
  return {
    ip: first.ip,
    prefix: subnet?.prefix ?? null,
    network,
    vlanId: network?.vlanId ?? null,
    gateway: host.gateway ?? subnet?.gateway ?? null,
    nameServers: host.nameServers.length ? host.nameServers : (subnet?.nameServers ?? []),
  };
}

/** Whether an address lies in any recorded subnet. */
export function inKnownSubnet(fleet: Fleet, ip: string): boolean {
  const address = addressOf(ip);
  for (const subnet of fleet.all('subnet'))
    if (contains(prefixOf(subnet.prefix), address)) return true;
  return false;
}

export const fullName = (host: Pick<Row<'host'>, 'name' | 'domain'>): string =>
  host.domain ? `${host.name}.${host.domain}` : host.name;

/** Most recent verification of a host, and whether it counts: every test passed, and nothing of its network altered since. */
export function lastVerification(
  fleet: Fleet,
  hostId: string,
): { verification: Row<'verification'>; tests: Row<'verificationTest'>[]; counts: boolean } | null {
  const [latest] = fleet
    .referring('verification', 'hostId', hostId)
    .sort((a, b) => b.at.localeCompare(a.at));
  if (!latest) return null;
  const tests = fleet.referring('verificationTest', 'verificationId', latest.id);
  const { networkChangedAt } = fleet.need('host', hostId);
  return {
    verification: latest,
    tests,
    counts:
      tests.length > 0 &&
      tests.every((test) => test.passed) &&
      (networkChangedAt === null || latest.at >= networkChangedAt),
  };
}

/** Tests of a host after it was built or its network altered. */
export const HOST_TESTS = [
  'gateway answers',
  'name server answers',
  'own name, forward',
  'own name, reverse',
  'console port answers',
  'outside is reached',
] as const;
export const NAME_TESTS: readonly string[] = ['own name, forward', 'own name, reverse'];
