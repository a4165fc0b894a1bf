/** Networks: the list, a sheet, subnets, free addresses, and who reaches whom. */
import { nextFree, refuse, subnetFigures, type Fleet, type Row } from '@insel/core';
import { refused } from '../problem-exception.js';
import { named, siteName, windowOf } from '../views/common.js';
import { networkRow, networkSheet } from '../views/networks.js';
import type { Sorts } from '../views/orders.js';
import { matrixView, reachView } from '../views/reach.js';
import { found, type Reads } from './read.js';

const taken = (fleet: Fleet, network: Row<'network'>): number =>
  Math.max(
    -1,
    ...fleet
      .referring('subnet', 'networkId', network.id)
      .map((subnet) => subnetFigures(fleet, subnet.id).taken.value ?? -1),
  );

const SORTS: Sorts<'network'> = {
  name: (_, network) => network.name.toLowerCase(),
  site: (fleet, network) =>
    `${siteName(fleet, network.siteId).toLowerCase() || '~'}|${network.name.toLowerCase()}`,
  vlan: (_, network) => network.vlanId ?? 0,
  taken,
};

export const NETWORK_READS: Reads<
  'networks' | 'network' | 'subnets' | 'nextFree' | 'reach' | 'matrix'
> = {
  networks(fleet, query, { now, orders }) {
    const wanted = query.q?.toLowerCase();
    const sorted = orders.sorted(
      fleet,
      'network',
      SORTS,
      'site',
      query,
      (network) =>
        (!wanted ||
          network.name.toLowerCase().includes(wanted) ||
          String(network.vlanId) === wanted ||
          fleet
            .referring('subnet', 'networkId', network.id)
            .some((subnet) => subnet.prefix.includes(wanted))) &&
        (!query.siteId || network.siteId === query.siteId),
    );
    return windowOf(fleet, sorted, query, (id) => networkRow(fleet, id, now));
  },

  network: (fleet, { id }, { now }) => networkSheet(fleet, found(fleet, 'network', id).id, now),

  /** Every subnet with its routing domain: what a prefix plan must keep clear of. */
  subnets: (fleet) =>
    [...fleet.all('subnet')].map((subnet) => ({
      id: subnet.id,
      prefix: subnet.prefix,
      network: named(fleet.need('network', subnet.networkId)),
      domainId: subnet.domainId,
      domainName: fleet.need('routingDomain', subnet.domainId).name,
    })),

  nextFree: (fleet, { id, count = 1, taking = 'single' }, { now }) => ({
    addresses: nextFree(fleet, found(fleet, 'subnet', id).id, { n: count, taking, now }),
  }),

  /** One question with its path and the smallest mend. */
  reach: { inWorker: (fleet, query, { now }) => reachView(fleet, query, now) },

  matrix: {
    inWorker(fleet, { ids }) {
      const answer = matrixView(fleet, ids);
      if ('sentence' in answer)
        throw refused(refuse({ code: 'too-many-kinds', sentence: answer.sentence }));
      return answer;
    },
  },
};
