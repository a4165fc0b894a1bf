import { own, practice } from '../figure/index.js';
import type { Fleet, Row } from '../record/index.js';
import { ruleAt, type RuleFinding } from './rule-at.js';
import { daysUntil, daysSince } from '../record/index.js';

/** Days after which a snapshot is worth a word, and a worry. Common practice: days, not weeks. */
const SNAPSHOT_DAYS = [7, 30] as const;
/** Days that a guest may lie stopped before it is called forgotten. */
const FORGOTTEN_DAYS = 90;
const AHEAD = 30;

/** Snapshots that grow old, guests past their day, forgotten ones, those that matter and are nobody's, bases that run. */
export const guestLifecycleFaults = ruleAt(
  'guest',
  'snapshot-old',
  (fleet, guest, now): RuleFinding[] => [
    ...snapshots(fleet, guest, now),
    ...overdue(fleet, guest, now),
    ...forgotten(fleet, guest, now),
    ...unowned(fleet, guest),
    ...runningBase(fleet, guest),
  ],
);

function snapshots(fleet: Fleet, guest: Row<'guest'>, now: string): RuleFinding[] {
  if (fleet.referringCount('snapshot', 'guestId', guest.id) === 0) return [];
  return fleet.referring('snapshot', 'guestId', guest.id).flatMap((snapshot): RuleFinding[] => {
    const age = daysSince(fleet, snapshot.takenAt, now);
    const past = snapshot.keepUntil !== null && daysUntil(fleet, snapshot.keepUntil, now) < 0;
    if (age < SNAPSHOT_DAYS[0] && !past) return [];
    const pool = fleet.need('pool', snapshot.poolId).name;
    const grows = snapshot.growthBytesPerDay
      ? `, grows by ${(snapshot.growthBytesPerDay / 1e9).toFixed(1)} GB a day`
      : '';
    return [
      {
        at: snapshot.id,
        severity: age >= SNAPSHOT_DAYS[1] || past ? 'caution' : 'note',
        evidence: `Snapshot ${snapshot.name} of ${guest.name} is ${age} ${age === 1 ? 'day' : 'days'} old${past ? `, kept until ${snapshot.keepUntil}` : ''}${grows}${snapshot.why ? `; taken for: ${snapshot.why}` : ''}.`,
        consequence: `It grows with every write until pool ${pool} is full, slows its guest, and going back to it loses all since.`,
        remedy: 'Delete it if the work it was for is done. It is no backup.',
        source: practice('Snapshots are kept for days'),
      },
    ];
  });
}

function overdue(fleet: Fleet, guest: Row<'guest'>, now: string): RuleFinding[] {
  if (!guest.endDate) return [];
  const days = daysUntil(fleet, guest.endDate, now);
  if (days > AHEAD) return [];
  const who = guest.owner ? `Ask ${guest.owner}, then` : 'Find out whose it is, then';
  if (days < 0)
    return [
      {
        rule: 'guest-overdue',
        severity: 'caution',
        evidence: `${guest.name} was wanted until ${guest.endDate} and is ${guest.state}.`,
        consequence: 'It takes room and an address, and nobody reads its updates any more.',
        remedy: `${who} retire it or set a new day.`,
        source: own('End date of the guest'),
      },
    ];
  return [
    {
      rule: 'guest-overdue',
      severity: 'note',
      evidence: `${guest.name} is wanted until ${guest.endDate}, ${days === 0 ? 'today' : `in ${days} ${days === 1 ? 'day' : 'days'}`}.`,
      consequence: 'After that day its room is free.',
      remedy: `${who} plan its end, or set a new day.`,
      source: own(`Told ${AHEAD} days ahead`),
    },
  ];
}

function forgotten(fleet: Fleet, guest: Row<'guest'>, now: string): RuleFinding[] {
  if (
    guest.state !== 'stopped' ||
    guest.template ||
    !guest.stateAt ||
    fleet.referringCount('clone', 'originId', guest.id) > 0
  )
    return [];
  const days = daysSince(fleet, guest.stateAt, now);
  if (
    days < FORGOTTEN_DAYS ||
    (guest.confirmedAt && daysSince(fleet, guest.confirmedAt, now) < FORGOTTEN_DAYS)
  )
    return [];
  return [
    {
      rule: 'guest-forgotten',
      severity: 'note',
      evidence: `${guest.name} has been stopped for ${days} days, and nobody has confirmed it since.`,
      consequence:
        'It holds disk, addresses and memory; started one day, it is years behind its updates.',
      remedy: 'Confirm that it is still wanted, or retire it.',
      source: practice(`Stopped guests are looked at after ${FORGOTTEN_DAYS} days`),
    },
  ];
}

function unowned(fleet: Fleet, guest: Row<'guest'>): RuleFinding[] {
  if (guest.state !== 'in service' || guest.owner || guest.criticality !== 'high') return [];
  return [
    {
      rule: 'guest-unowned',
      severity: 'note',
      evidence: `${guest.name} is of high criticality, and nobody is named as its owner.`,
      consequence: 'Nobody can be asked when it may be down, or told when it is.',
      remedy: 'Name its owner.',
      source: practice('What matters has an owner'),
    },
  ];
}

function runningBase(fleet: Fleet, guest: Row<'guest'>): RuleFinding[] {
  if (guest.state !== 'in service' || fleet.referringCount('clone', 'originId', guest.id) === 0)
    return [];
  const dependents = fleet
    .referring('volume', 'guestId', guest.id)
    .reduce((sum, volume) => sum + fleet.referringCount('volume', 'baseId', volume.id), 0);
  if (dependents === 0) return [];
  return [
    {
      rule: 'base-in-service',
      severity: 'blocker',
      evidence: `${guest.name} is in service, and ${dependents} ${dependents === 1 ? 'volume' : 'volumes'} of dependent clones share its blocks.`,
      consequence: 'Every block it writes breaks theirs.',
      remedy: 'Stop it; make the clones whole before it is used again.',
      source: practice('The base of dependent clones is never altered'),
    },
  ];
}
