import { practice, standard } from '../figure/index.js';
import type { Fleet, Row } from '../record/index.js';
import { ruleAt, type RuleFinding } from './rule-at.js';

/** The same image twice on the shelf, and a release that a newer one follows. */
export const mediaFaults = ruleAt('medium', 'image-twice', (fleet, medium): RuleFinding[] => [
  ...twice(fleet, medium),
  ...old(fleet, medium),
]);

function twice(fleet: Fleet, medium: Row<'medium'>): RuleFinding[] {
  if (!medium.sha256) return [];
  const other = [...fleet.all('medium')].find(
    (found) => found.id !== medium.id && found.sha256.toLowerCase() === medium.sha256.toLowerCase(),
  );
  // Told once, at the one that came later.
  if (!other || other.id > medium.id) return [];
  const kept = other.poolId ? `pool ${fleet.need('pool', other.poolId).name}` : other.kept;
  return [
    {
      severity: 'note',
      evidence: `${medium.name} and ${other.name}${kept ? ` (${kept})` : ''} have the same SHA-256: they are one image.`,
      consequence: `${Math.round(medium.bytes / 1e6).toLocaleString('en-GB')} MB are kept twice, and one of them will be replaced without the other.`,
      remedy: 'Keep one, and attach that one.',
      source: standard('FIPS 180-4: equal SHA-256 digests are taken as equal images'),
    },
  ];
}

/** What is older than another release of the same system, by the day of its release. */
export function newerRelease(fleet: Fleet, medium: Row<'medium'>): Row<'medium'> | undefined {
  if (!medium.system || !medium.releasedOn) return undefined;
  const same = [...fleet.all('medium')].filter(
    (other) =>
      other.system.toLowerCase() === medium.system.toLowerCase() &&
      other.install === medium.install &&
      other.releasedOn !== null &&
      other.releasedOn > medium.releasedOn!,
  );
  return same.sort((a, b) => b.releasedOn!.localeCompare(a.releasedOn!))[0];
}

function old(fleet: Fleet, medium: Row<'medium'>): RuleFinding[] {
  const newer = newerRelease(fleet, medium);
  if (!newer) return [];
  const waiting = fleet
    .referring('drive', 'mediumId', medium.id)
    .map((drive) => fleet.need('guest', drive.guestId))
    .filter((guest) => guest.state === 'planned' || guest.state === 'building')
    .map((guest) => guest.name);
  const evidence = `${medium.name} is ${medium.system} ${medium.release} of ${medium.releasedOn}; ${newer.name} is ${newer.release} of ${newer.releasedOn}.`;
  return [
    {
      rule: 'old-release',
      severity: waiting.length ? 'caution' : 'note',
      evidence: waiting.length
        ? `${evidence} ${waiting.join(' and ')} will be installed from the old one.`
        : evidence,
      consequence:
        'What is installed from it starts with years of updates to read, or is no longer supported.',
      remedy: waiting.length
        ? 'Attach the newer one to them, then take the old one off the shelf.'
        : 'Take it off the shelf, unless something still needs it.',
      source: practice('New guests are installed from the newest release'),
    },
  ];
}
