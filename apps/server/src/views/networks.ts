import type { NetworkListRow, NetworkSheet, RunView, SubnetView } from '@insel/contract';
import { addressOf, findingsOn, formatAddress, heldIn, holderOf, nextFree, prefixOf, runLength, subnetFigures, subnetRuns, type Fleet } from '@insel/core';
import { markOf, named, namedById, siteName } from './common.js';

export function networkRow(fleet: Fleet, id: string, now: string): NetworkListRow {
  const network = fleet.need('network', id);
  return {
    ...named(network),
    site: siteName(fleet, network.siteId),
    vlanId: network.vlanId,
    subnets: fleet.referring('subnet', 'networkId', id).map((subnet) => {
      const { free, taken } = subnetFigures(fleet, subnet.id);
      return { id: subnet.id, prefix: subnet.prefix, free: free.value, takenPercent: taken.value, held: heldIn(fleet, subnet.id).length };
    }),
    finding: markOf(fleet, 'network', id, now),
  };
}

function subnetView(fleet: Fleet, id: string): SubnetView {
  const subnet = fleet.need('subnet', id);
  const { family } = prefixOf(subnet.prefix);
  const ranges = fleet.referring('range', 'subnetId', id).sort((a, b) => (addressOf(a.firstIp).value < addressOf(b.firstIp).value ? -1 : 1));
  const runs: RunView[] = subnetRuns(fleet, id).map((run) => ({
    kind: run.kind,
    first: formatAddress({ family, value: run.first }),
    last: formatAddress({ family, value: run.last }),
    count: String(runLength(run)),
  }));
  const spans = ranges.map((range) => ({ first: addressOf(range.firstIp).value, last: addressOf(range.lastIp).value }));
  return {
    ...subnet,
    runs,
    ranges,
    held: heldIn(fleet, id).map((row) => {
      const { value } = addressOf(row.ip);
      return { id: row.id, ip: row.ip, assigned: row.assigned, use: row.use, holder: holderOf(fleet, row), inRange: spans.some((span) => value >= span.first && value <= span.last) };
    }),
    next: nextFree(fleet, id)[0] ?? null,
    ...subnetFigures(fleet, id),
  };
}

export function networkSheet(fleet: Fleet, id: string, now: string): NetworkSheet {
  const network = fleet.need('network', id);
  return {
    network,
    site: network.siteId ? namedById(fleet, 'site', network.siteId) : null,
    subnets: fleet.referring('subnet', 'networkId', id).map((subnet) => subnetView(fleet, subnet.id)),
    carriedBy: fleet.referring('virtualSwitch', 'networkId', id).map((found) => ({ ...namedById(fleet, 'host', found.hostId), mode: found.mode })),
    findings: findingsOn(fleet, 'network', id, now),
  };
}
