import { own, practice } from '../figure/index.js';
import { subnetOf } from '../network/index.js';
import { ruleAt, type RuleFinding } from './rule-at.js';

/** Name servers of a subnet: missing, held by nobody, or asking only themselves. */
export const nameServerFaults = ruleAt('subnet', 'name-server', (fleet, subnet) => {
  const network = fleet.need('network', subnet.networkId);
  const about = { kind: 'network' as const, id: network.id, name: network.name };
  // Networks inside one host are served by the host, or need no names.
  const carriers = fleet.referring('virtualSwitch', 'networkId', network.id);
  if (carriers.length > 0 && carriers.every((found) => found.mode !== 'bridged')) return [];
  if (subnet.nameServers.length === 0) {
    const machines = fleet.referringCount('address', 'subnetId', subnet.id);
    return subnet.gateway !== null && machines > 1
      ? [
          {
            at: 'none',
            severity: 'note',
            about,
            evidence: `${network.name} ${subnet.prefix} says no name server to its ${machines} machines.`,
            consequence: 'Each of them is set by hand, or resolves no names.',
            remedy: 'Record the name servers of the subnet.',
            source: practice('A subnet says its name servers'),
          },
        ]
      : [];
  }
  return subnet.nameServers.flatMap((ip): RuleFinding[] => {
    const holders = fleet.withIp(subnet.domainId, ip);
    if (holders.length === 0) {
      if (!subnetOf(fleet, subnet.domainId, ip)) return [];
      return [
        {
          at: ip,
          severity: 'caution',
          about,
          evidence: `${network.name} asks ${ip} for names, and no machine of the record has that address.`,
          consequence: 'Names resolve slowly or not at all.',
          remedy: 'Correct the address, or record the machine that has it.',
          source: own('A name server in a recorded subnet is a recorded machine'),
        },
      ];
    }
    const [holder] = holders;
    const alone = subnet.nameServers.length === 1 && holder!.subnetId === subnet.id;
    if (!alone) return [];
    return [
      {
        at: ip,
        severity: 'note',
        about,
        evidence: `The only name server of ${network.name}, ${ip}, is in that network and asks itself.`,
        consequence: 'When it is down, the machine that should mend it has no names either.',
        remedy: 'Add a second name server elsewhere.',
        source: practice(
          'Two name servers in different places: RFC 2182, section 3.1, says so of zones',
        ),
      },
    ];
  });
});
