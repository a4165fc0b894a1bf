/** How places fill: the record is walked back over its log, and looked at as of some days; and what was measured in pools. */
import { setImmediate } from 'node:timers/promises';
import { growth, growthInUse, GroundMoved, memoryInUse, type Growth } from '@insel/core';
import { entryOf, LOG_COLUMNS } from '../record/log-rows.js';
import type { Reads } from './read.js';

const USUAL_DAYS = 180;
const DAY = 86_400_000;
/** So many times of the stretch are looked at. */
const LOOKS = 24;
/** And so many at what was measured, which costs less. */
const LOOKS_AT_SAMPLES = 60;
/** Further back it would take longer than anybody waits. */
const MOST_ENTRIES = 10_000;
const MOST_PLACES = 300;
/** Of more guests it is not summed up what was measured inside: their samples take too long to read. */
const MOST_GUESTS = 200;

export const GROWTH_READS: Reads<'growth'> = {
  growth: {
    async fromTables({ orm, samples }, { days = USUAL_DAYS }, fleet, { now }) {
      const { revision } = fleet;
      const begin = new Date(Date.parse(now) - days * DAY).toISOString();
      const rows = await orm.em
        .getConnection()
        .execute<Record<string, unknown>[]>(
          `select ${LOG_COLUMNS} from log where revision <= ? and at > ? order by revision desc limit ${MOST_ENTRIES + 1}`,
          [revision, begin],
          'all',
        );
      const entries = rows.slice(0, MOST_ENTRIES).map(entryOf);
      // Where the log is longer than what is taken back, it is looked at from there on.
      const from =
        rows.length > MOST_ENTRIES ? entries.at(-1)!.at : laterOf(begin, entries.at(-1)?.at);
      const span = Date.parse(now) - Date.parse(from);
      const moments = Array.from({ length: LOOKS }, (_, i) =>
        new Date(Date.parse(now) - (span * (i + 1)) / LOOKS).toISOString(),
      );
      const pause = async () => {
        await setImmediate();
        return fleet.revision === revision;
      };
      const places = await growth(fleet, entries, moments, now, pause);
      if (!places) throw new GroundMoved();
      const pools = Array.from(fleet.all('pool'), ({ id }) => id);
      const looks = { begin, end: now, looks: LOOKS_AT_SAMPLES };
      const measured = (await samples.courses(pools, looks)).map(({ id, at, diskBytes }) => ({
        ...{ poolId: id, at, bytes: diskBytes },
      }));
      const guests = Array.from(fleet.all('guest'), ({ id }) => id);
      const inside = guests.length > MOST_GUESTS ? [] : await samples.memoryCourses(guests, looks);
      const used = inside.map(({ id, ...sample }) => ({ guestId: id, ...sample }));
      const inUse = await growthInUse(fleet, measured, now, pause);
      if (!inUse) throw new GroundMoved();
      const listed = [...places, ...inUse, ...memoryInUse(fleet, used, now)]
        .filter(({ taken }) => taken > 0)
        .sort(byUrgency);
      return {
        from,
        now,
        entries: entries.length,
        places: listed.slice(0, MOST_PLACES),
        placesInAll: listed.length,
      };
    },
  },
};

/** The day before the first entry, where the record is younger than the stretch. */
const laterOf = (begin: string, first: string | undefined): string => {
  const dayBefore = first === undefined ? begin : new Date(Date.parse(first) - DAY).toISOString();
  return dayBefore > begin ? dayBefore : begin;
};

const RANK = { 'full already': 0, filling: 1, 'not filling': 3 };
/** What runs out on a day that can be named stands before what was watched for too short to name one. */
const rankOf = ({ runway }: Growth): number =>
  !runway
    ? RANK['not filling']
    : runway.state === 'filling' && runway.notBefore
      ? 2
      : RANK[runway.state];
const share = ({ taken, limit }: Growth): number => (limit > 0 ? taken / limit : Infinity);
const byUrgency = (a: Growth, b: Growth): number => {
  const days = ({ runway }: Growth) => (runway?.state === 'filling' ? runway.days : Infinity);
  return (
    rankOf(a) - rankOf(b) || (days(a) === days(b) ? 0 : days(a) - days(b)) || share(b) - share(a)
  );
};
