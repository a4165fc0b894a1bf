/** Sites, racks, host groups, platforms and rules between guests: what hosts and guests refer to. */
import { MAC_BLOCK, macBlockUse } from '@insel/core';
import { byName } from '../views/common.js';
import { groupView, rackView, ruleView } from '../views/places.js';
import type { Reads } from './read.js';

export const PLACE_READS: Reads<
  'sites' | 'routingDomains' | 'racks' | 'hostGroups' | 'platforms' | 'placementRules'
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
  hostGroups: (fleet) =>
    [...fleet.all('hostGroup')].sort(byName).map((group) => groupView(fleet, group)),
  platforms: (fleet) => [...fleet.all('platform')].sort(byName),
  placementRules: (fleet) =>
    [...fleet.all('placementRule')].sort(byName).map((rule) => ruleView(fleet, rule)),
};
