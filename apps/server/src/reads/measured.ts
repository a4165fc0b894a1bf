/** Measured use of guests, their likes and pools, and where it was taken from. */
import { byName } from '../views/common.js';
import { poolView } from '../views/pools.js';
import { guestUse, poolUse } from '../views/measured.js';
import { found, type Reads } from './read.js';

const USUAL_DAYS = 30;
const USUAL_DAYS_OF_A_POOL = 90;
/** So many guests of a role stand for all of them. */
const MOST_SIMILAR = 20;

export const MEASURED_READS: Reads<
  'guestUse' | 'profileUse' | 'pools' | 'poolsUsed' | 'poolUse' | 'sampleImports' | 'sampleKeeping'
> = {
  guestUse: {
    async fromTables({ samples }, { id, days = USUAL_DAYS }, fleet) {
      return guestUse(fleet, found(fleet, 'guest', id), await samples.of(id, days));
    },
  },

  /** What guests of a role were measured to use; null where nothing was. */
  profileUse: {
    async fromTables({ samples }, { id }, fleet) {
      const guests = fleet
        .referring('guest', 'profileId', id)
        .filter((guest) => guest.state === 'in service')
        .slice(0, MOST_SIMILAR);
      return { use: await samples.similar(guests) };
    },
  },

  pools: {
    async fromTables({ samples }, _, fleet) {
      const pools = [...fleet.all('pool')];
      const measured = new Map(
        (await samples.newest(pools.map(({ id }) => id))).map(({ id, at, diskBytes }) => [
          id,
          { usedBytes: diskBytes, at },
        ]),
      );
      return pools.map(({ id }) => poolView(fleet, id, measured.get(id))).sort(byName);
    },
  },

  poolsUsed: {
    async fromTables({ samples }, _, fleet) {
      const newest = await samples.newest([...fleet.all('pool')].map((pool) => pool.id));
      return newest.map(({ id, at, diskBytes }) => ({ poolId: id, at, usedBytes: diskBytes }));
    },
  },

  poolUse: {
    async fromTables({ samples }, { id, days = USUAL_DAYS_OF_A_POOL }, fleet, { now }) {
      return poolUse(found(fleet, 'pool', id), await samples.of(id, days), now);
    },
  },

  sampleImports: { fromTables: ({ samples }) => samples.imports() },

  sampleKeeping: { fromTables: ({ samples }) => samples.keeping() },
};
