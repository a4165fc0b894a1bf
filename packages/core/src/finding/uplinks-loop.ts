import { standard } from '../figure/index.js';
import { taggedVlans } from '../reach/index.js';
import type { Fleet, Row } from '../record/index.js';
import { hostRule } from './host-finding.js';

/** A virtual switch goes out by two cables into one network, and nothing binds them: frames go round. */
export const uplinksLoop = hostRule('uplinks-loop', (fleet, host) =>
  fleet.referring('virtualSwitch', 'hostId', host.id).flatMap((found) => {
    if (found.mode !== 'bridged' || found.bundle !== 'none' || !found.networkId) return [];
    const network = fleet.need('network', found.networkId);
    const ends = fleet
      .referring('uplink', 'switchId', found.id)
      .map((uplink) => fleet.need('port', uplink.portId))
      .flatMap((port) => endOf(fleet, port, found.untagged ? null : network.vlanId));
    const loop = ends.flatMap((one, i) =>
      ends
        .slice(i + 1)
        .filter((other) => isJoined(fleet, one, other))
        .map((other) => [one, other]),
    )[0];
    if (!loop) return [];
    const names = loop.map(({ port }) => port.name).join(' and ');
    return [
      {
        at: found.id,
        severity: 'blocker' as const,
        evidence: `${found.name} of ${host.name} goes out by ${names} into ${network.name}, and nothing binds them together.`,
        consequence:
          'A frame to everybody comes back by the other cable and goes round without end, unless somebody cuts the circle (spanning tree): the whole network stands still.',
        remedy: 'Bind them (failover, or aggregation on both sides), or leave one of them out.',
        source: standard(
          'Bridges form no circle: IEEE Std 802.1D; link aggregation: IEEE Std 802.1AX',
        ),
      },
    ];
  }),
);

interface End {
  port: Row<'port'>;
  switchId: string;
  vlan: number;
}

/** Where its frames arrive on a physical switch; none where they do not, or where nobody recorded the cable. */
function endOf(fleet: Fleet, port: Row<'port'>, tag: number | null): End[] {
  const there = fleet.get('switchPort', port.switchPortId);
  if (!port.up || !port.wired || !there?.up) return [];
  const vlan = tag ?? there.untaggedVlan;
  const passes = tag === null ? vlan !== null : taggedVlans(there).has(tag);
  return passes && vlan !== null ? [{ port, switchId: there.physicalSwitchId, vlan }] : [];
}

/** One switch, or two that lines with that VLAN join. */
function isJoined(fleet: Fleet, one: End, other: End): boolean {
  if (one.vlan !== other.vlan) return false;
  const seen = new Set([one.switchId]);
  for (const at of seen) {
    if (at === other.switchId) return true;
    for (const port of fleet.referring('switchPort', 'physicalSwitchId', at))
      for (const line of [
        ...fleet.referring('switchLine', 'aPortId', port.id),
        ...fleet.referring('switchLine', 'bPortId', port.id),
      ]) {
        const far = fleet.need(
          'switchPort',
          line.aPortId === port.id ? line.bPortId : line.aPortId,
        );
        if (line.up && carries(port, one.vlan) && carries(far, one.vlan))
          seen.add(far.physicalSwitchId);
      }
  }
  return false;
}

const carries = (port: Row<'switchPort'>, vlan: number): boolean =>
  port.up && (port.untaggedVlan === vlan || taggedVlans(port).has(vlan));
