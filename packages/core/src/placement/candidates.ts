/**
 * Where a guest that lost its host may start again. Hosts are left out in a fixed order, and the first reason is the one
 * given: storage reachable there, level, networks, rules; room comes last and is a matter of packing.
 */
import { carriesNetwork, reaches } from '../host/reached-by.js';
import type { Fleet, Row } from '../record/index.js';
import { joinedTo, poolSurvives } from './failure.js';
import { startsOn, statedLevel } from './processor-fit.js';
import { pinnedTo } from './rules.js';

export type Stage = 'pool reach' | 'processor' | 'networks' | 'rules' | 'quorum';

export interface Candidates {
  /** How the guest would come back on these hosts. */
  way: 'restart' | 'replica';
  /** Hosts that suit it, whichever of them is alive; one list for all guests that ask the same. */
  suitable: readonly string[];
  /** Why there is none, if there is none: the stage that left nobody over, in words. */
  none: { stage: Stage; sentence: string } | null;
}

export interface StandIns {
  hostIds: readonly string[];
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
    const living = matesOf(fleet, groupId).filter((id) => !fallen.has(id));
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

/** Hosts in service that back each other; those of no group back each other, too. */
export function matesOf(fleet: Fleet, groupId: string | null): readonly string[] {
  return fleet.memo(groupId ?? 'of no group', 'hosts that back each other', () =>
    (groupId
      ? fleet.referring('host', 'groupId', groupId)
      : [...fleet.all('host')].filter((host) => host.groupId === null)
    )
      .filter((host) => host.state === 'in service')
      .map((host) => host.id),
  );
}

export function candidatesOf(
  fleet: Fleet,
  guest: Row<'guest'>,
  fallen: ReadonlySet<string>,
  standIns = standInsOf(fleet, fallen),
  cut: ReadonlySet<string> = new Set(),
): Candidates {
  const { hostIds: living, lostQuorum } = standIns(fleet.need('host', guest.hostId).groupId);
  const among = { living, gone: fallen, cut };
  if (lostQuorum)
    return { way: 'restart', suitable: [], none: { stage: 'quorum', sentence: lostQuorum } };
  const volumes = fleet.referring('volume', 'guestId', guest.id);
  const dead = volumes.find((volume) => !poolSurvives(fleet, volume.poolId, fallen));
  if (!dead)
    return narrow(fleet, guest, among, {
      way: 'restart',
      pools: { all: volumes.map(({ poolId }) => poolId) },
      unreached: 'no other host reaches its pool',
    });
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
      suitable: [],
      none: { stage: 'pool reach', sentence: `its pool ${pool} is gone with the host` },
    };
  return narrow(fleet, guest, among, {
    way: 'replica',
    pools: { any: replicas.map((copy) => copy.poolId!) },
    unreached: 'no other host reaches its replica',
  });
}

/** Where its disks must be within reach: all of these pools, or any of them. */
interface Stored {
  way: Candidates['way'];
  pools: { all: string[] } | { any: string[] };
  unreached: string;
}

/** Hosts that are asked, and those that are no choice. */
interface Among {
  living: readonly string[];
  gone: ReadonlySet<string>;
  /** Networks that hosts no longer carry, as `host network`. */
  cut: ReadonlySet<string>;
}

function narrow(
  fleet: Fleet,
  guest: Row<'guest'>,
  { living, gone, cut }: Among,
  { way, pools, unreached }: Stored,
): Candidates {
  const home = fleet.need('host', guest.hostId);
  const steps: [Stage, (hostId: string) => boolean, () => string][] = [
    ['pool reach', (hostId) => isStored(fleet, hostId, pools), () => unreached],
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
      (hostId) => pinnedTo(fleet, guest.id)?.has(hostId) ?? true,
      () => 'a rule keeps it from every host within reach',
    ],
  ];
  const suitable = suiting(fleet, guest, home, pools, (hostId) =>
    steps.every(([, fits]) => fits(hostId)),
  );
  const networkIds = cut.size === 0 ? [] : joinedTo(fleet, guest);
  const carries = (hostId: string) => !networkIds.some((id) => cut.has(`${hostId} ${id}`));
  const joined = networkIds.length === 0 ? suitable : suitable.filter(carries);
  if (joined.some((id) => !gone.has(id))) return { way, suitable: joined, none: null };
  let left = living.filter(carries);
  if (left.length === 0 && living.length > 0)
    return { way, suitable: [], none: { stage: 'networks', sentence: cutOff(fleet, guest) } };
  for (const [stage, fits, sentence] of steps) {
    left = left.filter(fits);
    if (left.length === 0) return { way, suitable: [], none: { stage, sentence: sentence() } };
  }
  return { way, suitable: left, none: null };
}

/**
 * Hosts of its group that suit a guest, whichever of them is alive: asked once for all guests that ask the same, not once
 * for each guest and failure.
 */
function suiting(
  fleet: Fleet,
  guest: Row<'guest'>,
  home: Row<'host'>,
  pools: Stored['pools'],
  suits: (hostId: string) => boolean,
): readonly string[] {
  const pinned = pinnedTo(fleet, guest.id);
  const asks = JSON.stringify([
    home.groupId,
    home.architecture,
    guest.processorMode,
    guest.nestedVirtualisation,
    pools,
    joinedTo(fleet, guest),
    pinned && [...pinned],
  ]);
  return fleet.memo(asks, 'hosts that suit', () => matesOf(fleet, home.groupId).filter(suits));
}

/**
 * Where a guest may go among hosts of its group while all of them stand; its disks lie in these pools, or go with it.
 * @param except hosts that are no choice; they may stand among those that suit
 */
export function hostsFor(
  fleet: Fleet,
  guest: Row<'guest'>,
  poolIds: readonly string[],
  except: ReadonlySet<string> = new Set(),
  unreached = 'no other host reaches its pool',
): Pick<Candidates, 'suitable' | 'none'> {
  const mates = matesOf(fleet, fleet.need('host', guest.hostId).groupId);
  const living = except.size === 0 ? mates : mates.filter((id) => !except.has(id));
  return narrow(
    fleet,
    guest,
    { living, gone: except, cut: new Set() },
    {
      way: 'restart',
      pools: { all: [...poolIds].sort() },
      unreached,
    },
  );
}

const isStored = (fleet: Fleet, hostId: string, pools: Stored['pools']): boolean =>
  'all' in pools
    ? pools.all.every((poolId) => reaches(fleet, hostId, poolId))
    : pools.any.some((poolId) => reaches(fleet, hostId, poolId));

const cutOff = (fleet: Fleet, guest: Row<'guest'>): string =>
  `no host within reach still carries ${networkNames(fleet, guest)}`;

/** What its processor must have, in words. */
const asksOf = (guest: Row<'guest'>, home: Row<'host'>): string =>
  [
    statedLevel(guest) === null ? home.architecture : `level ${guest.processorMode}`,
    guest.nestedVirtualisation ? 'virtualisation to pass through' : '',
  ]
    .filter(Boolean)
    .join(' and ');

const networksFit = (fleet: Fleet, guest: Row<'guest'>, hostId: string): boolean =>
  joinedTo(fleet, guest).every((networkId) => carriesNetwork(fleet, hostId, networkId));
const networkNames = (fleet: Fleet, guest: Row<'guest'>): string =>
  joinedTo(fleet, guest)
    .map((id) => fleet.need('network', id).name)
    .join(' and ');
