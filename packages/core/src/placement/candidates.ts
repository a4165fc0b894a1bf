/**
 * Where a guest that lost its host may start again. Hosts are left out in a fixed order, and the first reason is the one
 * given: storage reachable there, level, networks, rules; room comes last and is a matter of packing.
 */
import { carriesNetwork, reaches } from '../host/index.js';
import type { Fleet, Row } from '../record/index.js';
import { cutKey, joinedTo, poolSurvives, type Taken } from './failure.js';
import { RUNS, startsOn, statedLevel } from './processor-fit.js';
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
  /** Counted when they are first asked for. */
  hostIds: () => readonly string[];
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
    let living: readonly string[] | undefined;
    const hostIds = () => (living ??= fleet.backing(groupId).filter((id) => !fallen.has(id)));
    const found = { hostIds, lostQuorum: groupId && lostQuorum(fleet, groupId, hostIds) };
    known.set(groupId, found);
    return found;
  };
}

function lostQuorum(fleet: Fleet, groupId: string, living: () => readonly string[]): string | null {
  const { name, quorum, witness } = fleet.pick('hostGroup', groupId, 'name', 'quorum', 'witness');
  if (!quorum) return null;
  const votes = living().length + (witness ? 1 : 0);
  return votes < quorum
    ? `${name} keeps ${votes} of the ${quorum} votes it needs: it does not act by itself`
    : null;
}

/** What is gone, and who may take over. */
export interface Failing extends Taken {
  standIns: (groupId: string | null) => StandIns;
}

export function candidatesOf(fleet: Fleet, guest: Row<'guest'>, failing: Failing): Candidates {
  const { fallen, standIns } = failing;
  const home = fleet.pick('host', guest.hostId, 'groupId', 'architecture');
  const { hostIds, lostQuorum: lost } = standIns(home.groupId);
  const among = { living: hostIds, gone: fallen, cut: failing.cut };
  if (lost) return { way: 'restart', suitable: [], none: { stage: 'quorum', sentence: lost } };
  const poolIds = fleet.referring('volume', 'guestId', guest.id).map(({ poolId }) => poolId);
  const dead = poolIds.find((poolId) => !poolSurvives(fleet, poolId, fallen));
  if (!dead)
    return narrow(fleet, asksOf(fleet, guest, home, { all: poolIds }), among, {
      way: 'restart',
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
  if (replicas.length === 0) {
    const { name } = fleet.pick('pool', dead, 'name');
    return {
      way: 'restart',
      suitable: [],
      none: { stage: 'pool reach', sentence: `its pool ${name} is gone with the host` },
    };
  }
  const copies = { any: replicas.map((copy) => copy.poolId!) };
  return narrow(fleet, asksOf(fleet, guest, home, copies), among, {
    way: 'replica',
    unreached: 'no other host reaches its replica',
  });
}

/** What a guest asks of a host that takes it: guests that ask the same may go to the same hosts. */
interface Asks {
  home: Pick<Row<'host'>, 'groupId' | 'architecture'>;
  processorMode: Row<'guest'>['processorMode'];
  nestedVirtualisation: boolean;
  /** Where its disks must be within reach: all of these pools, or any of them. */
  pools: { all: readonly string[] } | { any: readonly string[] };
  networkIds: readonly string[];
  pinned: readonly string[] | null;
}

function asksOf(
  fleet: Fleet,
  { id, processorMode, nestedVirtualisation }: Row<'guest'>,
  { groupId, architecture }: Asks['home'],
  pools: Asks['pools'],
): Asks {
  const pinned = pinnedTo(fleet, id);
  return {
    home: { groupId, architecture },
    processorMode,
    nestedVirtualisation,
    pools,
    networkIds: joinedTo(fleet, id),
    pinned: pinned && [...pinned],
  };
}

/** How it would come back, and what is said where no host reaches its disks. */
interface Returning {
  way: Candidates['way'];
  unreached: string;
}

/** Hosts that are asked, and those that are no choice. */
interface Among {
  living: () => readonly string[];
  gone: ReadonlySet<string>;
  cut: ReadonlySet<string>;
}

/** In this order hosts are left out; the stage that leaves nobody over is the reason that is given. */
const STAGES: readonly {
  stage: Stage;
  fits: (fleet: Fleet, asks: Asks, hostId: string) => boolean;
  none: (fleet: Fleet, asks: Asks, unreached: string) => string;
}[] = [
  {
    stage: 'pool reach',
    fits: (fleet, { pools }, hostId) =>
      'all' in pools
        ? pools.all.every((poolId) => reaches(fleet, hostId, poolId))
        : pools.any.some((poolId) => reaches(fleet, hostId, poolId)),
    none: (_, __, unreached) => unreached,
  },
  {
    stage: 'processor',
    fits: (fleet, asks, hostId) => startsOn(asks, asks.home, fleet.pick('host', hostId, ...RUNS)),
    none: (_, asks) => `no host within reach is known to have ${processorOf(asks)}`,
  },
  {
    stage: 'networks',
    fits: (fleet, { networkIds }, hostId) =>
      networkIds.every((networkId) => carriesNetwork(fleet, hostId, networkId)),
    none: (fleet, asks) => `no host within reach carries ${networkNames(fleet, asks)}`,
  },
  {
    stage: 'rules',
    fits: (_, { pinned }, hostId) => pinned?.includes(hostId) ?? true,
    none: () => 'a rule keeps it from every host within reach',
  },
];

function narrow(
  fleet: Fleet,
  asks: Asks,
  { living, gone, cut }: Among,
  { way, unreached }: Returning,
): Candidates {
  const suiting = hostsThatSuit(fleet, asks, way);
  const carries = (hostId: string) => !asks.networkIds.some((id) => cut.has(cutKey(hostId, id)));
  const joined =
    cut.size === 0 ? suiting : { ...suiting, suitable: suiting.suitable.filter(carries) };
  if (joined.suitable.some((id) => !gone.has(id))) return joined;
  let left = living().filter(carries);
  if (left.length === 0 && living().length > 0) {
    const sentence = `no host within reach still carries ${networkNames(fleet, asks)}`;
    return { way, suitable: [], none: { stage: 'networks', sentence } };
  }
  for (const { stage, fits, none } of STAGES) {
    left = left.filter((hostId) => fits(fleet, asks, hostId));
    if (left.length === 0)
      return { way, suitable: [], none: { stage, sentence: none(fleet, asks, unreached) } };
  }
  return { way, suitable: left, none: null };
}

/**
 * Hosts of its group that suit a guest, whichever of them is alive: asked once for all guests that ask the same, not once
 * for each guest and failure.
 */
const hostsThatSuit = (fleet: Fleet, asks: Asks, way: Candidates['way']): Candidates =>
  fleet.memo(JSON.stringify([way, asks]), 'hosts that suit', () => ({
    way,
    suitable: fleet
      .backing(asks.home.groupId)
      .filter((hostId) => STAGES.every(({ fits }) => fits(fleet, asks, hostId))),
    none: null,
  }));

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
  const home = fleet.pick('host', guest.hostId, 'groupId', 'architecture');
  const mates = fleet.backing(home.groupId);
  const living = except.size === 0 ? mates : mates.filter((id) => !except.has(id));
  return narrow(
    fleet,
    asksOf(fleet, guest, home, { all: [...poolIds].sort() }),
    { living: () => living, gone: except, cut: new Set() },
    { way: 'restart', unreached },
  );
}

/** What its processor must have, in words. */
const processorOf = (asks: Asks): string =>
  [
    statedLevel(asks) === null ? asks.home.architecture : `level ${asks.processorMode}`,
    asks.nestedVirtualisation ? 'virtualisation to pass through' : '',
  ]
    .filter(Boolean)
    .join(' and ');

const networkNames = (fleet: Fleet, { networkIds }: Asks): string =>
  networkIds.map((id) => fleet.pick('network', id, 'name').name).join(' and ');
