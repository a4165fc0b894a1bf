/** Clones with where they came from; migrations, and the route of one that is being thought of. */
import {
  consolidate,
  decide,
  likelyCauses,
  platformChange,
  readProof,
  verdictsOn,
  findTimes,
  readTimeZone,
  readWindow,
  zoneOr,
} from '@insel/core';
import { ownAddresses } from '../this-machine/own-addresses.js';
import { named, windowOf } from '../views/common.js';
import { firstStartView } from '../views/first-start.js';
import { entitlementViews, templateViews } from '../views/templates.js';
import { runbookPage } from '../views/runbook.js';
import { sheetPage } from '../views/sheet-page.js';
import { calendarText, timetableView } from '../views/timetable.js';
import { lineages } from '../views/clones.js';
import {
  calibrationView,
  migrationRoute,
  migrationRow,
  migrationSheet,
  physicalRoute,
} from '../views/migrations.js';
import { ProblemException } from '../problem-exception.js';
import { contextAt } from '../record/context.js';
import { found, type Reads } from './read.js';

export const MOVING_READS: Reads<
  | 'clones'
  | 'templates'
  | 'entitlements'
  | 'knownBy'
  | 'proofRead'
  | 'firstStarts'
  | 'migrations'
  | 'migration'
  | 'migrationRoute'
  | 'physicalRoute'
  | 'consolidation'
  | 'platformChange'
  | 'calibration'
  | 'trouble'
  | 'timetable'
  | 'foundTimes'
  | 'calendar'
  | 'runbook'
> = {
  clones: (fleet) => lineages(fleet),
  templates: (fleet, _, { now }) => templateViews(fleet, now),
  entitlements: (fleet, _, { now }) => entitlementViews(fleet, now),

  knownBy: (fleet, { id }) => ({
    facts: fleet
      .referring('identityFact', 'guestId', found(fleet, 'guest', id).id)
      .sort((a, b) => a.what.localeCompare(b.what) || a.value.localeCompare(b.value)),
  }),

  /** What a paste would prove; nothing is altered. */
  proofRead(fleet, { guestId, text }) {
    const read = readProof(text);
    if (!read.ok) return read;
    return { ok: true, verdicts: verdictsOn(fleet, found(fleet, 'guest', guestId), read.proof) };
  },

  firstStarts: (fleet, { ids }) =>
    ids.map((id, i) => {
      const guest = found(fleet, 'guest', id);
      return { guest: named(guest), ...firstStartView(fleet, guest.id, ids[i === 0 ? 1 : 0]) };
    }),

  migrations(fleet, query, { now }) {
    const all = fleet.ordered('migration', 'plannedAt', (_, row) => row.plannedAt, 'down');
    const sorted = query.state
      ? all.filter(({ id }) => fleet.need('migration', id).state === query.state)
      : all;
    return windowOf(fleet, sorted, query, (id) => migrationRow(fleet, id, now));
  },

  /** Its checks ask who reaches whom. */
  migration: {
    inWorker: (fleet, { id }, { now }) =>
      migrationSheet(fleet, found(fleet, 'migration', id).id, now, ownAddresses()),
  },

  /** What must be so before it, and how long it takes. */
  migrationRoute: { inWorker: (fleet, query, { now }) => migrationRoute(fleet, query, now) },
  physicalRoute: (fleet, body, { now }) => physicalRoute(fleet, body, now),
  /** It tries every host for each of them. */
  consolidation: {
    inWorker(fleet, { deviceIds, groupId = null, ...ask }, { now, account }) {
      for (const id of deviceIds) found(fleet, 'device', id);
      const context = contextAt(now, { ...account, role: 'planner' });
      return consolidate(fleet, { deviceIds, groupId, ...ask }, context, decide);
    },
  },
  platformChange: {
    inWorker(fleet, { until = null, ...ask }, { now }) {
      found(fleet, 'platform', ask.fromPlatformId);
      found(fleet, 'platform', ask.toPlatformId);
      if (ask.fromPlatformId === ask.toPlatformId)
        throw new ProblemException(422, {
          code: 'same-platform',
          field: 'toPlatformId',
          sentence: 'Choose another platform than the one the hosts have.',
        });
      return platformChange(fleet, { ...ask, until }, now);
    },
  },
  calibration: (fleet) => calibrationView(fleet),
  runbook: (fleet, { id }, { now }) =>
    sheetPage(runbookPage(fleet, found(fleet, 'migration', id).id), now),
  timetable: (fleet, query, { now }) =>
    timetableView(fleet, { ...query, zone: knownZone(query.zone ?? '') }, now),
  foundTimes: {
    inWorker(fleet, { from, days, anew, hours, zone = '', mostAtOnce = null }, { now }) {
      const read = readWindow(hours);
      if (!read.ok)
        throw new ProblemException(422, {
          code: 'bad-hours',
          field: 'hours',
          sentence: read.sentence,
        });
      const clock = knownZone(zone);
      const found = findTimes(fleet, {
        from: from ?? now,
        ...{ days, anew, hours, zone: clock, mostAtOnce },
      });
      const revisions = Object.fromEntries(
        found.times.map(({ id }) => [id, fleet.need('migration', id).revision]),
      );
      return { ...found, revisions };
    },
  },
  calendar: (fleet, _, { now }) => calendarText(fleet, now),
  trouble: (fleet, { id, sign }) => likelyCauses(fleet, found(fleet, 'migration', id).id, sign),
};

/** As the time zone database writes it; UTC where none is asked for. */
function knownZone(zone: string): string {
  const read = readTimeZone(zone);
  if (read.ok) return zoneOr(read.value);
  throw new ProblemException(422, { code: 'bad-zone', field: 'zone', sentence: read.sentence });
}
