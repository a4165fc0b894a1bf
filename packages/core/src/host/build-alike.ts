/** The next hosts like this one: name and addresses go on, everything else that is not the machine's own stays. */
import { firstSubnet, nextFree } from '../network/index.js';
import type { Fleet, Row } from '../record/index.js';
import { managementAddresses } from './management.js';
import type { HardwareInput, HostInput } from './host-input.js';

/**
 * The name after this one: its last number plus one, leading zeros kept; without a number, "-2".
 * @example nextName('rock-09', () => false) // 'rock-10'
 */
export function nextName(name: string, taken: (name: string) => boolean): string {
  const match = /^(.*?)(\d+)(\D*)$/.exec(name);
  const [stem, digits, tail] = match ? [match[1]!, match[2]!, match[3]!] : [`${name}-`, '1', ''];
  for (let n = Number(digits) + 1; ; n += 1) {
    const next = `${stem}${String(n).padStart(digits.length, '0')}${tail}`;
    if (!taken(next)) return next;
  }
}

/** Of the machine itself, or found on it: not carried over. */
const ITS_OWN: ReadonlySet<string> = new Set([
  'id',
  'revision',
  'name',
  'nameAssigned',
  'state',
  'serial',
  'rackUnit',
  'certificateSha256',
  'certificateUntil',
  'nextMaintenanceOn',
  'networkChangedAt',
  'confirmedAt',
  'confirmedBy',
  'outerGuestId',
  'visibleMiB',
  'notes',
]);

export interface Alike {
  input: HostInput;
  /** Address it would take, for the preview; null where the network has none left. */
  ip: string | null;
}

export function alike(fleet: Fleet, hostId: string, n: number): Alike[] {
  const host = fleet.need('host', hostId);
  const names = new Set<string>();
  const [address] = managementAddresses(fleet, hostId);
  const network = fleet.get('network', fleet.get('subnet', address?.subnetId)?.networkId);
  const subnet = network && firstSubnet(fleet, network.id);
  const ips = subnet ? nextFree(fleet, subnet.id, { n }) : [];
  const units = freeUnits(fleet, host);
  let name = host.name;
  return Array.from({ length: n }, (_, i) => {
    name = nextName(name, (found) => names.has(found) || fleet.named(found).length > 0);
    names.add(name);
    const fields = Object.fromEntries(
      Object.entries(host).filter(([field]) => !ITS_OWN.has(field)),
    ) as Omit<Row<'host'>, 'name' | 'state'>;
    const ip = ips[i] ?? null;
    const input: HostInput = {
      ...fields,
      name,
      state: 'planned',
      rackUnit: units[i] ?? null,
      pools: ownPools(fleet, host).map((pool) => ({
        name: pool.name.includes(host.name)
          ? pool.name.replace(host.name, name)
          : `${name}-${pool.name}`,
        usableBytes: pool.usableBytes,
        promiseLimitPercent: pool.promiseLimitPercent,
      })),
      reaches: sharedPools(fleet, host),
      networks: fleet
        .referring('virtualSwitch', 'hostId', hostId)
        .flatMap((found) =>
          found.networkId ? [{ networkId: found.networkId, mode: found.mode }] : [],
        ),
      ...(network ? { management: { networkId: network.id, ...(ip ? { ip } : {}) } } : {}),
      hardware: partsOf(fleet, hostId),
    };
    return { input, ip };
  });
}

const reached = (fleet: Fleet, host: Row<'host'>) =>
  fleet.referring('poolReach', 'hostId', host.id).map((reach) => ({
    pool: fleet.need('pool', reach.poolId),
    alone: fleet.referringCount('poolReach', 'poolId', reach.poolId) === 1,
  }));
const ownPools = (fleet: Fleet, host: Row<'host'>) =>
  reached(fleet, host)
    .filter(({ alone, pool }) => alone && !pool.remote)
    .map(({ pool }) => pool);
const sharedPools = (fleet: Fleet, host: Row<'host'>) =>
  reached(fleet, host)
    .filter(({ alone, pool }) => !alone || pool.remote)
    .map(({ pool }) => pool.id);

/** Places of its height in its rack, from the floor. */
function freeUnits(fleet: Fleet, host: Row<'host'>): number[] {
  const rack = fleet.get('rack', host.rackId);
  if (!rack || host.rackUnit === null) return [];
  const taken = new Set(
    fleet
      .referring('host', 'rackId', rack.id)
      .filter((found) => found.rackUnit !== null && found.state !== 'retired')
      .flatMap((found) => Array.from({ length: found.rackHeight }, (_, i) => found.rackUnit! + i)),
  );
  const units: number[] = [];
  for (let u = 1; u + host.rackHeight - 1 <= rack.units; u += 1) {
    if (Array.from({ length: host.rackHeight }, (_, i) => u + i).some((unit) => taken.has(unit)))
      continue;
    units.push(u);
    u += host.rackHeight - 1;
  }
  return units;
}

/** The same parts, without serial numbers and MACs. */
function partsOf(fleet: Fleet, hostId: string): HardwareInput {
  const arrays = fleet.referring('array', 'hostId', hostId);
  return {
    modules: fleet
      .referring('memoryModule', 'hostId', hostId)
      .map(({ slot, sizeMiB, speed }) => ({ slot, sizeMiB, speed })),
    nodes: fleet
      .referring('numaNode', 'hostId', hostId)
      .map(({ node, cores, memoryMiB }) => ({ node, cores, memoryMiB })),
    arrays: arrays.map(({ name, level, groups, purpose }) => ({ name, level, groups, purpose })),
    disks: fleet.referring('disk', 'hostId', hostId).map((disk) => ({
      bay: disk.bay,
      model: disk.model,
      bytes: disk.bytes,
      class: disk.class,
      spare: disk.spare,
      purpose: disk.purpose,
      array: arrays.find((array) => array.id === disk.arrayId)?.name ?? null,
    })),
    ports: fleet
      .referring('port', 'hostId', hostId)
      .map(({ name, connector, bitsPerSecond, wired, card, management }) => ({
        name,
        connector,
        bitsPerSecond,
        wired,
        card,
        management,
      })),
  };
}
