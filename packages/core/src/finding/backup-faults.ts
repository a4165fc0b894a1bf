import { own, practice } from '../figure/index.js';
import { homeOf } from '../placement/index.js';
import type { Fleet, Row } from '../record/index.js';
import type { Finding, Rule } from './finding.js';
import { isOlder } from '../record/index.js';

/** A copy is late when it is older than this many intervals. */
const LATE = 1.5;
const MINUTE = 60_000;

/** A backup that is late, was never restored, or lies with what it protects. */
export const backupFaults: Rule<'backup'> = {
  name: 'backup-faults',
  kind: 'backup',
  look: (fleet, id, now) => {
    const copy = fleet.need('backup', id);
    const guest = fleet.need('guest', copy.guestId);
    if (guest.state === 'retired') return [];
    return [
      late(fleet, copy, guest, now),
      neverRestored(copy, guest),
      samePlace(fleet, copy, guest),
    ].flatMap((found) => found ?? []);
  },
};

type Fault = Finding | undefined;
const about = (guest: Row<'guest'>) => ({ kind: 'guest' as const, id: guest.id, name: guest.name });
const mend = (guest: Row<'guest'>) => ({
  label: `Open ${guest.name}`,
  kind: 'open' as const,
  id: guest.id,
});

function late(fleet: Fleet, copy: Row<'backup'>, guest: Row<'guest'>, now: string): Fault {
  const mayBe = LATE * copy.everyMinutes * MINUTE;
  if (copy.lastSuccessAt !== null && !isOlder(fleet, copy.lastSuccessAt, mayBe, now))
    return undefined;
  const last =
    copy.lastSuccessAt === null
      ? 'has never succeeded'
      : `last succeeded on ${copy.lastSuccessAt.slice(0, 16).replace('T', ' ')}`;
  return {
    id: `backup-late|${copy.id}`,
    rule: 'backup-late',
    severity: 'caution',
    about: about(guest),
    evidence: `The ${copy.way} of ${guest.name} ${last}; it is due every ${everyWords(copy.everyMinutes)}.`,
    consequence: 'After a failure all that was written since is gone.',
    remedy: 'Look why it did not run, run it by hand, record the success.',
    source: own(`Late when older than ${LATE} intervals`),
    mend: mend(guest),
  };
}

function neverRestored(copy: Row<'backup'>, guest: Row<'guest'>): Fault {
  if (copy.way === 'replica' || copy.lastRestoreTestAt !== null) return undefined;
  return {
    id: `backup-never-restored|${copy.id}`,
    rule: 'backup-never-restored',
    severity: 'note',
    about: about(guest),
    evidence: `The backup of ${guest.name} was never restored as a test.`,
    consequence: 'Whether it can be restored, and in how many hours, is a hope.',
    remedy: 'Restore it beside the original, without its network, and record how long it took.',
    source: practice('A backup counts once it was restored'),
    mend: mend(guest),
  };
}

function samePlace(fleet: Fleet, copy: Row<'backup'>, guest: Row<'guest'>): Fault {
  const where = sharedPlace(fleet, copy, guest);
  if (!where) return undefined;
  return {
    id: `backup-on-same-host|${copy.id}`,
    rule: 'backup-on-same-host',
    severity: 'blocker',
    about: about(guest),
    evidence: `The ${copy.way} of ${guest.name} lies on ${where}, where ${guest.name} itself lies.`,
    consequence: 'What destroys the one destroys the other: it is not a copy.',
    remedy: 'Keep it on a pool of another host, better at another site.',
    source: practice('3-2-1: copies apart from what they protect'),
    mend: mend(guest),
  };
}

function sharedPlace(fleet: Fleet, copy: Row<'backup'>, guest: Row<'guest'>): string | null {
  const pools = fleet.referring('volume', 'guestId', guest.id).map((volume) => volume.poolId);
  const stores = copy.poolId
    ? [copy.poolId]
    : copy.storeGuestId
      ? fleet.referring('volume', 'guestId', copy.storeGuestId).map((volume) => volume.poolId)
      : [];
  const same = stores.find((poolId) => pools.includes(poolId));
  if (same) return `pool ${fleet.need('pool', same).name}`;
  const homes = new Set(
    pools.map((poolId) => homeOf(fleet, fleet.need('pool', poolId))).filter((id) => id !== null),
  );
  const home = stores
    .map((poolId) => homeOf(fleet, fleet.need('pool', poolId)))
    .find((id) => id !== null && homes.has(id));
  return home ? `disks of ${fleet.need('host', home).name}` : null;
}

function everyWords(minutes: number): string {
  if (minutes % 1440 === 0) return minutes === 1440 ? 'day' : `${minutes / 1440} days`;
  if (minutes % 60 === 0) return minutes === 60 ? 'hour' : `${minutes / 60} hours`;
  return `${minutes} minutes`;
}
