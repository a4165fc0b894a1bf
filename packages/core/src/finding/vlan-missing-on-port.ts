import { standard } from '../figure/index.js';
import { editSwitchPorts } from '../network/index.js';
import { taggedVlans } from '../reach/index.js';
import type { Fleet, Row } from '../record/index.js';
import { hostRule } from './host-finding.js';
import { mendBy } from './mend.js';
import type { RuleFinding } from './rule-at.js';

/** A host carries a network by a port, and the switch port behind it does not carry the network's VLAN. */
export const vlanMissingOnPort = hostRule('vlan-missing-on-port', (fleet, host) =>
  fleet
    .referring('virtualSwitch', 'hostId', host.id)
    .flatMap((found) =>
      found.mode === 'bridged'
        ? fleet
            .referring('uplink', 'switchId', found.id)
            .flatMap((uplink) => look(fleet, host, found, fleet.need('port', uplink.portId)))
        : [],
    ),
);

function look(
  fleet: Fleet,
  host: Row<'host'>,
  found: Row<'virtualSwitch'>,
  port: Row<'port'>,
): RuleFinding[] {
  const network = fleet.get('network', found.networkId);
  const behind = fleet.get('switchPort', port.switchPortId);
  if (!network || !behind) return [];
  const where = `port ${behind.name} of ${fleet.need('physicalSwitch', behind.physicalSwitchId).name}`;
  const source = standard('VLAN member sets of a port: IEEE Std 802.1Q, clause 6.7');
  if (found.untagged || network.vlanId === null) {
    if (
      behind.untaggedVlan !== null &&
      (network.vlanId === null || behind.untaggedVlan === network.vlanId)
    )
      return [];
    const says =
      behind.untaggedVlan === null
        ? 'drops frames without a tag'
        : `takes them for VLAN ${behind.untaggedVlan}`;
    return [
      {
        at: `${found.id}|${port.id}`,
        severity: 'blocker',
        evidence: `${host.name} sends ${network.name} untagged by ${port.name}, and ${where} ${says}.`,
        consequence: 'Its guests there are on no network, or on a stranger’s.',
        remedy: 'Correct the untagged VLAN of the switch port, or send with the tag.',
        source,
      },
    ];
  }
  if (taggedVlans(behind).has(network.vlanId)) return [];
  return [
    {
      at: `${found.id}|${port.id}`,
      severity: 'blocker',
      evidence: `${host.name} carries ${network.name} (VLAN ${network.vlanId}) by ${port.name}, and ${where} does not carry that VLAN.`,
      consequence:
        'Frames of its guests are dropped at that switch; after a failover to this port nothing passes.',
      remedy: `Carry VLAN ${network.vlanId} there.`,
      source,
      mend: mendBy(fleet, `Carry VLAN ${network.vlanId} on ${where}`, editSwitchPorts, {
        ids: [behind.id],
        addVlans: [network.vlanId],
      }),
    },
  ];
}
