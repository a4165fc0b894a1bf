/**
 * The way that the copy goes: for a tool on both machines between addresses of their own, for a copying environment between
 * what it is configured with. Asked of the simulator of reachability; a question each.
 */
import { addressOf, contains, prefixOf } from '../address/index.js';
import { addressesOf } from '../names/index.js';
import { fewNames } from '../quantity/index.js';
import { heldIn } from '../network/index.js';
import { explain, FAILURE_WORDS, failureOf, ping, pingBetween, worldOf } from '../reach/index.js';
import type { Fleet, Row } from '../record/index.js';
import type { Check } from './check.js';
import type { MoveKind } from './method.js';
import { kindOfMove, methodOf, routeOf, wayBetween } from './route.js';
import { sideOf, type MoveSides } from './sides.js';
import { apartFrom, isJoinKnown, jointsAt, probeIn } from './systems-meet.js';

/** Whether the one reaches the other by the network that both have an address in; none where there is no such network. */
export function reachCheck(fleet: Fleet, sides: MoveSides): Check[] {
  const [from, to] = [sideOf(fleet, sides, 'source'), sideOf(fleet, sides, 'target')];
  const way = from.id === to.id ? null : wayBetween(fleet, sides);
  const there =
    way &&
    addressesOf(fleet, to.kind, to.id).find(
      ({ subnetId }) => fleet.get('subnet', subnetId)?.networkId === way.id,
    );
  if (!there) return [];
  const world = worldOf(fleet);
  const [sender, target] = [from, to].map(({ id }) => world.topology.machines.get(id));
  if (!sender || !target) return [];
  const address = addressOf(there.ip);
  const echo = ping(world.topology, sender, address, target);
  const passed = echo.verdict === 'yes';
  const why = explain(fleet, world, echo, address, target)?.sentence ?? 'somebody else answers.';
  return [
    {
      name: 'reach',
      advice: true,
      passed,
      sentence: passed
        ? `${from.name} reaches ${there.ip} of ${to.name}, as far as addressing and routing go.`
        : `${from.name} does not reach ${there.ip} of ${to.name}: ${why}`,
      remedy: 'Ask Reach between both, and mend what it names.',
    },
  ];
}

/** What only the simulator of reachability can say of a move. */
export const reachChecks = (fleet: Fleet, move: Row<'migration'>): Check[] => [
  ...reachCheck(fleet, move),
  ...environmentChecks(fleet, move),
  ...rehearsalChecks(fleet, move),
];

/** Kinds of move that are rehearsed before their first start. */
const REHEARSED = new Set<MoveKind>(['between platforms', 'physical to guest']);

/** Where the new system may be connected while the source runs. */
function rehearsalChecks(fleet: Fleet, move: Row<'migration'>): Check[] {
  if (!REHEARSED.has(kindOfMove(fleet, move))) return [];
  const target = sideOf(fleet, move, 'target').name;
  if (!isJoinKnown(fleet, move, 'source'))
    return [
      {
        name: 'rehearsal',
        advice: true,
        passed: null,
        sentence: `Nobody recorded what ${sideOf(fleet, move, 'source').name} joins it to: a rehearsal stays disconnected.`,
        remedy: 'Record its adapters or ports, and the networks that they are in.',
      },
    ];
  const apart = apartFrom(fleet, move);
  return [
    {
      name: 'rehearsal',
      advice: true,
      passed: true,
      sentence:
        apart.length > 0
          ? `A rehearsal may be connected to ${fewNames(apart)} of ${target}: nothing there reaches the networks of the source.`
          : `A rehearsal stays disconnected: every network that ${target} carries reaches those of the source.`,
    },
  ];
}

/** What the environment that copies is configured with on both sides; none where nothing is copied by one over a network. */
function environmentChecks(fleet: Fleet, move: Row<'migration'>): Check[] {
  const route = routeOf(fleet, move);
  const kind = kindOfMove(fleet, move);
  if (methodOf(route) !== 'block image' || kind === 'between hosts' || kind === 'storage only')
    return [];
  const here = jointsAt(fleet, move, 'source');
  const there = jointsAt(fleet, move, 'target');
  const one =
    here.find(({ networkId }) => there.some((other) => other.networkId === networkId)) ?? here[0];
  const other = there.find(({ networkId }) => networkId === one?.networkId) ?? there[0];
  if (!one || !other)
    return [nobodyKnows('No network is recorded that it would be joined to on both sides.')];
  const own = ownAddress(fleet, move, one.networkId);
  const from = probeIn(fleet, one, 0, move.copyFromIp ?? own);
  const to = probeIn(fleet, other, 1, move.copyToIp ?? undefined);
  if (!from || !to)
    return [
      nobodyKnows(
        'A network that it would be joined to has no subnet, or none of its addresses is free.',
      ),
    ];
  const fault =
    addressFault(fleet, move, one.networkId, move.copyFromIp, 'copyFromIp') ??
    addressFault(fleet, move, other.networkId, move.copyToIp, 'copyToIp');
  if (fault) return [fault];
  const echo = pingBetween(worldOf(fleet), from, to, movedMachines(move));
  const said = move.copyFromIp !== null && move.copyToIp !== null;
  const pair = `${from.ip}${move.copyFromIp ? '' : own ? ' (its own)' : ' (free now)'} and ${to.ip}${move.copyToIp ? '' : ' (free now)'}`;
  if (echo.verdict === 'yes')
    return [
      said
        ? {
            ...BASE,
            passed: true,
            sentence: `The copying environment is ${pair}: they reach each other.`,
          }
        : nobodyKnows(
            `Nobody said what the copying environment is configured with; ${pair} would reach each other.`,
          ),
    ];
  return [
    {
      ...BASE,
      passed: said ? false : null,
      sentence: `The copying environment at ${pair}: they do not reach each other: ${FAILURE_WORDS[failureOf(echo)!]}.`,
      remedy: 'Join both to a network that reaches, or copy by an intermediate disk.',
      field: 'copyToIp',
    },
  ];
}

const BASE = { name: 'copying environment' };
const nobodyKnows = (sentence: string): Check => ({
  ...BASE,
  passed: null,
  sentence,
  remedy: 'Say which address it gets on each side.',
  field: 'copyFromIp',
});

/** The machine that moves is off meanwhile, and its addresses are free for the environment on it. */
const movedMachines = ({
  guestId,
  sourceDeviceId,
  targetDeviceId,
}: Row<'migration'>): Set<string> =>
  new Set([guestId, sourceDeviceId, targetDeviceId].filter((id) => id !== null));

function ownAddress(fleet: Fleet, move: Row<'migration'>, networkId: string): string | undefined {
  const { kind, id } = move.sourceDeviceId
    ? { kind: 'device' as const, id: move.sourceDeviceId }
    : { kind: 'guest' as const, id: move.guestId };
  return addressesOf(fleet, kind, id).find(
    ({ subnetId, use }) =>
      use !== 'shared' && fleet.get('subnet', subnetId)?.networkId === networkId,
  )?.ip;
}

/** What is wrong with an address that somebody said. */
function addressFault(
  fleet: Fleet,
  move: Row<'migration'>,
  networkId: string,
  ip: string | null,
  field: 'copyFromIp' | 'copyToIp',
): Check | null {
  if (ip === null) return null;
  const network = fleet.need('network', networkId).name;
  const subnet = fleet
    .referring('subnet', 'networkId', networkId)
    .find(({ prefix }) => contains(prefixOf(prefix), addressOf(ip)));
  if (!subnet)
    return {
      ...BASE,
      passed: false,
      sentence: `${ip} lies in no subnet of ${network}, where the copying environment would be joined.`,
      remedy: 'Say one that does.',
      field,
    };
  const moved = movedMachines(move);
  const held = heldIn(fleet, subnet.id).find(
    (address) => address.ip === ip && !moved.has(machineOf(fleet, address)),
  );
  return held
    ? {
        ...BASE,
        passed: false,
        sentence: `${ip} is another machine's already: both would lose their connections.`,
        remedy: 'Say one that is free.',
        field,
      }
    : null;
}

const machineOf = (fleet: Fleet, { hostId, adapterId, devicePortId }: Row<'address'>): string =>
  hostId ??
  (adapterId
    ? fleet.need('adapter', adapterId).guestId
    : devicePortId
      ? fleet.need('devicePort', devicePortId).deviceId
      : '');
