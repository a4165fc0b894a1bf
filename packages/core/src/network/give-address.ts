/**
 * Giving an address to a host or to a guest's adapter: the next free one, a chosen one, or one that was found
 * configured. What Insel gives out is *assigned* and unique; what was found is recorded as it is.
 */
import { addressOf, broadcast, canonical, prefixOf } from '../address/index.js';
import {
  holderName,
  isRefusal,
  objection,
  refuse,
  type Draft,
  type Fleet,
  type Refusal,
  type Row,
} from '../record/index.js';
import { firstSubnet, subnetOf } from './subnet.js';
import { nextFree } from './next-free.js';

export type Holder =
  { hostId: string; virtualSwitchId?: string } | { adapterId: string } | { devicePortId: string };

export interface Wish {
  holder: Holder;
  networkId: string | null;
  /** Undefined takes the next free address of the network. */
  ip?: string;
  assigned: boolean;
  use?: Row<'address'>['use'];
  purpose?: string;
  /** As configured on the machine, where it was looked at. */
  prefixLength?: number;
  /** Path of the field in the request, for a refusal. */
  field: string;
  /** Addresses given out earlier in the same change. */
  skip?: ReadonlySet<string>;
  /** Subnet to take the next free address from; left out: the network's first. */
  subnetId?: string;
  now?: string;
  randomByte?: () => number;
}

export interface Given {
  ip: string;
  objections: Refusal[];
}

/** Drafts the address row; gives the address taken with any objections, or a refusal. */
export function giveAddress(fleet: Fleet, draft: Draft, wish: Wish): Given | Refusal {
  const ip = chooseIp(fleet, wish);
  if (isRefusal(ip)) return ip;
  const domainId = domainFor(fleet, wish.networkId);
  if (isRefusal(domainId)) return domainId;
  const objections = wish.assigned ? addressObjections(fleet, domainId, wish, ip) : [];
  draft.create('address', {
    domainId,
    subnetId: subnetOf(fleet, domainId, ip)?.id ?? null,
    ip,
    assigned: wish.assigned,
    use: wish.use ?? 'static',
    purpose: wish.purpose ?? '',
    prefixLength: wish.prefixLength ?? null,
    hostId: 'hostId' in wish.holder ? wish.holder.hostId : null,
    adapterId: 'adapterId' in wish.holder ? wish.holder.adapterId : null,
    devicePortId: 'devicePortId' in wish.holder ? wish.holder.devicePortId : null,
    virtualSwitchId: 'hostId' in wish.holder ? (wish.holder.virtualSwitchId ?? null) : null,
  });
  return { ip, objections };
}

function chooseIp(
  fleet: Fleet,
  { networkId, ip, field, skip, subnetId, now, randomByte }: Wish,
): string | Refusal {
  if (ip !== undefined) {
    const read = canonical(ip);
    return read.ok
      ? read.value
      : refuse({
          code: 'bad-address',
          field,
          sentence: read.sentence,
          remedy: read.suggestion && `Write ${read.suggestion}.`,
        });
  }
  const subnet =
    fleet.get('subnet', subnetId) ?? (networkId ? firstSubnet(fleet, networkId) : undefined);
  if (!subnet)
    return refuse({
      code: 'no-subnet',
      field,
      sentence: 'This network has no subnet to take an address from.',
      remedy: 'Write the address, or record the subnet first.',
    });
  const [next] = nextFree(fleet, subnet.id, { skip, now, randomByte });
  return (
    next ??
    refuse({
      code: 'no-free-address',
      field,
      sentence: `${subnet.prefix} has no free address left.`,
      remedy: 'Release an address, shorten a range, or record another subnet.',
    })
  );
}

/** The routing domain of a network, or the only one there is. */
export function domainFor(fleet: Fleet, networkId: string | null): string | Refusal {
  const subnet = networkId ? firstSubnet(fleet, networkId) : undefined;
  if (subnet) return subnet.domainId;
  for (const domain of fleet.all('routingDomain')) return domain.id;
  return refuse({
    code: 'no-domain',
    sentence: 'The record has no routing domain yet.',
    remedy: 'Record a network with its subnet first.',
  });
}

function addressObjections(
  fleet: Fleet,
  domainId: string,
  { field, networkId, now }: Wish,
  ip: string,
): Refusal[] {
  const subnet = subnetOf(fleet, domainId, ip);
  const say = (code: string, sentence: string) =>
    objection({
      code,
      field,
      sentence,
      remedy: 'Take the next free address, or write why this one will do.',
    });
  if (!subnet) return [say('outside-every-subnet', `${ip} lies in no recorded subnet.`)];
  const found: Refusal[] = [];
  if (networkId && subnet.networkId !== networkId) {
    found.push(
      say(
        'of-another-network',
        `${ip} belongs to ${fleet.need('network', subnet.networkId).name}, not to this network.`,
      ),
    );
  }
  const prefix = prefixOf(subnet.prefix);
  const { value } = addressOf(ip);
  if (prefix.family === 4 && prefix.length <= 30 && value === prefix.first)
    found.push(say('network-address', `${ip} is the network's own address.`));
  if (value === broadcast(prefix))
    found.push(say('broadcast-address', `${ip} is the broadcast address.`));
  if (ip === subnet.gateway)
    found.push(say('gateway-address', `${ip} is the gateway of ${subnet.prefix}.`));
  for (const range of fleet.referring('range', 'subnetId', subnet.id)) {
    if (
      range.use !== 'static' &&
      value >= addressOf(range.firstIp).value &&
      value <= addressOf(range.lastIp).value
    ) {
      found.push(
        say(
          `in-${range.use}-range`,
          `${ip} lies in the ${range.use} range ${range.firstIp} – ${range.lastIp}.`,
        ),
      );
    }
  }
  const rest = fleet
    .referring('quarantine', 'subnetId', subnet.id)
    .find((row) => row.ip === ip && row.until > (now ?? '').slice(0, 10));
  if (rest)
    found.push(say('resting', `${ip} was released by ${rest.was} and rests until ${rest.until}.`));
  const [other] = fleet.withIp(domainId, ip).filter((row) => !row.assigned);
  if (other) found.push(say('found-in-use', `${ip} was found on ${holderName(fleet, other)}.`));
  return found;
}
