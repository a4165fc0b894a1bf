/**
 * What a move alters for others: whether the machine keeps its addresses and who must learn another one; whether large packets
 * pass the whole way; by whose clock it goes there. Costs the addresses, routes and names of the record once.
 */
import { carriesNetwork } from '../host/index.js';
import { addressesOf } from '../names/index.js';
import { carriesLess, carriesOn } from '../reach/index.js';
import { counted, fewNames } from '../quantity/index.js';
import type { Fleet, Row } from '../record/index.js';
import type { Check } from './check.js';
import { wayBetween } from './route.js';
import { sideOf } from './sides.js';

type Move = Row<'migration'>;

export const addressChecks = (fleet: Fleet, move: Move): Check[] => [
  ...keptAddresses(fleet, move),
  ...packetChecks(fleet, move),
  ...clockChecks(fleet, move),
];

/** What is called by its address now, a guest or a computer. */
const movedMachine = (move: Move) =>
  move.sourceDeviceId
    ? { kind: 'device' as const, id: move.sourceDeviceId }
    : { kind: 'guest' as const, id: move.guestId };

function keptAddresses(fleet: Fleet, move: Move): Check[] {
  if (move.keepsBoth || move.targetHostId === null) return [];
  const { kind, id } = movedMachine(move);
  // Of an address in no recorded subnet nobody knows where it is carried.
  const own = addressesOf(fleet, kind, id).filter(({ subnetId }) => subnetId !== null);
  if (own.length === 0) return [];
  const target = fleet.need('host', move.targetHostId);
  const [kept, lost] = [true, false].map((carried) =>
    own.filter(({ subnetId }) => {
      const networkId = fleet.get('subnet', subnetId)?.networkId;
      return (networkId ? carriesNetwork(fleet, target.id, networkId) : false) === carried;
    }),
  ) as [Row<'address'>[], Row<'address'>[]];
  if (lost.length === 0)
    return [
      {
        name: 'address',
        passed: true,
        sentence: `It keeps ${fewNames(kept.map(({ ip }) => ip))}: nobody has to learn another address.`,
      },
    ];
  const learners = learnersOf(fleet, move, new Set(lost.map(({ ip }) => ip)));
  return [
    {
      name: 'address',
      advice: true,
      passed: false,
      sentence: `${fewNames(lost.map(({ ip }) => ip))} cannot stay: ${target.name} does not carry its network. ${learners.length > 0 ? `Who must learn another: ${learners.join('; ')}` : 'Nobody on record refers to it'}.`,
      remedy:
        'Lower the life time of its names to 300 s the day before, give it an address there with the move, and tell each of these.',
    },
  ];
}

/** Who refers to one of the addresses, or to the machine, in words. */
function learnersOf(fleet: Fleet, move: Move, ips: ReadonlySet<string>): string[] {
  const names = [...fleet.all('nameRecord')].filter(({ data }) => ips.has(data));
  const subnets = [...fleet.all('subnet')].filter(
    ({ nameServers, gateway }) =>
      nameServers.some((ip) => ips.has(ip)) || (gateway !== null && ips.has(gateway)),
  );
  const routes = [...fleet.all('route')].filter(({ via }) => via !== null && ips.has(via));
  const ports = [...fleet.all('forwardedPort')].filter(({ toIp }) => ips.has(toIp));
  const services = fleet.referring('provider', 'guestId', move.guestId);
  const waiting = services.reduce(
    (sum, { serviceId }) => sum + fleet.referringCount('dependency', 'serviceId', serviceId),
    fleet.referringCount('dependency', 'onGuestId', move.guestId),
  );
  return [
    ...(names.length > 0 ? [`names ${fewNames(names.map(({ owner }) => owner))}`] : []),
    ...(subnets.length > 0
      ? [`the name servers or gateway of ${fewNames(subnets.map(({ prefix }) => prefix))}`]
      : []),
    ...(routes.length > 0
      ? [`routes to ${fewNames(routes.map(({ destination }) => destination))}`]
      : []),
    ...(ports.length > 0
      ? [
          `ports that lead to it (${fewNames(ports.map(({ port, protocol }) => `${port}/${protocol}`))})`,
        ]
      : []),
    ...(waiting > 0 ? [`${counted(waiting, 'machine')} waiting for it at a start`] : []),
  ];
}

/** The way as a whole passes what its network says. */
function packetChecks(fleet: Fleet, move: Move): Check[] {
  const [from, to] = [sideOf(fleet, move, 'source'), sideOf(fleet, move, 'target')];
  const way = from.id === to.id ? null : wayBetween(fleet, move);
  if (!way) return [];
  const carrying = [...fleet.all('physicalSwitch')].filter((found) => carriesOn(fleet, found, way));
  if (carrying.length === 0) return [];
  const small = carrying.filter((found) => carriesLess(fleet, found, way));
  return [
    {
      name: 'packet size',
      advice: true,
      passed: small.length === 0,
      sentence:
        small.length === 0
          ? `${fewNames(carrying.map(({ name }) => name))} ${carrying.length === 1 ? 'passes' : 'pass'} the ${way.mtu} of ${way.name}.`
          : `${way.name} has an MTU of ${way.mtu}, and ${fewNames(small.map(({ name, mtu }) => `${name} passes ${mtu}`))}: a ping works, the copy hangs.`,
      remedy: 'Raise it there, or lower it on both sides for the copy.',
    },
  ];
}

/** Where the target takes its time from; a guest takes its own from there at every start. */
function clockChecks(fleet: Fleet, move: Move): Check[] {
  const target = fleet.get('host', move.targetHostId);
  if (!target || move.sourceHostId === target.id) return [];
  const source = fleet
    .referring('dependency', 'hostId', target.id)
    .map(({ serviceId }) => fleet.get('service', serviceId))
    .find((service) => service?.what === 'time');
  return [
    {
      name: 'clock',
      advice: true,
      passed: source ? true : null,
      sentence: source
        ? `${target.name} takes its time from ${source.name}.`
        : `Nobody recorded where ${target.name} takes its time from; a guest takes its own from there at every start.`,
      remedy: 'Compare its clock before the first start, and record the service that it needs.',
    },
  ];
}
