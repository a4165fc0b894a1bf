import { addressOf, broadcast, prefixOf, type Prefix } from '../address/index.js';
import { standard, type Source } from '../figure/index.js';
import { holderOf, setAddress } from '../network/index.js';
import type { Fleet, Row } from '../record/index.js';
import { mendBy } from './mend.js';
import { ruleAt, type RuleFinding } from './rule-at.js';

/** A machine carries an address that names the subnet itself, or all of its machines. */
export const unusableAddress = ruleAt('address', 'unusable-address', (fleet, address) => {
  const subnet = fleet.get('subnet', address.subnetId);
  if (!subnet) return [];
  const what = meaningOf(prefixOf(subnet.prefix), address.ip);
  if (!what) return [];
  const { words, ...meaning } = what;
  const holder = holderOf(fleet, address);
  return [
    {
      ...meaning,
      about: holder,
      evidence: `${holder.name} carries ${address.ip}, ${words} ${subnet.prefix}.`,
      remedy: 'Give it an address of a machine, and look at what is configured there.',
      mend: mendBy(fleet, 'Give it the next free address', setAddress, {
        assigned: true,
        replaces: address.id,
      }),
    },
  ];
});

interface Meaning {
  words: string;
  severity: 'blocker' | 'caution';
  consequence: string;
  source: Source;
}

/** What an address means in its subnet, where it does not mean a machine. Subnets of two addresses have neither (RFC 3021, RFC 6164). */
function meaningOf(prefix: Prefix, ip: string): Meaning | undefined {
  const { value, family } = addressOf(ip);
  if (prefix.length >= (family === 4 ? 31 : 127)) return undefined;
  if (value === prefix.first)
    return family === 4
      ? {
          words: 'which is the address of the subnet itself:',
          severity: 'blocker',
          consequence:
            'Some machines take what is sent to it for a broadcast: nobody answers reliably.',
          source: standard('Host part of all zeros: RFC 1122, section 3.2.1.3'),
        }
      : {
          words: 'which any router of the subnet answers to:',
          severity: 'caution',
          consequence: 'What is meant for it may be answered by a router.',
          source: standard('Subnet-router anycast address: RFC 4291, section 2.6.1'),
        };
  if (value !== broadcast(prefix)) return undefined;
  return {
    words: 'which is the broadcast address of',
    severity: 'blocker',
    consequence: 'What is sent to it goes to every machine of the subnet, and no reply comes back.',
    source: standard('Directed broadcast: RFC 1122, section 3.2.1.3; RFC 919, section 7'),
  };
}

/** A machine is on a network and carries an address that lies in none of its subnets, nor in any other one. */
export const addressOutsideNetwork = ruleAt(
  'address',
  'address-outside-network',
  (fleet, address) => {
    if (address.subnetId !== null || address.use === 'shared') return [];
    const network = fleet.get('network', networkOf(fleet, address));
    if (!network) return [];
    const { family } = addressOf(address.ip);
    // In one of these it would have that subnet: a subnet recorded later takes what lies in it.
    const subnets = fleet
      .referring('subnet', 'networkId', network.id)
      .filter(({ prefix }) => prefixOf(prefix).family === family);
    if (subnets.length === 0) return [];
    const holder = holderOf(fleet, address);
    return [
      {
        severity: 'blocker',
        about: holder,
        evidence: `${holder.name} carries ${address.ip} on ${network.name}, which has ${subnets.map(({ prefix }) => prefix).join(', ')}.`,
        consequence: 'Nobody on the network answers it, unless it has that prefix as well.',
        remedy: 'Give it an address of the network, or record the subnet that is missing.',
        source: standard(
          'An address is valid on the link of its subnet: RFC 1122, section 3.3.1.1',
        ),
        mend: mendBy(fleet, `Give it the next free address of ${network.name}`, setAddress, {
          assigned: true,
          networkId: network.id,
          replaces: address.id,
        }),
      } satisfies RuleFinding,
    ];
  },
);

/** The network that the carrier of an address is on, where it says so. */
const networkOf = (fleet: Fleet, address: Row<'address'>): string | null =>
  fleet.get('adapter', address.adapterId)?.networkId ??
  fleet.get('devicePort', address.devicePortId)?.networkId ??
  fleet.get('virtualSwitch', address.virtualSwitchId)?.networkId ??
  null;
