import type {
  DriveView,
  GuestBuildView,
  GuestGroupView,
  MediumView,
  SnapshotView,
} from '@insel/contract';
import {
  findingsAt,
  groupSpread,
  guestBuild,
  newerRelease,
  type Fleet,
  type Row,
  daysSince,
} from '@insel/core';
import { byName, named, namedById } from './common.js';

export function guestGroupView(
  fleet: Fleet,
  group: Row<'guestGroup'>,
  now: string,
): GuestGroupView {
  const guests = fleet
    .referring('guest', 'groupId', group.id)
    .filter((guest) => guest.state !== 'retired')
    .sort(byName);
  return {
    ...group,
    guests: guests.map((guest) => ({
      ...named(guest),
      host: fleet.need('host', guest.hostId).name,
      state: guest.state,
    })),
    spreadNow: groupSpread(fleet, group),
    findings: findingsAt(fleet, 'guestGroup', group.id, now),
  };
}

export function driveViews(fleet: Fleet, guestId: string): DriveView[] {
  return fleet.referring('drive', 'guestId', guestId).map((drive) => ({
    id: drive.id,
    revision: drive.revision,
    medium: named(fleet.need('medium', drive.mediumId)),
    atPowerOn: drive.atPowerOn,
  }));
}

export function snapshotViews(fleet: Fleet, guestId: string, now: string): SnapshotView[] {
  return fleet
    .referring('snapshot', 'guestId', guestId)
    .sort((a, b) => a.takenAt.localeCompare(b.takenAt))
    .map((snapshot) => ({
      ...snapshot,
      pool: namedById(fleet, 'pool', snapshot.poolId),
      days: daysSince(fleet, snapshot.takenAt, now),
    }));
}

export function guestBuildView(fleet: Fleet, guestId: string): GuestBuildView {
  const build = guestBuild(fleet, guestId);
  const rows = fleet.referring('buildTick', 'guestId', guestId);
  const ticks = Object.fromEntries(
    rows.map(({ step, outcome, at, by, remark }) => [step, { outcome, at, by, remark }]),
  );
  const keys = build.sections.flatMap(({ steps }) => steps.map((step) => step.key));
  return { ...build, ticks, done: keys.filter((key) => ticks[key]).length, total: keys.length };
}

export function mediumView(fleet: Fleet, medium: Row<'medium'>, now: string): MediumView {
  const attached = fleet
    .referring('drive', 'mediumId', medium.id)
    .map((drive) => ({ guest: fleet.need('guest', drive.guestId), atPowerOn: drive.atPowerOn }))
    .filter(({ guest }) => guest.state !== 'retired')
    .map(({ guest, atPowerOn }) => ({ ...named(guest), state: guest.state, atPowerOn }))
    .sort(byName);
  const newer = newerRelease(fleet, medium);
  return {
    ...medium,
    pool: medium.poolId ? namedById(fleet, 'pool', medium.poolId) : null,
    platform: medium.platformId ? named(fleet.need('platform', medium.platformId)) : null,
    attached,
    newer: newer ? named(newer) : null,
    findings: findingsAt(fleet, 'medium', medium.id, now),
  };
}
