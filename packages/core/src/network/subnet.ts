/** A subnet of the record with its runs, and the question which addresses are free. */
import { addressOf, contains, prefixOf, usable, type Address } from '../address/index.js';
import { fromRecord, standard, type Figure } from '../figure/index.js';
import type { Fleet, Row } from '../record/index.js';
import { runLength, runsOf, type Run } from './runs.js';

/** Addresses of a subnet held by hosts and guests, lowest first. */
export function heldIn(fleet: Fleet, subnetId: string): Row<'address'>[] {
  return fleet.memo(subnetId, 'held', () =>
    fleet.referring('address', 'subnetId', subnetId).sort((a, b) => {
      const [one, other] = [numberOf(a), numberOf(b)];
      return one < other ? -1 : one > other ? 1 : 0;
    }),
  );
}

type WithAddress = Row<'address'> | Row<'quarantine'>;
const numbers = new WeakMap<WithAddress, bigint>();

/** The address of a row as a number, read of its text once: a row never alters, another takes its place. */
export function numberOf(row: WithAddress): bigint {
  let value = numbers.get(row);
  if (value === undefined) numbers.set(row, (value = addressOf(row.ip).value));
  return value;
}

/** @param today day, YYYY-MM-DD, from which on released addresses count as free again; left out: all of them still rest */
export function subnetRuns(fleet: Fleet, subnetId: string, today?: string): Run[] {
  const name = today ? 'runs' : 'runs, all at rest';
  const compute = () => {
    const resting = fleet.referring('quarantine', 'subnetId', subnetId);
    for (const { until } of resting) fleet.alters(Date.parse(until));
    const rests = resting.filter((row) => !today || row.until > today);
    const subnet = fleet.need('subnet', subnetId);
    const ranges = fleet.referring('range', 'subnetId', subnetId).map((range) => ({
      use: range.use,
      first: addressOf(range.firstIp).value,
      last: addressOf(range.lastIp).value,
    }));
    return runsOf({
      prefix: prefixOf(subnet.prefix),
      gateway: subnet.gateway === null ? null : addressOf(subnet.gateway).value,
      held: heldIn(fleet, subnetId).map(numberOf),
      ranges: ranges.flatMap(({ use, first, last }) =>
        use === 'static' ? [] : [{ use, first, last }],
      ),
      offered: ranges.filter(({ use }) => use === 'static'),
      resting: rests.map(numberOf),
    });
  };
  return fleet.memo(subnetId, name, compute, today);
}

/** The subnet of a routing domain that an address lies in. */
export function subnetOf(fleet: Fleet, domainId: string, ip: string): Row<'subnet'> | undefined {
  const address: Address = addressOf(ip);
  return fleet
    .referring('subnet', 'domainId', domainId)
    .find((subnet) => contains(prefixOf(subnet.prefix), address));
}

/** First subnet of a network that hands out addresses: IPv4 before IPv6. */
export function firstSubnet(fleet: Fleet, networkId: string): Row<'subnet'> | undefined {
  const all = fleet.referring('subnet', 'networkId', networkId);
  return all.find((subnet) => !subnet.prefix.includes(':')) ?? all[0];
}

export interface SubnetFigures {
  /** Addresses that can still be given out one by one. */
  free: Figure;
  /** Held share of what can be given out, in per cent; null for IPv6, where a share says nothing. */
  taken: Figure;
  /** Addresses held, and those that can be given out one by one, these included. */
  held: number;
  assignable: number;
}

export function subnetFigures(fleet: Fleet, subnetId: string): SubnetFigures {
  return fleet.memo(subnetId, 'figures', () => computeFigures(fleet, subnetId));
}

function computeFigures(fleet: Fleet, subnetId: string): SubnetFigures {
  const subnet = fleet.need('subnet', subnetId);
  const prefix = prefixOf(subnet.prefix);
  const runs = subnetRuns(fleet, subnetId);
  const sum = (...kinds: string[]) =>
    Number(
      runs.filter((run) => kinds.includes(run.kind)).reduce((n, run) => n + runLength(run), 0n),
    );
  const from = { kind: 'subnet' as const, id: subnetId };
  const room = Number(usable(prefix).count);
  const [gateway, dynamic, reserved, held, free, resting, aside] = [
    sum('gateway'),
    sum('dynamic'),
    sum('reserved'),
    sum('held'),
    sum('free'),
    sum('resting'),
    sum('aside'),
  ];
  const name = fleet.need('network', subnet.networkId).name;
  const usableLine = {
    label: `Usable in ${subnet.prefix}`,
    value: room,
    unit: 'addresses' as const,
    operator: '·' as const,
    from,
  };
  const kept = [
    { label: 'Gateway', value: gateway, unit: 'addresses' as const, operator: '−' as const },
    { label: 'Dynamic ranges', value: dynamic, unit: 'addresses' as const, operator: '−' as const },
    {
      label: 'Reserved ranges',
      value: reserved,
      unit: 'addresses' as const,
      operator: '−' as const,
    },
    ...(resting
      ? [
          {
            label: 'Released, resting',
            value: resting,
            unit: 'addresses' as const,
            operator: '−' as const,
          },
        ]
      : []),
    ...(aside
      ? [
          {
            label: 'Outside the static ranges',
            value: aside,
            unit: 'addresses' as const,
            operator: '−' as const,
          },
        ]
      : []),
  ];
  const sources = [
    prefix.family === 4
      ? standard('Usable addresses: RFC 1122 section 3.2.1.3; /31: RFC 3021')
      : standard('Usable addresses: RFC 4291 section 2.6.1; /127: RFC 6164'),
    fromRecord('Held addresses and ranges: the record'),
  ];
  const assignable = free + held;
  const share = prefix.family === 6 || assignable === 0 ? null : (held / assignable) * 100;
  return {
    held,
    assignable,
    free: {
      name: 'addresses-free',
      title: `Free addresses of ${name}`,
      value: free,
      unit: 'addresses',
      lines: [
        usableLine,
        ...kept,
        { label: 'Held by hosts and guests', value: held, unit: 'addresses', operator: '−' },
        { label: 'Free to give out', value: free, unit: 'addresses', operator: '=' },
      ],
      sources,
    },
    taken: {
      name: 'addresses-taken',
      title: `Addresses of ${name} that are taken`,
      value: share,
      unit: 'percent',
      lines: [
        usableLine,
        ...kept,
        {
          label: 'Can be given out one by one',
          value: assignable,
          unit: 'addresses',
          operator: '=',
        },
        { label: 'Held of these', value: held, unit: 'addresses', operator: '·' },
        {
          label: 'Taken',
          value: share,
          unit: 'percent',
          operator: '=',
          note: share === null ? 'no share is shown for IPv6: the block is never full' : undefined,
        },
      ],
      sources,
    },
  };
}
