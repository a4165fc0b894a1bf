/**
 * When a move does not come up, or its copy does not run: from the sign that somebody sees to the causes that this record
 * makes likely, the likeliest first. What somebody found is kept, and weighs the next one's order.
 */
import type { Change } from '../change/index.js';
import {
  change,
  draftOf,
  fieldsOf,
  noSuch,
  ref,
  refuse,
  said,
  SIGNS,
  type DeciderOf,
  type Fleet,
  type Row,
} from '../record/index.js';
import { CAUSES, type Case } from './causes.js';
import { computerOf, sideOf } from './sides.js';

export type Sign = (typeof SIGNS)[number];

export interface Cause {
  /** Stable name: "controller-differs". */
  key: string;
  title: string;
  /** What in the record speaks for it; empty: only that it happens. */
  because: string;
  /** How it is settled. */
  test: string;
  mend: string;
  /** The mend, as far as the record goes. */
  change: { label: string; change: Change } | null;
  /** What was found of it here; null: nobody looked yet. */
  answered: 'it was' | 'it was not' | null;
  /** How often it was, and was not, at other moves with this sign. */
  was: number;
  wasNot: number;
}

/** What the record speaks for counts as if it had been found three times. Own rule, no source. */
const SPEAKS = 3;

/**
 * What it was here comes first, what it was not last; the others by what the record speaks for and by how often they were
 * it at other moves, in the order in which they are common among equals. Its cost grows with the answers on record.
 */
export function likelyCauses(fleet: Fleet, migrationId: string, sign: Sign): Cause[] {
  const one = caseOf(fleet, migrationId);
  const answers = [...fleet.all('moveAnswer')].filter((answer) => answer.sign === sign);
  const found = CAUSES.filter(({ of }) => of.includes(sign)).flatMap((cause): Cause[] => {
    const because = cause.speaks(one);
    if (because === null) return [];
    const { key, title, test, mend } = cause;
    const of = answers.filter((answer) => answer.cause === key);
    const here = of.findLast((answer) => answer.migrationId === migrationId);
    const others = of.filter((answer) => answer.migrationId !== migrationId);
    const was = others.filter((answer) => answer.was).length;
    return [
      {
        ...{ key, title, test, mend, because: because ?? '' },
        change: cause.change?.(one) ?? null,
        answered: here ? (here.was ? 'it was' : 'it was not') : null,
        was,
        wasNot: others.length - was,
      },
    ];
  });
  const rank = { 'it was': 0, open: 1, 'it was not': 2 };
  const weight = ({ because, was, wasNot }: Cause) =>
    ((because ? SPEAKS : 1) * (was + 1)) / (wasNot + 1);
  return found.sort(
    (a, b) => rank[a.answered ?? 'open'] - rank[b.answered ?? 'open'] || weight(b) - weight(a),
  );
}

function caseOf(fleet: Fleet, migrationId: string): Case {
  const migration = fleet.need('migration', migrationId);
  const [source, target] = [sideOf(fleet, migration, 'source'), sideOf(fleet, migration, 'target')];
  const hosts = [
    fleet.get('host', migration.sourceHostId),
    fleet.get('host', migration.targetHostId),
  ];
  const [from, to] = hosts.map((host) => host ?? null);
  const deviceId = migration.sourceDeviceId ?? migration.targetDeviceId;
  const platform = (host: Row<'host'> | null | undefined) =>
    host ? fleet.need('platform', host.platformId) : null;
  return {
    fleet,
    migration,
    guest: fleet.need('guest', migration.guestId),
    source,
    target,
    hosts: [from ?? null, to ?? null],
    platforms: [platform(from), platform(to)],
    computer: deviceId ? computerOf(fleet, deviceId) : null,
    moved: fleet
      .referring('volumeMove', 'migrationId', migrationId)
      .map(({ volumeId, computerDiskId }) => {
        const disk =
          source.kind === 'device' ? fleet.get('computerDisk', computerDiskId) : undefined;
        return disk ? { label: disk.bay, bytes: disk.bytes } : fleet.need('volume', volumeId);
      }),
  };
}

const answer = fieldsOf('moveAnswer');

/** What somebody found; the last answer on a cause counts. */
export const answerCause = change({
  type: 'migration.answer',
  title: 'Keep what was found',
  carried: 'by hand',
  input: {
    migrationId: ref('migration'),
    sign: said(answer.sign),
    cause: said(answer.cause),
    was: said(answer.was),
  },
});

export const decideAnswerCause: DeciderOf<typeof answerCause> = (
  fleet,
  { migrationId, sign, cause, was },
  context,
) => {
  const migration = fleet.get('migration', migrationId);
  if (!migration) return noSuch('migration');
  const known = CAUSES.find(({ key, of }) => key === cause && of.includes(sign));
  if (!known)
    return refuse({
      code: 'no-such-cause',
      field: 'cause',
      sentence: `Of "${sign}" no cause of that name is known.`,
    });
  const draft = draftOf(fleet, context);
  for (const held of fleet.referring('moveAnswer', 'migrationId', migrationId))
    if (held.sign === sign && held.cause === cause) draft.remove('moveAnswer', held.id);
  draft.create('moveAnswer', {
    ...{ migrationId, sign, cause, was },
    at: context.happenedAt,
    by: context.actor.name,
  });
  const { name } = fleet.need('guest', migration.guestId);
  return {
    draft,
    title: `found of ${name} at "${sign}": ${was ? 'it was' : 'it was not'} that ${known.title.charAt(0).toLowerCase()}${known.title.slice(1)}`,
    subjects: [{ kind: 'migration', id: migrationId, name }],
  };
};
