/**
 * What was found, in the words of the record: moves with their times, hosts before and after, what could not be placed and
 * what it lacks, and what is proved. The moves are made once more on the fleet itself, one after another, and room is asked
 * of the record after each: no search's word is taken for it. Costs moves + hosts.
 */
import { capacity } from '../host/capacity.js';
import { load } from '../host/load.js';
import { poolFigures } from '../host/pool.js';
import { bytesToCopy, routeEstimate } from '../migration/route.js';
import { hostsFor } from '../placement/candidates.js';
import { processorFit } from '../placement/processor-fit.js';
import { failureFates } from '../placement/tolerance.js';
import { counted, fewNames, formatBinary, formatMemory, MIB } from '../quantity/index.js';
import type { Fleet, Patch, Row } from '../record/index.js';
import { MEMORY, OWN_DISK, PROCESSORS } from '../placement/fleet-question.js';
import { needAt, takenOf, usedFullness, type Fullness, type Placing } from '../packing/index.js';
import { assumesOf } from './measured-use.js';
import {
  disksOf,
  ownPoolOf,
  type RearrangeAsk,
  type RearrangeProblem,
  type Unmovable,
} from './problem.js';
import type { Solution } from './solve.js';

export interface RearrangedMove {
  guestId: string;
  name: string;
  state: Row<'guest'>['state'];
  fromHostId: string;
  from: string;
  toHostId: string;
  to: string;
  /** Pool of the target that its own volumes go to; null: they stay where they are. */
  toPoolId: string | null;
  toPool: string | null;
  running: boolean;
  /** Bytes that travel, and the time they are expected to take; null where nobody can say. */
  bytes: number;
  seconds: number | null;
  /** Why it moves: it leaves, it makes room for another, or what it gains. */
  why: string;
}

export interface RearrangedHost {
  id: string;
  name: string;
  before: { guests: number; memoryPercent: number; vcpuPercent: number };
  after: { guests: number; memoryPercent: number; vcpuPercent: number };
  /** Nothing stands on it afterwards. */
  empty: boolean;
  /** What is used in its fullest hour, in per cent; null: it was not asked by use. */
  used: { before: number; after: number } | null;
}

export interface Rearranged {
  /** The answer in a sentence, and what is proved of it. */
  headline: string;
  proof: string;
  /** What the answer rests on that the record does not say; empty: nothing. */
  assumes: string;
  moves: RearrangedMove[];
  stuck: { guestId: string; name: string; why: string; mend: string | null }[];
  hosts: RearrangedHost[];
  bytes: number;
  /** Of all moves one after another; null where one of them is not known. */
  seconds: number | null;
  /** Hosts that may fail without a guest left down, of those that carry something. */
  tolerance: { before: number; beforeOf: number; after: number; afterOf: number; lost: string[] };
  /** Highest draw of hosts that nothing stands on any more; null: of one of them it is not recorded. */
  wattsFreed: number | null;
}

/** The answer alone. */
export const rearranged = (...asked: Parameters<typeof rearrangedWith>): Rearranged =>
  rearrangedWith(...asked).answer;

/** With the patches that the moves come to, as if they had been made. */
export function rearrangedWith(
  fleet: Fleet,
  ask: RearrangeAsk,
  problem: RearrangeProblem,
  solution: Solution,
  unmovable: readonly Unmovable[],
  now: string,
): { answer: Rearranged; patches: Patch[] } {
  const leaving = new Set(problem.closed);
  const patches: Patch[] = [];
  const would = fleet.overlay([]);
  const moves: RearrangedMove[] = [];
  const unheld: Rearranged['stuck'] = [];
  for (const { unit, from, to, spread, fullest, withNext } of solution.moves) {
    const guest = would.need('guest', problem.guestIds[unit]!);
    const move = moveOf(would, guest, problem.hostIds[to]!, ask.linkBitsPerSecond);
    const made = patchesOf(would, guest, move);
    const why = notHeld(would.overlay(made), fleet, move);
    if (why) {
      // The search takes the pools of a host for one: what none of them holds ends it.
      unheld.push({ guestId: guest.id, name: guest.name, why, mend: null });
      break;
    }
    would.apply(made, fleet.revision);
    patches.push(...made);
    moves.push({
      ...move,
      why:
        spread !== undefined && fullest !== undefined
          ? `${withNext ? 'with the next: ' : ''}${ask.by === 'used' ? 'fullest hour' : 'fullest host'} ${percent(fullest)} then, spread ${percent(spread)}`
          : leaving.has(from) || (ask.aim === 'fewest' && !solution.at.includes(from))
            ? 'leaves'
            : 'makes room',
    });
  }
  const after = fleet.overlay(patches);
  const at = problem.start.slice();
  for (const { unit, to } of solution.moves.slice(0, moves.length)) at[unit] = to;
  const usedOf = usedOn(problem, at);
  const hosts = problem.hostIds
    .map((id, host) => ({ ...hostView(fleet, after, id), used: usedOf(host) }))
    .sort((a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }));
  const still = new Map(unmovable.map(({ guestId, why }) => [guestId, why]));
  const stuck = [
    ...unheld,
    ...solution.stuck.map((unit) => stuckView(fleet, problem, solution, unit, still)),
  ];
  const seconds = moves.map((move) => move.seconds);
  const whole = unheld.length === 0;
  const answer = {
    moves,
    stuck,
    hosts,
    bytes: moves.reduce((sum, { bytes }) => sum + bytes, 0),
    seconds: seconds.includes(null) ? null : seconds.reduce<number>((sum, one) => sum + one!, 0),
    tolerance: toleranceOf(fleet, after, problem.hostIds, now),
    wattsFreed: wattsOf(fleet, hosts),
  };
  const said = sentences(
    ...([ask, fleet, problem] as const),
    whole ? solution : { ...solution, proven: null },
    answer,
  );
  const assumes = problem.use ? assumesOf(problem.use) : '';
  return { answer: { ...answer, ...said, assumes }, patches };
}

export function moveOf(
  fleet: Fleet,
  guest: Row<'guest'>,
  toHostId: string,
  linkBitsPerSecond: number,
): Omit<RearrangedMove, 'why'> {
  const [source, target] = [fleet.need('host', guest.hostId), fleet.need('host', toHostId)];
  const { own } = disksOf(fleet, guest.id);
  const pool = own.length > 0 ? ownPoolOf(fleet, toHostId) : null;
  // Only where nothing speaks against it does a running guest move while running.
  const running =
    guest.state === 'in service' &&
    processorFit(guest, source, target, 'running').every(({ fits }) => fits === true);
  const route = {
    guestId: guest.id,
    sourceHostId: source.id,
    targetHostId: target.id,
    running,
    linkBitsPerSecond,
    movesStorage: pool !== null,
  };
  const built = guest.state === 'in service' || guest.state === 'stopped';
  return {
    guestId: guest.id,
    name: guest.name,
    state: guest.state,
    fromHostId: source.id,
    from: source.name,
    toHostId: target.id,
    to: target.name,
    toPoolId: pool?.id ?? null,
    toPool: pool?.name ?? null,
    running,
    bytes: built ? bytesToCopy(fleet, route) : 0,
    seconds: built ? routeEstimate(fleet, route).expected.value : 0,
  };
}

export function patchesOf(
  fleet: Fleet,
  guest: Row<'guest'>,
  { toHostId, toPoolId }: Pick<RearrangedMove, 'toHostId' | 'toPoolId'>,
): Patch[] {
  const volumes = toPoolId === null ? [] : disksOf(fleet, guest.id).own;
  return [
    {
      op: 'update',
      kind: 'guest',
      id: guest.id,
      seen: guest.revision,
      before: { hostId: guest.hostId },
      after: { hostId: toHostId },
    },
    ...volumes.map(({ id, revision, poolId }): Patch => ({
      op: 'update',
      kind: 'volume',
      id,
      seen: revision,
      before: { poolId },
      after: { poolId: toPoolId },
    })),
  ];
}

/** Why a move cannot be, asked of the record with the move made; empty where it can. */
export function notHeld(
  would: Fleet,
  fleet: Fleet,
  { toHostId, toPoolId, to }: Omit<RearrangedMove, 'why'>,
): string {
  const [has, used, before] = [
    capacity(would, toHostId),
    load(would, toHostId),
    load(fleet, toHostId),
  ];
  const over = (of: 'memoryMiB' | 'vcpu', room: number) => used[of] > room && used[of] > before[of];
  if (over('memoryMiB', has.memory.value)) return `${to} has not the memory for it`;
  if (over('vcpu', has.vcpu.value)) return `${to} has not the processors for it`;
  if (toPoolId !== null && poolFigures(would, toPoolId).left.value < 0)
    return `no pool of ${to} alone has the room for its disks`;
  return '';
}

export function hostView(fleet: Fleet, after: Fleet, id: string): RearrangedHost {
  const sharesOf = (so: Fleet) => {
    const [has, used] = [capacity(so, id), load(so, id)];
    const share = (taken: number, of: number) => (of > 0 ? (taken / of) * 100 : 0);
    return {
      guests: so.referring('guest', 'hostId', id).filter(({ state }) => state !== 'retired').length,
      memoryPercent: share(used.memoryMiB, has.memory.value),
      vcpuPercent: share(used.vcpu, has.vcpu.value),
    };
  };
  const [before, then] = [sharesOf(fleet), sharesOf(after)];
  const { name } = fleet.need('host', id);
  return { id, name, before, after: then, empty: then.guests === 0, used: null };
}

/** How full a host is in its fullest hour, before and with all where they are then. */
function usedOn(
  { use, start }: RearrangeProblem,
  at: Placing,
): (host: number) => RearrangedHost['used'] {
  if (!use) return () => null;
  const [was, is] = [usedFullness(use, start), usedFullness(use, at)];
  const fullest = ({ hours, share }: Fullness, host: number) =>
    Math.max(...Array.from({ length: hours }, (_, hour) => share(host, hour)));
  return (host) => ({ before: fullest(was, host), after: fullest(is, host) });
}

/** Why a guest stays where it should not, and the least that would let it go. */
export function stuckView(
  fleet: Fleet,
  problem: RearrangeProblem,
  { at }: Pick<Solution, 'at'>,
  unit: number,
  still: ReadonlyMap<string, string>,
  unreached?: string,
): Rearranged['stuck'][number] {
  const guest = fleet.need('guest', problem.guestIds[unit]!);
  const base = { guestId: guest.id, name: guest.name };
  const why = still.get(guest.id);
  if (why) return { ...base, why, mend: null };
  const { question } = problem;
  const closed = new Set(problem.closed);
  const left = new Set(problem.closed.map((host) => problem.hostIds[host]!));
  const { sharedPoolIds } = disksOf(fleet, guest.id);
  const { none } = hostsFor(fleet, guest, sharedPoolIds, left, unreached);
  if (none) return { ...base, why: none.sentence, mend: null };
  const free = [MEMORY, PROCESSORS, OWN_DISK].map((dim) => takenOf(question, at, dim));
  const lacks = Array.from(question.candidates[unit]!)
    .filter((host) => !closed.has(host))
    .map((host) => {
      const from = needAt(question, unit, host);
      const missing = [MEMORY, PROCESSORS, OWN_DISK].map((dim) =>
        Math.max(
          0,
          question.need[from + dim]! -
            (question.room[host * question.dims + dim]! - free[dim]![host]!),
        ),
      );
      const sum = missing.reduce(
        (all, one, dim) => all + one / Math.max(1, question.need[from + dim]!),
        0,
      );
      return { host, missing, sum };
    })
    .sort((a, b) => a.sum - b.sum);
  const least = lacks[0]!;
  const [memory, vcpu, disk] = least.missing;
  const parts = [
    memory! > 0 && `${formatMemory(memory!, 'up')} of memory`,
    vcpu! > 0 && `${vcpu} vCPU`,
    disk! > 0 && `${formatBinary(disk! * MIB, 'up')} in a pool of its own`,
  ].filter((part): part is string => Boolean(part));
  const name = fleet.need('host', problem.hostIds[least.host]!).name;
  return parts.length > 0
    ? {
        ...base,
        why: 'no host that suits it has the room',
        mend: `${name} would take it with ${fewNames(parts)} more.`,
      }
    : { ...base, why: `rules keep it from ${name} and the others that have the room`, mend: null };
}

export function toleranceOf(
  fleet: Fleet,
  after: Fleet,
  hostIds: readonly string[],
  now: string,
): Rearranged['tolerance'] {
  const mayFail = (so: Fleet) => {
    const carrying = hostIds.filter((id) => so.referringCount('guest', 'hostId', id) > 0);
    const may = carrying.filter((id) => {
      const domain = { kind: 'host' as const, id, name: so.need('host', id).name, hostIds: [id] };
      return failureFates(so, domain, now).answer === 'all restart';
    });
    return { carrying, may: new Set(may) };
  };
  const [was, is] = [mayFail(fleet), mayFail(after)];
  return {
    before: was.may.size,
    beforeOf: was.carrying.length,
    after: is.may.size,
    afterOf: is.carrying.length,
    lost: is.carrying
      .filter((id) => was.may.has(id) && !is.may.has(id))
      .map((id) => fleet.need('host', id).name),
  };
}

function wattsOf(fleet: Fleet, hosts: readonly RearrangedHost[]): number | null {
  const watts = hosts
    .filter(({ empty, before }) => empty && before.guests > 0)
    .map(({ id }) => fleet.need('host', id).drawWatts);
  return watts.includes(null) ? null : watts.reduce<number>((sum, one) => sum + one!, 0);
}

const DIMENSIONS = ['memory', 'processors', 'disks of their own'];

function sentences(
  { aim, by: evenBy, emptiedIds }: RearrangeAsk,
  fleet: Fleet,
  { cost }: RearrangeProblem,
  { proven, fewest, even, leastCost, moves: made }: Solution,
  { moves, stuck }: Pick<Rearranged, 'moves' | 'stuck'>,
): Pick<Rearranged, 'headline' | 'proof'> {
  if (aim === 'empty') {
    const names = fewNames(emptiedIds.map((id) => fleet.need('host', id).name));
    const travels = made.reduce((sum, { unit }) => sum + cost[unit]!, 0);
    return {
      headline:
        stuck.length === 0
          ? moves.length === 0
            ? `Nothing stands on ${names}.`
            : `${names} can be emptied by ${counted(moves.length, 'move')}.`
          : `${counted(stuck.length, 'guest')} cannot leave ${names}; ${counted(moves.length, 'move')} can be made.`,
      proof:
        proven === 'impossible'
          ? 'Proved: no placement of all guests on the other hosts exists, whatever moves.'
          : stuck.length > 0
            ? 'That nothing would empty it is not proved.'
            : proven === 'best'
              ? 'Proved: no plan moves less.'
              : leastCost === null
                ? ''
                : `At least ${formatMemory(leastCost, 'up')} must travel; this plan moves ${formatMemory(travels, 'up')}.`,
    };
  }
  if (stuck.length > 0)
    return {
      headline: `${counted(moves.length, 'move')} of those that were found can be made: ${stuck[0]!.name} goes no further, ${stuck[0]!.why}.`,
      proof: '',
    };
  if (aim === 'fewest' && fewest) {
    const freed = fewest.before - fewest.used;
    const by = bindingOf(fewest.bound);
    return {
      headline:
        freed > 0
          ? `${counted(fewest.used, 'host')} can hold what ${fewest.before} hold now, by ${counted(moves.length, 'move')}: ${freed} could be switched off.`
          : `No way with fewer than the ${counted(fewest.used, 'host')} of today was found.`,
      proof:
        proven === 'best'
          ? `Proved: no placement uses fewer than ${fewest.bound.hosts}${by}.`
          : `No placement uses fewer than ${fewest.bound.hosts}${by}; whether one between ${fewest.bound.hosts} and ${fewest.used} does, is open.`,
    };
  }
  const last = made.at(-1);
  const fullestHost = evenBy === 'used' ? 'the fullest hour of a host' : 'the fullest host';
  return {
    headline: last
      ? evened(moves.length, fullestHost, even!.before, last)
      : `No move makes it more even: ${fullestHost} is at ${percent(even?.before.fullest ?? 0)}.`,
    proof: `No placement has ${evenBy === 'used' ? 'a fullest hour' : 'a fullest host'} below ${percent(even?.bound ?? 0)}.`,
  };
}

function evened(
  moves: number,
  fullestHost: string,
  before: { fullest: number; spread: number },
  after: Solution['moves'][number],
): string {
  const bring = `${counted(moves, 'move')} ${moves === 1 ? 'brings' : 'bring'}`;
  const [was, is] = [percent(before.fullest), percent(after.fullest!)];
  const spread = `from ${percent(before.spread)} to ${percent(after.spread!)}`;
  return was === is
    ? `${bring} the spread ${spread}; ${fullestHost} stays at ${is}.`
    : `${bring} ${fullestHost} from ${was} to ${is}, and the spread ${spread}.`;
}

/** What keeps the number of hosts from being smaller. */
function bindingOf({ by, dims }: NonNullable<Solution['fewest']>['bound']): string {
  if (by === 'apart') return ' (guests that stay apart)';
  if (by === 'conflict') return ' (guests of which no two fit on one host)';
  if (by === 'patterns') return ' (counted over every way guests can share a host)';
  if (dims.length === 0) return '';
  const names = dims.map((dim) => DIMENSIONS[dim]).join(' and ');
  return ` (${names} ${dims.length === 1 ? 'binds' : 'bind'})`;
}

const percent = (value: number): string => `${value.toFixed(1)} %`;
