/**
 * Where a guest that lost its host may start again. Hosts are left out in a fixed order, and the first reason is the one
 * given: storage reachable there, level, networks, rules; room comes last and is a matter of packing.
 */
import { carriesNetwork, reaches } from '../host/pool.js';
import type { Fleet, Row } from '../record/index.js';
import { poolSurvives } from './failure.js';
import { startsOn, statedLevel } from './processor-fit.js';
import { ruleAgainst } from './rules.js';

export type Stage = 'pool reach' | 'processor' | 'networks' | 'rules' | 'quorum';

export interface Candidates {
  /** How the guest would come back on these hosts. */
  way: 'restart' | 'replica';
  hostIds: string[];
  /** Why there is none, if there is none: the stage that left nobody over, in words. */
  none: { stage: Stage; sentence: string } | null;
}

export interface StandIns {
  hostIds: string[];
  lostQuorum: string | null;
}

/** Hosts that may take over, before anything about a guest is looked at: in service, alive, of the same group, which keeps its quorum. */
export function standInsOf(
  fleet: Fleet,
  fallen: ReadonlySet<string>,
): (groupId: string | null) => StandIns {
  const known = new Map<string | null, StandIns>();
  return (groupId) => {
    const held = known.get(groupId);
    if (held) return held;
    const mates = groupId
      ? fleet.referring('host', 'groupId', groupId)
      : [...fleet.all('host')].filter((host) => host.groupId === null);
    const living = mates
      .filter((host) => host.state === 'in service' && !fallen.has(host.id))
      .map((host) => host.id);
    const group = fleet.get('hostGroup', groupId);
    const votes = living.length + (group?.witness ? 1 : 0);
    const lost =
      group?.quorum && votes < group.quorum
        ? `${group.name} keeps ${votes} of the ${group.quorum} votes it needs: it does not act by itself`
        : null;
    const found = { hostIds: lost ? [] : living, lostQuorum: lost };
    known.set(groupId, found);
    return found;
  };
}

export function candidatesOf(
  fleet: Fleet,
  guest: Row<'guest'>,
  fallen: ReadonlySet<string>,
  standIns = standInsOf(fleet, fallen),
): Candidates {
  const { hostIds: living, lostQuorum } = standIns(fleet.need('host', guest.hostId).groupId);
  if (lostQuorum)
    return { way: 'restart', hostIds: [], none: { stage: 'quorum', sentence: lostQuorum } };
  const volumes = fleet.referring('volume', 'guestId', guest.id);
  const dead = volumes.find((volume) => !poolSurvives(fleet, volume.poolId, fallen));
  if (!dead)
    return narrow(
      fleet,
      guest,
      living,
      'restart',
      (hostId) => volumes.every((volume) => reaches(fleet, hostId, volume.poolId)),
      'no other host reaches its pool',
    );
  const replicas = fleet
    .referring('backup', 'guestId', guest.id)
    .filter(
      (copy) =>
        copy.way === 'replica' &&
        copy.lastSuccessAt &&
        copy.poolId &&
        poolSurvives(fleet, copy.poolId, fallen),
    );
  const pool = fleet.need('pool', dead.poolId).name;
  if (replicas.length === 0)
    return {
      way: 'restart',
      hostIds: [],
      none: { stage: 'pool reach', sentence: `its pool ${pool} is gone with the host` },
    };
  return narrow(
    fleet,
    guest,
    living,
    'replica',
    (hostId) => replicas.some((copy) => reaches(fleet, hostId, copy.poolId!)),
    'no other host reaches its replica',
  );
}

function narrow(
  fleet: Fleet,
  guest: Row<'guest'>,
  living: string[],
  way: Candidates['way'],
  stored: (hostId: string) => boolean,
  unreached: string,
): Candidates {
  const home = fleet.need('host', guest.hostId);
  const steps: [Stage, (hostId: string) => boolean, () => string][] = [
    ['pool reach', stored, () => unreached],
    [
      'processor',
      (hostId) => startsOn(guest, home, fleet.need('host', hostId)),
      () => `no host within reach is known to have ${asksOf(guest, home)}`,
    ],
    [
      'networks',
      (hostId) => networksFit(fleet, guest, hostId),
      () => `no host within reach carries ${networkNames(fleet, guest)}`,
    ],
    [
      'rules',
      (hostId) => ruleAgainst(fleet, guest.id, hostId, new Map()) === null,
      () => 'a rule keeps it from every host within reach',
    ],
  ];
  let left = living;
  for (const [stage, fits, sentence] of steps) {
    left = left.filter(fits);
    if (left.length === 0) return { way, hostIds: [], none: { stage, sentence: sentence() } };
  }
  return { way, hostIds: left, none: null };
}

/** What its processor must have, in words. */
const asksOf = (guest: Row<'guest'>, home: Row<'host'>): string =>
  [
    statedLevel(guest) === null ? home.architecture : `level ${guest.processorMode}`,
    guest.nestedVirtualisation ? 'virtualisation to pass through' : '',
  ]
    .filter(Boolean)
    .join(' and ');

const networksOf = (fleet: Fleet, guest: Row<'guest'>): string[] => [
  ...new Set(
    fleet.referring('adapter', 'guestId', guest.id).flatMap((adapter) => adapter.networkId ?? []),
  ),
];
const networksFit = (fleet: Fleet, guest: Row<'guest'>, hostId: string): boolean =>
  networksOf(fleet, guest).every((networkId) => carriesNetwork(fleet, hostId, networkId));
const networkNames = (fleet: Fleet, guest: Row<'guest'>): string =>
  networksOf(fleet, guest)
    .map((id) => fleet.need('network', id).name)
    .join(' and ');
