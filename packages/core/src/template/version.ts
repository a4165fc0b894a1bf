/** What the record says of a template's versions: whose disks they are, how old, and what hangs on them. */
import { practice } from '../figure/index.js';
import { type Fleet, type Row, daysSince } from '../record/index.js';

export type Version = Row<'templateVersion'>;

/** Days after which a version is worth a word, a worry, and a reason to clone it all the same. Common practice, no source. */
export const AGE_DAYS = { note: 30, caution: 90, reason: 180 } as const;
export const AGE_SOURCE = practice(
  `A template is remade after ${AGE_DAYS.note} days, at the latest after ${AGE_DAYS.caution}`,
);

/** The version whose disks a guest holds, if it is one. */
export const versionOf = (fleet: Fleet, guestId: string): Version | undefined =>
  fleet.referring('templateVersion', 'guestId', guestId)[0];

/** Versions of a template, the newest first. */
export const versionsOf = (fleet: Fleet, templateId: string): Version[] =>
  fleet.referring('templateVersion', 'templateId', templateId).sort((a, b) => b.number - a.number);

export type VersionState = 'being prepared' | 'sealed' | 'retired';
export const stateOfVersion = ({ sealedAt, retiredAt }: Version): VersionState =>
  retiredAt !== null ? 'retired' : sealedAt !== null ? 'sealed' : 'being prepared';

/** The newest that is sealed and not retired: what clones are made from. */
export const currentVersion = (fleet: Fleet, templateId: string): Version | undefined =>
  versionsOf(fleet, templateId).find((version) => stateOfVersion(version) === 'sealed');

/** Such as "gauge v3". */
export const versionName = (fleet: Fleet, version: Version): string =>
  `${fleet.need('template', version.templateId).name} v${version.number}`;

/** Whole days since it was sealed; null while it is not. */
export const ageOfVersion = (fleet: Fleet, { sealedAt }: Version, now: string): number | null =>
  sealedAt === null ? null : daysSince(fleet, sealedAt, now);

/** Whether its identity was taken off before it was sealed, so that a copy draws its own. */
export const isGeneralised = (fleet: Fleet, versionId: string): boolean =>
  fleet
    .referring('sealItem', 'versionId', versionId)
    .some(({ item, doneAt }) => item === 'identity generalised' && doneAt !== null);

/** Guests whose disks share blocks with those of a guest. */
export function dependentsOf(fleet: Fleet, guestId: string): Row<'guest'>[] {
  const ids = fleet
    .referring('volume', 'guestId', guestId)
    .flatMap((volume) => fleet.referring('volume', 'baseId', volume.id))
    .map((volume) => volume.guestId);
  return [...new Set(ids)].map((id) => fleet.need('guest', id));
}
