/**
 * What happens when a host, a rack or a site fails: each of its guests restarts elsewhere, comes from a replica, comes
 * from a backup with its age and hours, or is lost. Room includes what policies keep free: it is kept for this.
 */
import { own, type Figure } from '../figure/index.js';
import { memoryDemand } from '../guest/demand.js';
import { capacity } from '../host/capacity.js';
import { load } from '../host/load.js';
import type { Fleet, Row } from '../record/index.js';
import { candidatesOf, standInsOf, type Candidates } from './candidates.js';
import {
  affectedGuests,
  failureDomains,
  fallenHosts,
  poolSurvives,
  type FailureDomain,
} from './failure.js';
import { pack, PACK_BUDGET, type Packing } from './pack.js';
import { ruleAgainst, settledNeighbours } from './rules.js';

export type Way = 'restart' | 'replica' | 'backup' | 'lost';

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
  failed: Omit<FailureDomain, 'hostIds'>;
  /** "not settled": the search gave up before it found a placement or the proof that there is none. */
  answer: 'all restart' | 'some do not' | 'not settled';
  guests: GuestFate[];
  counts: Record<Way, number>;
  /** Room left on the hosts that take over, in per cent. */
  left: { memory: Figure; vcpu: Figure };
}

const HOUR = 3_600_000;

export function failureOutcome(
  fleet: Fleet,
  domain: FailureDomain,
  now: string,
  budget = PACK_BUDGET,
): FailureOutcome {
  const fallen = fallenHosts(fleet, domain.hostIds);
  const affected = affectedGuests(fleet, fallen);
  const standIns = standInsOf(fleet, fallen);
  const candidates = new Map(
    affected.map((guest) => [guest.id, candidatesOf(fleet, guest, fallen, standIns)]),
  );
  const movable = affected.filter((guest) => candidates.get(guest.id)!.hostIds.length > 0);
  const packing = packThem(fleet, movable, candidates, fallen, budget);
  const guests = affected
    .map((guest) => fateOf(fleet, guest, candidates.get(guest.id)!, packing, fallen, now))
    .sort((a, b) => ORDER[a.way] - ORDER[b.way] || a.name.localeCompare(b.name));
  const counts: Record<Way, number> = { restart: 0, replica: 0, backup: 0, lost: 0 };
  for (const { way } of guests) counts[way] += 1;
  const whole = counts.backup + counts.lost === 0;
  const { kind, id, name } = domain;
  return {
    failed: { kind, id, name },
    answer: whole
      ? 'all restart'
      : packing.answer === 'not settled' && movable.length === affected.length
        ? 'not settled'
        : 'some do not',
    guests,
    counts,
    left: leftAfter(fleet, packing, movable),
  };
}

const ORDER: Record<Way, number> = { lost: 0, backup: 1, replica: 2, restart: 3 };

function packThem(
  fleet: Fleet,
  guests: Row<'guest'>[],
  candidates: Map<string, Candidates>,
  fallen: ReadonlySet<string>,
  budget: number,
): Packing {
  const hosts = new Set(guests.flatMap((guest) => candidates.get(guest.id)!.hostIds));
  const moving = new Set(guests.map((guest) => guest.id));
  const settled = settledNeighbours(fleet, moving);
  for (const [guestId, hostId] of settled) if (fallen.has(hostId)) settled.delete(guestId);
  const stays = new Set(
    guests.filter((guest) => !fallen.has(guest.hostId)).map((guest) => guest.id),
  );
  const rooms = [...hosts].map((id) => {
    const [has, used] = [capacity(fleet, id), load(fleet, id)];
    // A guest that only lost its pool gives its own room back.
    const own = guests.filter((guest) => stays.has(guest.id) && guest.hostId === id);
    return {
      id,
      vcpu: has.vcpu.value - used.vcpu + own.reduce((sum, guest) => sum + guest.vcpu, 0),
      memoryMiB:
        has.memory.value -
        used.memoryMiB +
        own.reduce((sum, guest) => sum + memoryDemand(fleet, id, guest.vcpu, guest.memoryMiB), 0),
    };
  });
  const pieces = guests.map((guest) => ({
    id: guest.id,
    vcpu: guest.vcpu,
    candidates: candidates.get(guest.id)!.hostIds,
    memoryOn: (hostId: string) => memoryDemand(fleet, hostId, guest.vcpu, guest.memoryMiB),
  }));
  const ruled = guests.some(
    (guest) => fleet.referringCount('placementMember', 'guestId', guest.id) > 0,
  );
  const against = (guestId: string, hostId: string, placed: ReadonlyMap<string, string>) =>
    ruleAgainst(fleet, guestId, hostId, new Map([...settled, ...placed])) !== null;
  return pack(pieces, rooms, ruled ? against : undefined, budget);
}

function fateOf(
  fleet: Fleet,
  guest: Row<'guest'>,
  candidates: Candidates,
  packing: Packing,
  fallen: ReadonlySet<string>,
  now: string,
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
      : 'no room on the hosts within reach');
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

function leftAfter(fleet: Fleet, packing: Packing, guests: Row<'guest'>[]): FailureOutcome['left'] {
  const hosts = [...new Set([...packing.placement.values()])];
  const taken = (of: (guest: Row<'guest'>, hostId: string) => number) =>
    guests.reduce(
      (sum, guest) =>
        sum + (packing.placement.has(guest.id) ? of(guest, packing.placement.get(guest.id)!) : 0),
      0,
    );
  const figure = (
    name: string,
    unit: 'MiB' | 'vCPU',
    total: number,
    used: number,
    arriving: number,
  ): Figure => {
    const value = total === 0 ? null : ((total - used - arriving) / total) * 100;
    return {
      name,
      title: `Room left afterwards, ${unit === 'MiB' ? 'memory' : 'processors'}`,
      value,
      unit: 'percent',
      lines: [
        { label: `On the ${hosts.length} hosts that take over`, value: total, unit, operator: '·' },
        { label: 'Taken before', value: used, unit, operator: '−' },
        { label: 'Arriving', value: arriving, unit, operator: '−' },
        { label: 'Left of that', value, unit: 'percent', operator: '=' },
      ],
      sources: [own('What policies keep free counts as room here: it is kept for this')],
    };
  };
  const sum = (of: (hostId: string) => number) => hosts.reduce((total, id) => total + of(id), 0);
  return {
    memory: figure(
      'memory-left-after',
      'MiB',
      sum((id) => capacity(fleet, id).memory.value),
      sum((id) => load(fleet, id).memoryMiB),
      taken((guest, hostId) => memoryDemand(fleet, hostId, guest.vcpu, guest.memoryMiB)),
    ),
    vcpu: figure(
      'vcpu-left-after',
      'vCPU',
      sum((id) => capacity(fleet, id).vcpu.value),
      sum((id) => load(fleet, id).vcpu),
      taken((guest) => guest.vcpu),
    ),
  };
}

export interface ToleranceLine {
  failed: FailureOutcome['failed'];
  answer: FailureOutcome['answer'];
  counts: Record<Way, number>;
}

export interface Tolerance {
  hosts: ToleranceLine[];
  racks: ToleranceLine[];
  sites: ToleranceLine[];
}

/** The answer for every host, rack and site. @param pause called between failures, so that a worker can hear other questions or stop */
export async function tolerance(
  fleet: Fleet,
  now: string,
  pause: () => Promise<boolean> = () => Promise.resolve(true),
): Promise<Tolerance | null> {
  const found: Tolerance = { hosts: [], racks: [], sites: [] };
  for (const domain of failureDomains(fleet)) {
    if (!(await pause())) return null;
    const { failed, answer, counts } = failureOutcome(fleet, domain, now);
    found[domain.kind === 'host' ? 'hosts' : domain.kind === 'rack' ? 'racks' : 'sites'].push({
      failed,
      answer,
      counts,
    });
  }
  return found;
}
