/**
 * What happens when a host, a rack or a site fails: each of its guests restarts elsewhere, comes from a replica, comes
 * from a backup with its age and hours, or is lost. Room includes what policies keep free: it is kept for this.
 */
import { own, type Sure } from '../figure/index.js';
import { memoryDemand } from '../guest/demand.js';
import { capacity } from '../host/capacity.js';
import { load } from '../host/load.js';
import { outageOf } from '../host/power.js';
import { settle, type Exactly, type Settled } from '../packing/index.js';
import { counted, formatMemory } from '../quantity/index.js';
import type { Fleet, Row } from '../record/index.js';
import { candidatesOf, matesOf, standInsOf, type Candidates } from './candidates.js';
import { affectedGuests, fallenHosts, poolSurvives, type FailureDomain } from './failure.js';
import { leastMend } from './least-mend.js';
import {
  groupNumbers,
  hostNumbers,
  MEMORY,
  PROCESSORS,
  questionOf,
  roomLeft,
  type FleetQuestion,
} from './fleet-question.js';

/** "waits": its disks are intact on storage that stays; it is down until a host can take it. */
export type Way = 'restart' | 'replica' | 'waits' | 'backup' | 'lost';

export interface GuestFate {
  guestId: string;
  name: string;
  hostId: string;
  way: Way;
  /** The witness: where it comes back, if it restarts or comes from a replica. */
  onHostId: string | null;
  memoryMiB: number;
  vcpu: number;
  sentence: string;
}

export interface FailureOutcome {
  failed: Pick<FailureDomain, 'kind' | 'id' | 'name'>;
  /** "not settled": the search gave up before it found a placement or the proof that there is none. */
  answer: 'all restart' | 'some do not' | 'not settled';
  guests: GuestFate[];
  counts: Record<Way, number>;
  /** What stays free on all hosts that stay in service, and the largest gap on one of them; null where none stays. */
  left: {
    hosts: number;
    memory: Sure;
    vcpu: Sure;
    largestGap: { id: string; name: string; memoryMiB: number; vcpu: number };
  } | null;
  /** Hosts that are gone. */
  fallenIds: string[];
  /** The least that would let all restart, where room is what is lacking and one host could give it. */
  mend: string | null;
  /** What the answer takes for granted. */
  assumes: string | null;
}

const HOUR = 3_600_000;

/** How far is searched: steps before it gives up, and who is asked then. */
export interface Search {
  budget?: number;
  exactly?: Exactly;
}

export function failureOutcome(
  fleet: Fleet,
  domain: FailureDomain,
  now: string,
  search: Search = {},
): FailureOutcome {
  const { packing, movable, fallen, ...fates } = fatesOf(fleet, domain, now, search);
  return {
    ...fates,
    left: leftAfter(fleet, packing, movable, fallen),
    fallenIds: [...fallen],
    mend: packing.answer === 'does not fit' ? leastMend(fleet, packing.question, fallen) : null,
    assumes: assumedOf(fleet, domain),
  };
}

function assumedOf(fleet: Fleet, { kind, id }: FailureDomain): string | null {
  if (kind === 'switch')
    return 'A host all of whose recorded cables go there counts as failed. Paths to storage are not asked.';
  if (kind !== 'feed') return null;
  const { tripped, unknown } = outageOf(fleet, id);
  const after = tripped.map(
    ({ feedId, watts, allowed }) =>
      `${fleet.need('powerFeed', feedId).name} trips after it: ${Math.round(watts)} W, ${allowed} W allowed`,
  );
  return [
    ...after.map((one) => `${one}.`),
    'Supplies that have power share what a host draws equally. Switches and storage of their own are not asked.',
    ...(unknown > 0
      ? [
          `What ${counted(unknown, 'host')} on the feeds that go on ${unknown === 1 ? 'draws' : 'draw'} is not recorded, and not counted.`,
        ]
      : []),
  ].join(' ');
}

/** What becomes of the guests. Its cost grows with them and their candidates, not with all hosts. */
export function fatesOf(fleet: Fleet, domain: FailureDomain, now: string, search: Search = {}) {
  const fallen = fallenHosts(fleet, domain.hostIds);
  const affected = affectedGuests(fleet, fallen, domain.cut);
  const standIns = standInsOf(fleet, fallen);
  const candidates = new Map(
    affected.map((guest) => [guest.id, candidatesOf(fleet, guest, fallen, standIns, domain.cut)]),
  );
  const movable = affected.filter((guest) => candidates.get(guest.id)!.none === null);
  const packing = packThem(fleet, movable, candidates, fallen, search);
  const guests = affected
    .map((guest) =>
      fateOf(fleet, guest, candidates.get(guest.id)!, { packing, movable, fallen, now }),
    )
    .sort((a, b) => ORDER[a.way] - ORDER[b.way] || a.name.localeCompare(b.name));
  const counts: Record<Way, number> = { restart: 0, replica: 0, waits: 0, backup: 0, lost: 0 };
  for (const { way } of guests) counts[way] += 1;
  const whole = counts.waits + counts.backup + counts.lost === 0;
  const { kind, id, name } = domain;
  const answer: FailureOutcome['answer'] = whole
    ? 'all restart'
    : packing.answer === 'not settled' && movable.length === affected.length
      ? 'not settled'
      : 'some do not';
  return { failed: { kind, id, name }, answer, guests, counts, packing, movable, fallen };
}

const ORDER: Record<Way, number> = { lost: 0, backup: 1, waits: 2, replica: 3, restart: 4 };

/** Where guests went, or as many of them as found a place. */
interface Packing {
  answer: Settled['answer'];
  placement: ReadonlyMap<string, string>;
}

function packThem(
  fleet: Fleet,
  guests: readonly Row<'guest'>[],
  candidates: ReadonlyMap<string, Candidates>,
  fallen: ReadonlySet<string>,
  { budget, exactly }: Search,
): Packing & { question: FleetQuestion } {
  const groupIds = new Set(guests.map(({ hostId }) => fleet.need('host', hostId).groupId));
  const [first = null] = groupIds;
  const hosts =
    groupIds.size === 1
      ? groupNumbers(fleet, first)
      : hostNumbers(
          fleet,
          [...groupIds].flatMap((id) => matesOf(fleet, id)),
        );
  const question = questionOf(fleet, {
    guests,
    fallen,
    hosts,
    candidates: new Map(guests.map(({ id }) => [id, candidates.get(id)!.suitable])),
  });
  // A guest that only lost its pool gives its own room back.
  for (const { id, hostId, vcpu, memoryMiB } of guests) {
    const host = hosts.indexOf.get(hostId);
    if (host === undefined || fallen.has(hostId) || !candidates.has(id)) continue;
    question.room[host * 2 + MEMORY]! += memoryDemand(fleet, hostId, vcpu, memoryMiB);
    question.room[host * 2 + PROCESSORS]! += vcpu;
  }
  const { answer, at } = settle(question, budget, exactly);
  const placement = new Map<string, string>();
  for (const [unit, guest] of guests.entries())
    if (at[unit]! >= 0) placement.set(guest.id, question.hostIds[at[unit]!]!);
  return { answer, placement, question };
}

interface Aftermath {
  packing: Packing;
  movable: readonly Row<'guest'>[];
  fallen: ReadonlySet<string>;
  now: string;
}

function fateOf(
  fleet: Fleet,
  guest: Row<'guest'>,
  candidates: Candidates,
  { packing, movable, fallen, now }: Aftermath,
): GuestFate {
  const base = {
    guestId: guest.id,
    name: guest.name,
    hostId: guest.hostId,
    memoryMiB: guest.memoryMiB,
    vcpu: guest.vcpu,
  };
  const onHostId = packing.placement.get(guest.id) ?? null;
  if (onHostId) {
    const host = fleet.need('host', onHostId).name;
    const replica =
      candidates.way === 'replica' ? freshest(fleet, guest.id, 'replica', fallen) : undefined;
    return {
      ...base,
      way: candidates.way,
      onHostId,
      sentence: replica
        ? `from its replica on ${host}, ${ageOf(replica, now)} old`
        : `restarts on ${host}`,
    };
  }
  const why =
    candidates.none?.sentence ??
    (packing.answer === 'not settled'
      ? 'whether there is room is not settled'
      : noRoom(
          fleet,
          guest,
          candidates.suitable.filter((id) => !fallen.has(id)),
          packing,
          movable,
        ));
  const volumes = fleet.referring('volume', 'guestId', guest.id);
  if (volumes.length > 0 && volumes.every(({ poolId }) => poolSurvives(fleet, poolId, fallen)))
    return {
      ...base,
      way: 'waits',
      onHostId: null,
      sentence: `${candidates.none ? 'down' : 'down until there is room'}, its disks are intact: ${why}`,
    };
  const backup = freshest(fleet, guest.id, 'backup', fallen);
  if (!backup)
    return { ...base, way: 'lost', onHostId: null, sentence: `${why}; no backup survives` };
  const hours =
    backup.restoreMinutes === null
      ? 'time to restore never tried'
      : `about ${hoursOf(backup.restoreMinutes)} to restore`;
  return {
    ...base,
    way: 'backup',
    onHostId: null,
    sentence: `${why}; backup ${ageOf(backup, now)} old, ${hours}`,
  };
}

/** The newest copy whose place survives. A store that is a guest must not run on a fallen host with its pool. */
function freshest(
  fleet: Fleet,
  guestId: string,
  way: 'backup' | 'replica',
  fallen: ReadonlySet<string>,
): Row<'backup'> | undefined {
  return fleet
    .referring('backup', 'guestId', guestId)
    .filter(
      (copy) =>
        copy.way === way && copy.lastSuccessAt !== null && copySurvives(fleet, copy, fallen),
    )
    .sort((a, b) => b.lastSuccessAt!.localeCompare(a.lastSuccessAt!))[0];
}

export function copySurvives(
  fleet: Fleet,
  copy: Row<'backup'>,
  fallen: ReadonlySet<string>,
): boolean {
  if (copy.poolId) return poolSurvives(fleet, copy.poolId, fallen);
  if (!copy.storeGuestId) return true;
  return fleet
    .referring('volume', 'guestId', copy.storeGuestId)
    .every((volume) => poolSurvives(fleet, volume.poolId, fallen));
}

const ageOf = (copy: Row<'backup'>, now: string): string =>
  hoursOf(Math.max(0, Date.parse(now) - Date.parse(copy.lastSuccessAt!)) / 60_000);

function hoursOf(minutes: number): string {
  if (minutes < 90) return `${Math.round(minutes)} min`;
  const hours = minutes / 60;
  return hours < 48
    ? `${Math.round(hours)} h`
    : `${Math.round((minutes * 60_000) / (24 * HOUR))} days`;
}

/** Memory and processors that stay free on each of these hosts once the guests have landed. */
function freeAfter(
  fleet: Fleet,
  packing: Packing,
  guests: readonly Row<'guest'>[],
  hostIds: Iterable<string>,
): Map<string, { memoryMiB: number; vcpu: number }> {
  const free = new Map([...hostIds].map((id) => [id, roomLeft(fleet, id)]));
  for (const guest of guests) {
    const landed = free.get(packing.placement.get(guest.id) ?? '');
    if (!landed || packing.placement.get(guest.id) === guest.hostId) continue;
    landed.memoryMiB -= memoryDemand(
      fleet,
      packing.placement.get(guest.id)!,
      guest.vcpu,
      guest.memoryMiB,
    );
    landed.vcpu -= guest.vcpu;
  }
  return free;
}

function leftAfter(
  fleet: Fleet,
  packing: Packing,
  guests: Row<'guest'>[],
  fallen: ReadonlySet<string>,
): FailureOutcome['left'] {
  const hosts = [...fleet.all('host')].filter(
    (host) => host.state === 'in service' && !fallen.has(host.id),
  );
  if (hosts.length === 0) return null;
  const free = freeAfter(
    fleet,
    packing,
    guests,
    hosts.map(({ id }) => id),
  );
  const [largest] = hosts
    .map(({ id, name }) => ({ id, name, ...free.get(id)! }))
    .sort((a, b) => b.memoryMiB - a.memoryMiB);
  const sum = (of: (hostId: string) => number) =>
    hosts.reduce((total, { id }) => total + of(id), 0);
  const figure = (
    name: string,
    unit: 'MiB' | 'vCPU',
    total: number,
    used: number,
    left: number,
  ): Sure => ({
    name,
    title: `Left afterwards, ${unit === 'MiB' ? 'memory' : 'processors'}`,
    value: left,
    unit,
    lines: [
      {
        label:
          hosts.length === 1
            ? `On ${hosts[0]!.name}, which stays`
            : `On the ${hosts.length} hosts that stay`,
        value: total,
        unit,
        operator: '·',
      },
      { label: 'Taken before', value: used, unit, operator: '−' },
      { label: 'Arriving', value: total - used - left, unit, operator: '−' },
      { label: 'Left, over all of them', value: left, unit, operator: '=' },
    ],
    sources: [own('What policies keep free counts as room here: it is kept for this')],
  });
  const left = [...free.values()];
  return {
    hosts: hosts.length,
    memory: figure(
      'memory-left-after',
      'MiB',
      sum((id) => capacity(fleet, id).memory.value),
      sum((id) => load(fleet, id).memoryMiB),
      left.reduce((total, { memoryMiB }) => total + memoryMiB, 0),
    ),
    vcpu: figure(
      'vcpu-left-after',
      'vCPU',
      sum((id) => capacity(fleet, id).vcpu.value),
      sum((id) => load(fleet, id).vcpu),
      left.reduce((total, { vcpu }) => total + vcpu, 0),
    ),
    largestGap: largest!,
  };
}

/** Why a guest found no place among hosts that could take it: free in all, the largest gap, what it asks. */
function noRoom(
  fleet: Fleet,
  guest: Row<'guest'>,
  candidates: readonly string[],
  packing: Packing,
  moving: readonly Row<'guest'>[],
): string {
  const free = [...freeAfter(fleet, packing, moving, candidates).values()];
  const asked = Math.min(
    ...candidates.map((id) => memoryDemand(fleet, id, guest.vcpu, guest.memoryMiB)),
  );
  const gap = Math.max(0, ...free.map(({ memoryMiB }) => memoryMiB));
  if (gap >= asked) {
    const most = Math.max(0, ...free.map(({ vcpu }) => vcpu));
    return `no room on the hosts within reach: at most ${most} vCPU free on one, ${guest.vcpu} asked`;
  }
  const total = free.reduce((sum, { memoryMiB }) => sum + Math.max(0, memoryMiB), 0);
  return `no room on the hosts within reach: ${formatMemory(total, 'down')} free, no gap larger than ${formatMemory(gap, 'down')}, ${formatMemory(asked, 'up')} asked`;
}
