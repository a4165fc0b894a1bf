/** Sites, racks, host groups, platforms and rules between guests: what hosts and guests refer to. */
import { MAC_BLOCK, macBlockUse } from '@insel/core';
import { byName } from '../views/common.js';
import { groupView, powerFeedView, rackView, ruleView } from '../views/places.js';
import type { Reads } from './read.js';

export const PLACE_READS: Reads<
  | 'sites'
  | 'routingDomains'
  | 'racks'
  | 'powerFeeds'
  | 'hostGroups'
  | 'platforms'
  | 'placementRules'
> = {
  sites: (fleet) =>
    [...fleet.all('site')].sort(byName).map((site) => {
      const { id, name, revision, macBlock, timeZone, workWindow } = site;
      const { assigned, repetition } = macBlockUse(fleet, macBlock || MAC_BLOCK);
      return {
        ...{ id, name, revision, macBlock, timeZone, workWindow },
        assignedMacs: assigned,
        repetition,
      };
    }),
  routingDomains: (fleet) => [...fleet.all('routingDomain')],
  racks: (fleet) => [...fleet.all('rack')].sort(byName).map((rack) => rackView(fleet, rack)),
  powerFeeds: (fleet, _, { now }) =>
    [...fleet.all('powerFeed')].sort(byName).map((feed) => powerFeedView(fleet, feed, now)),
  hostGroups: (fleet) =>
    [...fleet.all('hostGroup')].sort(byName).map((group) => groupView(fleet, group)),
  platforms: (fleet) => [...fleet.all('platform')].sort(byName),
  placementRules: (fleet) =>
    [...fleet.all('placementRule')].sort(byName).map((rule) => ruleView(fleet, rule)),
};
