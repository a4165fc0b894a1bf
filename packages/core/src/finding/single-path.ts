import { practice } from '../figure/index.js';
import { carries } from '../host/index.js';
import { hostRule } from './host-finding.js';
import { ruleAt } from './rule-at.js';
import { taggedVlans } from '../reach/index.js';

/** All cables of a network end at one physical switch, though there are two of them. */
export const singleSwitch = hostRule('single-switch', (fleet, host) =>
  fleet.referring('virtualSwitch', 'hostId', host.id).flatMap((found) => {
    const ports = fleet
      .referring('uplink', 'switchId', found.id)
      .map((uplink) => fleet.need('port', uplink.portId));
    const behind = ports.map((port) => fleet.get('switchPort', port.switchPortId));
    if (ports.length < 2 || behind.some((port) => port === undefined)) return [];
    const switches = new Set(behind.map((port) => port!.physicalSwitchId));
    if (switches.size > 1) return [];
    const name = fleet.need('physicalSwitch', [...switches][0]!).name;
    return [
      {
        at: found.id,
        severity: 'note' as const,
        evidence: `${found.name} of ${host.name} goes out by ${ports.map((port) => port.name).join(' and ')}, and both end at ${name}.`,
        consequence: `When ${name} is restarted or dies, the network is gone all the same.`,
        remedy: 'Plug one of them into another switch.',
        source: practice('Two paths end at two switches'),
      },
    ];
  }),
);

/** A line that is the only way between two switches with hosts on both sides. */
export const singleLine = ruleAt('switchLine', 'single-line', (fleet, line) => {
  const [a, b] = [fleet.need('switchPort', line.aPortId), fleet.need('switchPort', line.bPortId)];
  if (!line.up || a.physicalSwitchId === b.physicalSwitchId) return [];
  const reach = (from: string): Set<string> => {
    const seen = new Set([from]);
    const queue = [from];
    for (let at = queue.pop(); at !== undefined; at = queue.pop()) {
      for (const port of fleet.referring('switchPort', 'physicalSwitchId', at)) {
        const lines = [
          ...fleet.referring('switchLine', 'aPortId', port.id),
          ...fleet.referring('switchLine', 'bPortId', port.id),
        ];
        for (const other of lines) {
          if (other.id === line.id || !other.up) continue;
          const end = fleet.need(
            'switchPort',
            other.aPortId === port.id ? other.bPortId : other.aPortId,
          ).physicalSwitchId;
          if (!seen.has(end)) queue.push(end);
          seen.add(end);
        }
      }
    }
    return seen;
  };
  const left = reach(a.physicalSwitchId);
  if (left.has(b.physicalSwitchId)) return [];
  const hosts = (switches: Set<string>) =>
    new Set(
      [...fleet.all('host')]
        .filter(
          (host) =>
            carries(host) &&
            fleet
              .referring('port', 'hostId', host.id)
              .some(
                (port) =>
                  port.switchPortId &&
                  switches.has(fleet.need('switchPort', port.switchPortId).physicalSwitchId),
              ),
        )
        .map((host) => host.name),
    );
  // A host with a cable on both sides does not hang on the line.
  const [one, other] = [hosts(left), hosts(reach(b.physicalSwitchId))];
  const here = [...one].filter((host) => !other.has(host));
  const there = [...other].filter((host) => !one.has(host));
  if (here.length === 0 || there.length === 0) return [];
  const vlans = [...taggedVlans(a)].filter((vlan) => taggedVlans(b).has(vlan)).length;
  return [
    {
      severity: 'note',
      evidence: `The line ${line.name} is the only way between ${here.join(', ')} and ${there.join(', ')}${vlans > 1 ? `, for ${vlans} VLANs` : ''}.`,
      consequence:
        'When it is cut, each side is alone: no replicas, no moves, no services of the other side.',
      remedy: 'Add a second line by another way, or decide what each side can do alone.',
      source: practice('Sites are joined by two ways'),
    },
  ];
});
