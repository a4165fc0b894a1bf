/** How places fill: the record is walked back over its log, and looked at as of some days. */
import { setImmediate } from 'node:timers/promises';
import { growth, GroundMoved, type Growth } from '@insel/core';
import { entryOf, LOG_COLUMNS } from '../record/log-rows.js';
import type { Reads } from './read.js';

const USUAL_DAYS = 180;
const DAY = 86_400_000;
/** So many times of the stretch are looked at. */
const LOOKS = 24;
/** Further back it would take longer than anybody waits. */
const MOST_ENTRIES = 10_000;
const MOST_PLACES = 300;

export const GROWTH_READS: Reads<'growth'> = {
  growth: {
    async fromTables({ orm }, { days = USUAL_DAYS }, fleet, { now }) {
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
      const places = await growth(fleet, entries, moments, now, async () => {
        await setImmediate();
        return fleet.revision === revision;
      });
      if (!places) throw new GroundMoved();
      const told = places.filter(({ taken }) => taken > 0).sort(byUrgency);
      return {
        from,
        now,
        entries: entries.length,
        places: told.slice(0, MOST_PLACES),
        placesInAll: told.length,
      };
    },
  },
};

/** The day before the first entry, where the record is younger than the stretch. */
const laterOf = (begin: string, first: string | undefined): string => {
  const dayBefore = first === undefined ? begin : new Date(Date.parse(first) - DAY).toISOString();
  return dayBefore > begin ? dayBefore : begin;
};

const RANK = { 'full already': 0, filling: 1, 'not filling': 2 };
const share = ({ taken, limit }: Growth): number => (limit > 0 ? taken / limit : Infinity);
const byUrgency = (a: Growth, b: Growth): number => {
  const rank = ({ runway }: Growth) => (runway ? RANK[runway.state] : 2);
  const days = ({ runway }: Growth) => (runway?.state === 'filling' ? runway.days : Infinity);
  return rank(a) - rank(b) || (days(a) === days(b) ? 0 : days(a) - days(b)) || share(b) - share(a);
};
