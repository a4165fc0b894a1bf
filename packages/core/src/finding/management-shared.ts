import { practice } from '../figure/index.js';
import { managementAddresses, carries } from '../host/index.js';
import { ping, worldOf } from '../reach/index.js';
import { addressOf, formatAddress } from '../address/index.js';
import { ruleAt } from './rule-at.js';

/** Hosts are managed over a network on which guests are. */
export const managementShared = ruleAt('network', 'management-shared', (fleet, network) => {
  const subnets = fleet.referring('subnet', 'networkId', network.id);
  const hosts = new Set(
    subnets.flatMap((subnet) =>
      fleet
        .referring('address', 'subnetId', subnet.id)
        .flatMap((row) =>
          row.hostId && managementAddresses(fleet, row.hostId).some((own) => own.id === row.id)
            ? [fleet.need('host', row.hostId).name]
            : [],
        ),
    ),
  );
  const guests = new Set(
    fleet.referring('adapter', 'networkId', network.id).map((adapter) => adapter.guestId),
  ).size;
  if (hosts.size === 0 || guests === 0) return [];
  return [
    {
      severity: network.untrusted ? 'blocker' : 'note',
      evidence: `${[...hosts].slice(0, 4).join(', ')}${hosts.size > 4 ? ` and ${hosts.size - 4} more` : ''} ${hosts.size === 1 ? 'is' : 'are'} managed over ${network.name}, where ${guests} ${guests === 1 ? 'guest is' : 'guests are'}.`,
      consequence:
        'A guest that is taken over is one step from every console, and a flood among guests cuts the administrator off.',
      remedy: 'Give management a network of its own.',
      source: practice('Management has a network of its own'),
    },
  ];
});

const reachable = ruleAt('network', 'console-reachable', (fleet, network) => {
  if (!network.untrusted) return [];
  const world = worldOf(fleet);
  const asker = fleet
    .referring('adapter', 'networkId', network.id)
    .map((adapter) => world.topology.machines.get(adapter.guestId))
    .find((machine) => machine?.on);
  if (!asker) return [];
  const open = [...fleet.all('host')].flatMap((host) => {
    const target = world.topology.machines.get(host.id);
    if (!target || !carries(host)) return [];
    const found = managementAddresses(fleet, host.id).find(
      (row) => ping(world.topology, asker, addressOf(row.ip), target).verdict === 'yes',
    );
    return found ? [`${host.name} (${formatAddress(addressOf(found.ip))})`] : [];
  });
  if (open.length === 0) return [];
  return [
    {
      severity: 'blocker',
      evidence: `From ${network.name}, which is marked as untrusted, ${asker.name} reaches the consoles of ${open.slice(0, 4).join(', ')}${open.length > 4 ? ` and ${open.length - 4} more` : ''}, as far as addressing and routing go.`,
      consequence: 'Whoever sits there can try passwords on every host.',
      remedy: 'Take the way between the two networks out, or filter it and note where.',
      source: practice('A console is never reached from networks of strangers'),
    },
  ];
});

/** A console is reached from a network marked as untrusted. */
export const consoleReachable = { ...reachable, heavy: true };
