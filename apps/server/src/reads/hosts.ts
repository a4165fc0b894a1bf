/** Hosts: the list, a sheet, the next ones like it, what the machine is fit for, how it is built. */
import {
  alike,
  buildSheet,
  compareFacts,
  cores,
  FACTS_SCRIPT,
  headroom,
  load,
  poolFigures,
  poolsOf,
  readFacts,
  refuse,
  suitability,
} from '@insel/core';
import { notFound, refused } from '../problem-exception.js';
import { asRead, siteName, windowOf } from '../views/common.js';
import { hostRow, hostSheet } from '../views/hosts.js';
import type { Sorts } from '../views/orders.js';
import { sheetPage } from '../views/sheet-page.js';
import { found, type Reads } from './read.js';

const SORTS: Sorts<'host'> = {
  name: (_, host) => host.name.toLowerCase(),
  site: (fleet, host) =>
    `${siteName(fleet, host.siteId).toLowerCase() || '~'}|${host.name.toLowerCase()}`,
  state: (_, host) => host.state,
  group: (fleet, host) =>
    `${fleet.get('hostGroup', host.groupId)?.name.toLowerCase() ?? '~'}|${host.name.toLowerCase()}`,
  guests: (fleet, host) => load(fleet, host.id).guests.count,
  cores: (_, host) => cores(host),
  memoryLeft: (fleet, host) => headroom(fleet, host.id).memory.value,
  memoryTaken: (fleet, host) => headroom(fleet, host.id).memoryUsed.value,
  vcpuLeft: (fleet, host) => headroom(fleet, host.id).vcpu.value,
  storageLeft: (fleet, host) =>
    poolsOf(fleet, host.id).reduce((sum, pool) => sum + poolFigures(fleet, pool.id).free.value, 0),
};

export const HOST_READS: Reads<
  | 'hosts'
  | 'host'
  | 'hostsAlike'
  | 'hostSuitability'
  | 'hostBuild'
  | 'hostBuildPage'
  | 'factsScript'
  | 'factsCompared'
> = {
  hosts(fleet, query, { now, orders }) {
    const wanted = query.q?.toLowerCase();
    const sorted = orders.sorted(
      fleet,
      'host',
      SORTS,
      'site',
      query,
      (host) =>
        (!wanted || host.name.toLowerCase().includes(wanted)) &&
        (!query.state || host.state === query.state) &&
        (!query.siteId || host.siteId === query.siteId) &&
        (!query.groupId || host.groupId === query.groupId),
    );
    return windowOf(fleet, sorted, query, (id) => hostRow(fleet, id, now));
  },

  host: (fleet, { id }, { now }) => hostSheet(fleet, found(fleet, 'host', id).id, now),

  hostsAlike: (fleet, { id, count = 1 }) =>
    alike(fleet, found(fleet, 'host', id).id, count).map(({ ip, input }) => ({
      name: input.name,
      ip,
      rackUnit: input.rackUnit ?? null,
      body: input,
    })),

  hostSuitability(fleet, { id, platformId }) {
    found(fleet, 'host', id);
    if (platformId && !fleet.get('platform', platformId)) throw notFound('platform');
    return suitability(fleet, id, platformId);
  },

  hostBuild: (fleet, { id }) => buildSheet(fleet, found(fleet, 'host', id).id),

  /** The same as one file that needs nothing else: for a phone or a stick, since the network may be what is being built. */
  hostBuildPage(fleet, { id }, { now }) {
    const { host, platform, sections } = buildSheet(fleet, found(fleet, 'host', id).id);
    return sheetPage({ title: `Build sheet of ${host}`, subtitle: platform, sections }, now);
  },

  factsScript: () => FACTS_SCRIPT,

  /** What is understood of a paste, next to what is recorded. */
  factsCompared: {
    inWorker(fleet, { text, hostId }) {
      const read = readFacts(text);
      if (!read.ok)
        throw refused(
          refuse({
            code: 'facts-not-read',
            field: 'text',
            sentence: read.sentence,
            remedy: 'Nothing was altered.',
          }),
        );
      const host = hostId ? found(fleet, 'host', hostId) : null;
      return {
        facts: read.facts,
        from: read.from,
        host: host && asRead(host),
        rows: compareFacts(fleet, read.facts, host?.id ?? null),
      };
    },
  },
};
