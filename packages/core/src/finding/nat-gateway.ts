import { addressOf, contains, prefixOf } from '../address/index.js';
import { own } from '../figure/index.js';
import { isolatesGuests } from '../host/index.js';
import { editSubnet } from '../network/index.js';
import { mendBy } from './mend.js';
import { ruleAt } from './rule-at.js';

/** A host translates for its guests, and has another address on their network than the one they go out by. */
export const natGateway = ruleAt('subnet', 'nat-gateway', (fleet, subnet) => {
  const { gateway } = subnet;
  if (gateway === null || !contains(prefixOf(subnet.prefix), addressOf(gateway))) return [];
  return fleet.referring('virtualSwitch', 'networkId', subnet.networkId).flatMap((found) => {
    if (found.mode !== 'NAT' || isolatesGuests(fleet, found)) return [];
    const host = fleet.need('host', found.hostId);
    const here = fleet
      .referring('address', 'hostId', host.id)
      .filter(({ subnetId }) => subnetId === subnet.id);
    // Without an address of its own there it is taken to have the gateway's.
    if (here.length === 0 || here.some(({ ip }) => ip === gateway)) return [];
    const { ip } = here[0]!;
    const other = fleet.withIp(subnet.domainId, gateway).length > 0;
    return [
      {
        at: found.id,
        severity: other ? ('note' as const) : ('blocker' as const),
        about: { kind: 'host' as const, id: host.id, name: host.name },
        evidence: `Guests on ${found.name} of ${host.name} go out by ${gateway}; ${host.name}, which translates for them, has ${ip} there.`,
        consequence: other
          ? 'They go out by another machine: what this host translates is not theirs.'
          : 'Nobody answers for their gateway: they reach each other and the host, and nothing beyond it.',
        remedy: `Let the gateway of ${subnet.prefix} be ${ip}, or give ${host.name} the address ${gateway}.`,
        source: own('Who translates is the gateway of those it translates for'),
        mend: mendBy(fleet, `Record ${ip} as the gateway`, editSubnet, {
          id: subnet.id,
          gateway: ip,
        }),
      },
    ];
  });
});
