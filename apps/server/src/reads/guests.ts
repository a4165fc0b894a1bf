/** Guests: the list, a sheet, how one is sized, built and ended, where its volumes may go, what they are grouped by. */
import { guestReferrers, headroom, rankPools, volumeBytes } from '@insel/core';
import { notFound } from '../problem-exception.js';
import { contextAt } from '../record/context.js';
import { byName, windowOf } from '../views/common.js';
import { guestBuildView, guestGroupView, mediumView } from '../views/guest-lifecycle.js';
import { filesOf, firstStartView } from '../views/first-start.js';
import { seedImage } from '../views/seed-image.js';
import { firstAddress, guestRow, guestSheet } from '../views/guests.js';
import type { Sorts } from '../views/orders.js';
import { sheetPage } from '../views/sheet-page.js';
import { sizeAnswer } from '../views/sizing.js';
import { found, type Reads } from './read.js';

const SORTS: Sorts<'guest'> = {
  name: (_, guest) => guest.name.toLowerCase(),
  state: (_, guest) => guest.state,
  host: (fleet, { hostId }) => fleet.need('host', hostId).name.toLowerCase(),
  vcpu: (_, guest) => guest.vcpu,
  memory: (_, guest) => guest.memoryMiB,
  storage: (fleet, guest) => volumeBytes(fleet, guest.id),
  headroom: (fleet, { hostId }) => headroom(fleet, hostId).memory.value,
  role: (fleet, guest) => fleet.get('profile', guest.profileId)?.name.toLowerCase() ?? '~',
  owner: (_, guest) => guest.owner.toLowerCase() || '~',
  end: (_, guest) => guest.endDate ?? '~',
};

export const GUEST_READS: Reads<
  | 'guests'
  | 'guest'
  | 'guestSize'
  | 'guestBuild'
  | 'guestBuildPage'
  | 'guestEnd'
  | 'firstStart'
  | 'seedImage'
  | 'volumePlaces'
  | 'profiles'
  | 'guestGroups'
  | 'media'
> = {
  guests(fleet, query, { now, orders }) {
    const wanted = query.q?.toLowerCase();
    const sorted = orders.sorted(
      fleet,
      'guest',
      SORTS,
      'name',
      query,
      (guest) =>
        (!query.state || guest.state === query.state) &&
        (!query.profileId || guest.profileId === query.profileId) &&
        (!query.groupId || guest.groupId === query.groupId) &&
        (!query.poolId ||
          fleet
            .referring('volume', 'guestId', guest.id)
            .some((volume) => volume.poolId === query.poolId)) &&
        (!query.hostId || guest.hostId === query.hostId) &&
        (!query.networkId ||
          fleet
            .referring('adapter', 'guestId', guest.id)
            .some((adapter) => adapter.networkId === query.networkId)) &&
        (!wanted ||
          guest.name.toLowerCase().includes(wanted) ||
          guest.purpose.toLowerCase().includes(wanted) ||
          firstAddress(fleet, guest.id).includes(wanted)),
    );
    return windowOf(fleet, sorted, query, (id) => guestRow(fleet, id, now));
  },

  guest: (fleet, { id }, { now }) => guestSheet(fleet, found(fleet, 'guest', id).id, now),

  /** It tries every host. */
  guestSize: {
    inWorker(fleet, query, { now, account }) {
      const answer = sizeAnswer(fleet, query, contextAt(now, { ...account, role: 'planner' }));
      if (!answer) throw notFound('role');
      return answer;
    },
  },

  guestBuild: (fleet, { id }) => guestBuildView(fleet, found(fleet, 'guest', id).id),

  /** The same as one file that needs nothing else. */
  guestBuildPage(fleet, { id }, { now }) {
    const { guest, host, platform, sections, ticks } = guestBuildView(
      fleet,
      found(fleet, 'guest', id).id,
    );
    const done = (key: string) =>
      ticks[key] &&
      `${ticks[key].outcome} ${ticks[key].at.slice(0, 16).replace('T', ' ')}, ${ticks[key].by}`;
    return sheetPage(
      {
        title: `Build sheet of ${guest}`,
        subtitle: `on ${host}, ${platform}`,
        sections: sections.map(({ title, steps }) => ({
          title,
          lines: steps.map((step) => ({ ...step, done: done(step.key) })),
        })),
      },
      now,
    );
  },

  /** Everything that still refers to it. */
  guestEnd: (fleet, { id }) => ({ referrers: guestReferrers(fleet, found(fleet, 'guest', id).id) }),

  firstStart: (fleet, { id }) => firstStartView(fleet, found(fleet, 'guest', id).id),
  seedImage: {
    fromTables: (_, { id }, fleet) => seedImage(filesOf(fleet, found(fleet, 'guest', id).id)),
  },

  /** Pools that its host reaches, with what would be left of each if the volume lay there. */
  volumePlaces(fleet, { id }) {
    const volume = found(fleet, 'volume', id);
    const { hostId } = fleet.need('guest', volume.guestId);
    return rankPools(fleet, hostId, volume.bytes, volume.thin ? 'thin' : 'thick').filter(
      (pool) => pool.poolId !== volume.poolId,
    );
  },

  profiles: (fleet) =>
    [...fleet.all('profile')].sort(byName).map((profile) => ({
      ...profile,
      guests: fleet.referringCount('guest', 'profileId', profile.id),
    })),

  guestGroups: (fleet, _, { now }) =>
    [...fleet.all('guestGroup')].sort(byName).map((group) => guestGroupView(fleet, group, now)),

  /** The shelf of install media: what each image is, whether it is the one that was meant, who has it in a drive. */
  media: (fleet, _, { now }) =>
    [...fleet.all('medium')].sort(byName).map((medium) => mediumView(fleet, medium, now)),
};
