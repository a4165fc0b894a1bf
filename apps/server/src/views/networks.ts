import type { NetworkListRow, NetworkSheet, RunView, SubnetView } from '@insel/contract';
import {
  addressOf,
  aggregate,
  formatPrefix,
  findingsOn,
  formatAddress,
  heldIn,
  holderOf,
  nextFree,
  prefixOf,
  runLength,
  subnetFigures,
  subnetRuns,
  type Fleet,
  type Row,
  today,
} from '@insel/core';
import { asRead, markOf, named, namedById, siteName } from './common.js';

export function networkRow(fleet: Fleet, id: string, now: string): NetworkListRow {
  const network = fleet.need('network', id);
  return {
    ...named(network),
    revision: network.revision,
    site: siteName(fleet, network.siteId),
    vlanId: network.vlanId,
    subnets: fleet.referring('subnet', 'networkId', id).map((subnet) => {
      const { free, taken } = subnetFigures(fleet, subnet.id);
      return {
        id: subnet.id,
        prefix: subnet.prefix,
        free: free.value,
        takenPercent: taken.value,
        held: heldIn(fleet, subnet.id).length,
      };
    }),
    finding: markOf(fleet, 'network', id, now),
  };
}

/** Subnets of the same routing domain that make one block with it. */
function joinable(fleet: Fleet, subnet: Row<'subnet'>): SubnetView['joinable'] {
  const mine = prefixOf(subnet.prefix);
  return fleet
    .referring('subnet', 'domainId', subnet.domainId)
    .filter(
      (other) => other.id !== subnet.id && aggregate([mine, prefixOf(other.prefix)]).length === 1,
    )
    .map((other) => ({ ...asRead(other), prefix: formatPrefix(prefixOf(other.prefix)) }));
}

function subnetView(fleet: Fleet, id: string, now: string): SubnetView {
  const subnet = fleet.need('subnet', id);
  const { family } = prefixOf(subnet.prefix);
  const ranges = fleet
    .referring('range', 'subnetId', id)
    .sort((a, b) => (addressOf(a.firstIp).value < addressOf(b.firstIp).value ? -1 : 1));
  const runs: RunView[] = subnetRuns(fleet, id, today(fleet, now)).map((run) => ({
    kind: run.kind,
    first: formatAddress({ family, value: run.first }),
    last: formatAddress({ family, value: run.last }),
    count: String(runLength(run)),
  }));
  const spans = ranges
    .filter((range) => range.use !== 'static')
    .map((range) => ({
      first: addressOf(range.firstIp).value,
      last: addressOf(range.lastIp).value,
    }));
  const { free, taken } = subnetFigures(fleet, id);
  return {
    ...subnet,
    runs,
    ranges,
    held: heldIn(fleet, id).map((row) => {
      const { value } = addressOf(row.ip);
      return {
        ...asRead(row),
        ip: row.ip,
        assigned: row.assigned,
        use: row.use,
        holder: holderOf(fleet, row),
        inRange: spans.some((span) => value >= span.first && value <= span.last),
      };
    }),
    resting: fleet
      .referring('quarantine', 'subnetId', id)
      .filter((rest) => rest.until > today(fleet, now)),
    routingDomain: { id: subnet.domainId, name: fleet.need('routingDomain', subnet.domainId).name },
    joinable: joinable(fleet, subnet),
    next: nextFree(fleet, id, { now })[0] ?? null,
    free,
    taken,
  };
}

export function networkSheet(fleet: Fleet, id: string, now: string): NetworkSheet {
  const network = fleet.need('network', id);
  return {
    network,
    site: network.siteId ? namedById(fleet, 'site', network.siteId) : null,
    subnets: fleet
      .referring('subnet', 'networkId', id)
      .map((subnet) => subnetView(fleet, subnet.id, now)),
    carriedBy: fleet
      .referring('virtualSwitch', 'networkId', id)
      .map((found) => ({ ...namedById(fleet, 'host', found.hostId), mode: found.mode })),
    alsoAt: fleet
      .referring('networkSite', 'networkId', id)
      .map((row) => namedById(fleet, 'site', row.siteId)),
    devices: fleet.referring('devicePort', 'networkId', id).map((port) => ({
      id: port.deviceId,
      name: fleet.need('device', port.deviceId).name,
      port: port.name,
    })),
    findings: findingsOn(fleet, 'network', id, now),
  };
}
