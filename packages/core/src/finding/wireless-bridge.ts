import { standard } from '../figure/index.js';
import { hostRule } from './host-finding.js';

/** A bridged network goes out by a wireless port. */
export const wirelessBridge = hostRule('wireless-bridge', (fleet, host) =>
  fleet.referring('virtualSwitch', 'hostId', host.id).flatMap((found) => {
    if (found.mode !== 'bridged') return [];
    const ports = fleet
      .referring('uplink', 'switchId', found.id)
      .map((uplink) => fleet.need('port', uplink.portId));
    return ports
      .filter((port) => !port.wired)
      .map((port) => ({
        at: `${found.id}|${port.id}`,
        severity: 'blocker' as const,
        evidence: `${host.name} bridges ${found.name} by ${port.name}, which is wireless.`,
        consequence:
          'The access point takes frames only from the station that joined it: guests get no traffic, and some hosts crash over it.',
        remedy: 'Use a wired port, or translation (NAT), or a network of host and guests.',
        source: standard(
          'Three addresses in a frame to the access point: IEEE Std 802.11, clause 9.3',
        ),
      }));
  }),
);
