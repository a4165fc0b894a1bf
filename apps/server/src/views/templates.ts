/** Templates with their versions along time, and the clones that hang from each. */
import type { EntitlementView, HangingClone, TemplateView, VersionView } from '@insel/contract';
import {
  ageOfVersion,
  allocatedBytes,
  currentVersion,
  dependentsOf,
  entitlementUse,
  findingsAt,
  isGeneralised,
  SEAL_ITEMS,
  stateOfVersion,
  versionOf,
  versionsOf,
  type Fleet,
  type Row,
} from '@insel/core';
import { byName, named } from './common.js';

export const templateViews = (fleet: Fleet, now: string): TemplateView[] =>
  [...fleet.all('template')].map((template) => templateView(fleet, template, now)).sort(byName);

function templateView(fleet: Fleet, template: Row<'template'>, now: string): TemplateView {
  const versions = versionsOf(fleet, template.id);
  const sealed = versions.filter((version) => version.sealedAt !== null);
  return {
    ...template,
    versions: versions.map((version) =>
      versionView(
        fleet,
        version,
        now,
        sealed.filter(({ number }) => number > version.number).length,
      ),
    ),
    currentId: currentVersion(fleet, template.id)?.id ?? null,
    findings: findingsAt(fleet, 'template', template.id, now),
  };
}

function versionView(
  fleet: Fleet,
  version: Row<'templateVersion'>,
  now: string,
  behind: number,
): VersionView {
  const guest = fleet.need('guest', version.guestId);
  const volumes = fleet.referring('volume', 'guestId', guest.id);
  const medium = fleet.get('medium', version.mediumId);
  const allocated = allocatedBytes(volumes);
  const dependents = dependentsOf(fleet, guest.id).length;
  return {
    ...version,
    state: stateOfVersion(version),
    age: ageOfVersion(fleet, version, now),
    generalised: isGeneralised(fleet, version.id),
    guest: { ...named(guest), state: guest.state, host: fleet.need('host', guest.hostId).name },
    medium: medium ? named(medium) : null,
    allocatedBytes: allocated,
    bytes: volumes.reduce((sum, volume) => sum + volume.bytes, 0),
    items: fleet
      .referring('sealItem', 'versionId', version.id)
      .sort((a, b) => SEAL_ITEMS.indexOf(a.item) - SEAL_ITEMS.indexOf(b.item)),
    clones: fleet
      .referring('clone', 'originId', guest.id)
      .map((clone) => hanging(fleet, clone, behind))
      .sort(byName),
    dependents,
    savedBytes: dependents * allocated,
  };
}

function hanging(fleet: Fleet, clone: Row<'clone'>, behind: number): HangingClone {
  const guest = fleet.need('guest', clone.guestId);
  const volumes = fleet.referring('volume', 'guestId', guest.id);
  const known = volumes.every(({ usedBytes }) => usedBytes !== null);
  return {
    ...named(guest),
    revision: guest.revision,
    state: guest.state,
    host: fleet.need('host', guest.hostId).name,
    group: fleet.get('guestGroup', guest.groupId)?.name ?? '',
    copy: clone.copy,
    madeAt: clone.madeAt,
    open: fleet
      .referring('identityItem', 'cloneId', clone.id)
      .filter(({ doneAt }) => doneAt === null).length,
    behind: versionOf(fleet, clone.originId) ? behind : 0,
    grownBytes: known ? volumes.reduce((sum, { usedBytes }) => sum + usedBytes!, 0) : null,
  };
}

export const entitlementViews = (fleet: Fleet, now: string): EntitlementView[] =>
  [...fleet.all('entitlement')]
    .map((row) => {
      const profile = fleet.get('profile', row.profileId);
      return {
        ...row,
        used: entitlementUse(fleet, row.id),
        profile: profile ? named(profile) : null,
        findings: findingsAt(fleet, 'entitlement', row.id, now),
      };
    })
    .sort(byName);
