/** The next free address of a subnet, by the policy of its network. */
import { addressOf, formatAddress, prefixOf, usable } from '../address/index.js';
import type { Fleet, Row } from '../record/index.js';
import { lowestFreeRun, lowestFree, type Run, randomFree } from './runs.js';
import { subnetRuns, heldIn, numberOf } from './subnet.js';

/** How addresses are taken: by the subnet's policy one by one, or one consecutive run. */
export type Taking = 'single' | 'run';

export interface Asking {
  /** How many; one if left out. */
  n?: number;
  taking?: Taking;
  /** Addresses promised already. */
  skip?: ReadonlySet<string>;
  /** Now, UTC: released addresses whose day has come are free. */
  now?: string;
  /** 0 … 255; needed for the policy "random", which without it takes the lowest. */
  randomByte?: () => number;
}

/** The next n free addresses as text: fewer than n where the subnet has no more, none where no run of n is free. */
export function nextFree(
  fleet: Fleet,
  subnetId: string,
  { n = 1, taking = 'single', skip = new Set(), now = '', randomByte }: Asking = {},
): string[] {
  const subnet = fleet.need('subnet', subnetId);
  const { family } = prefixOf(subnet.prefix);
  const skipped = new Set(
    [...skip]
      .map((ip) => addressOf(ip))
      .filter((address) => address.family === family)
      .map(({ value }) => value),
  );
  const runs = subnetRuns(fleet, subnetId, now.slice(0, 10));
  const places = new Set([...skipped, ...gatewayPlaces(subnet), ...lowPlaces(subnet)]);
  const found =
    taking === 'run'
      ? (lowestFreeRun(runs, n, places) ?? lowestFreeRun(runs, n, skipped) ?? [])
      : byPolicy(fleet, subnet, runs, n, places, randomByte);
  if (taking === 'single' && found.length < n)
    found.push(...lowestFree(runs, n - found.length, new Set([...skipped, ...found])));
  return found.map((value) => formatAddress({ family, value }));
}

/**
 * The usual places of a gateway, the first and the last address: offered last while nobody has recorded where it is, since
 * it is probably there (common practice, no source). IPv6 has its gateway at a link-local address.
 */
function gatewayPlaces(subnet: Row<'subnet'>): bigint[] {
  const prefix = prefixOf(subnet.prefix);
  if (subnet.gateway !== null || prefix.family === 6 || prefix.length > 30) return [];
  const { first, last } = usable(prefix);
  return [first, last];
}

/** The first addresses, as many as the subnet's policy keeps: offered last. */
function lowPlaces({ prefix, lowKept }: Row<'subnet'>): bigint[] {
  const { first, last } = usable(prefixOf(prefix));
  const count = last - first + 1n < BigInt(lowKept) ? Number(last - first + 1n) : lowKept;
  return Array.from({ length: count }, (_, i) => first + BigInt(i));
}

function byPolicy(
  fleet: Fleet,
  subnet: Row<'subnet'>,
  runs: readonly Run[],
  n: number,
  skip: ReadonlySet<bigint>,
  randomByte?: () => number,
): bigint[] {
  if (subnet.policy === 'random' && randomByte) return randomFree(runs, n, below(randomByte), skip);
  if (subnet.policy !== 'after last') return lowestFree(runs, n, skip);
  const last = heldIn(fleet, subnet.id).at(-1);
  const after = lowestFree(runs, n, skip, last ? numberOf(last) + 1n : 0n);
  return after.length === n
    ? after
    : [...after, ...lowestFree(runs, n - after.length, new Set([...skip, ...after]))];
}

/** Uniform whole numbers below a limit: draws that would favour some are thrown away. */
const below =
  (randomByte: () => number) =>
  (limit: bigint): bigint => {
    const bytes = Math.max(1, Math.ceil((limit - 1n).toString(2).length / 8));
    const span = 1n << BigInt(8 * bytes);
    for (;;) {
      let value = 0n;
      for (let i = 0; i < bytes; i += 1) value = (value << 8n) | BigInt(randomByte());
      if (value < span - (span % limit)) return value % limit;
    }
  };
