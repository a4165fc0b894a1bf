import { practice } from '../figure/index.js';
import { checkedAt } from '../guest/index.js';
import type { Fleet, Row } from '../record/index.js';
import { ruleAt, type RuleFinding } from './rule-at.js';

/** A medium left in, a guest that cannot boot, one that was built here and never checked. */
export const guestBuildFaults = ruleAt('guest', 'medium-left-in', (fleet, guest): RuleFinding[] => {
  if (guest.template) return [];
  const drives =
    fleet.referringCount('drive', 'guestId', guest.id) > 0
      ? fleet.referring('drive', 'guestId', guest.id)
      : [];
  return [
    ...leftIn(fleet, guest, drives),
    ...cannotBoot(fleet, guest, drives),
    ...unchecked(fleet, guest),
  ];
});

function leftIn(fleet: Fleet, guest: Row<'guest'>, drives: readonly Row<'drive'>[]): RuleFinding[] {
  if (guest.state !== 'in service' && guest.state !== 'stopped') return [];
  const inside = drives.filter((drive) => drive.atPowerOn);
  if (inside.length === 0 || hasNoDisk(fleet, guest)) return [];
  const names = inside.map((drive) => fleet.need('medium', drive.mediumId).name).join(' and ');
  if (guest.bootFirst === 'medium') {
    return [
      {
        severity: 'blocker',
        evidence: `${names} is still attached to ${guest.name}, and the medium is first in its boot order.`,
        consequence:
          'At its next start the installer comes up instead of the guest, and may overwrite its disk.',
        remedy: 'Eject the medium and put the disk first.',
        source: practice('A medium is ejected before the first restart'),
      },
    ];
  }
  return [
    {
      severity: 'note',
      evidence: `${names} is still attached to ${guest.name}.`,
      consequence:
        'It cannot move to a host that does not reach the medium, and is one slip in the boot order away from its installer.',
      remedy: 'Eject it.',
      source: practice('A medium is ejected before the first restart'),
    },
  ];
}

/** At most one volume holds UEFI variables: of two, one is a disk. */
const hasNoDisk = (fleet: Fleet, guest: Row<'guest'>): boolean =>
  fleet.referringCount('volume', 'guestId', guest.id) < 2 &&
  !fleet.referring('volume', 'guestId', guest.id).some((volume) => volume.use === 'disk');

function cannotBoot(
  fleet: Fleet,
  guest: Row<'guest'>,
  drives: readonly Row<'drive'>[],
): RuleFinding[] {
  if (guest.bootFirst === 'network' || !hasNoDisk(fleet, guest)) return [];
  if (drives.some((drive) => drive.atPowerOn)) return [];
  const cut = drives.length ? ', and its medium is not connected at power-on' : ' and no medium';
  return [
    {
      rule: 'nothing-to-boot',
      severity: guest.state === 'in service' ? 'caution' : 'blocker',
      evidence: `${guest.name} has no disk${cut}.`,
      consequence: 'It finds nothing to start from.',
      remedy: drives.length
        ? 'Connect the medium at power-on.'
        : 'Give it a volume, attach a medium, or note that it starts from the network.',
      source: practice('A guest has a disk, a medium or a boot server'),
    },
  ];
}

function unchecked(fleet: Fleet, guest: Row<'guest'>): RuleFinding[] {
  if (guest.state !== 'in service') return [];
  const ticks =
    fleet.referringCount('buildTick', 'guestId', guest.id) > 0
      ? fleet.referring('buildTick', 'guestId', guest.id)
      : [];
  // Planned here and put into service here: one that was only recorded has proved itself.
  if (!(guest.nameAssigned && guest.stateAt) && ticks.length === 0) return [];
  const { passed, failed } = checkedAt(ticks);
  const source = practice(
    'A guest is checked from inside and from a peer before it goes into service',
  );
  if (failed.length)
    return [
      {
        rule: 'guest-not-verified',
        severity: 'caution',
        evidence: `${guest.name} is in service although a first check failed: ${failed.join(', ')}.`,
        consequence: 'What did not answer then will not answer those who need it.',
        remedy: 'Mend it, check again, and tick the step anew.',
        source,
      },
    ];
  if (passed > 0) return [];
  return [
    {
      rule: 'guest-not-verified',
      severity: 'note',
      evidence: `${guest.name} was planned here, is in service, and none of its first checks is ticked.`,
      consequence: 'Whether its address, gateway and names work is not known.',
      remedy: 'Go through the first checks of its build sheet.',
      source,
    },
  ];
}
