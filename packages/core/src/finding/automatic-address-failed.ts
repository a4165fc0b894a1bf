import { addressOf, contains, prefixOf } from '../address/index.js';
import { standard, practice } from '../figure/index.js';
import { inKnownSubnet, managementAddresses } from '../host/index.js';
import { hostRule } from './host-finding.js';

const LINK_LOCAL = prefixOf('169.254.0.0/16');
const LOOPBACK = prefixOf('127.0.0.0/8');

/** Signs that automatic addressing failed and the installer made something up. */
export const automaticAddressFailed = hostRule('automatic-address-failed', (fleet, host) => {
  const signs = [
    ...managementAddresses(fleet, host.id)
      .filter(({ ip }) => contains(LINK_LOCAL, addressOf(ip)))
      .map(({ ip }) => ({
        sign: `its address ${ip} is a link-local one`,
        source: standard('Link-local addresses: RFC 3927'),
      })),
    ...host.nameServers
      .filter((ip) => contains(LOOPBACK, addressOf(ip)) || ip === '::1')
      .map((ip) => ({
        sign: `its name server is ${ip}, itself`,
        source: practice('A hypervisor runs no name server of its own'),
      })),
    ...(host.gateway && fleet.count('subnet') > 0 && !inKnownSubnet(fleet, host.gateway)
      ? [
          {
            sign: `its gateway ${host.gateway} lies in a network nobody here uses`,
            source: practice('A gateway in an unknown network'),
          },
        ]
      : []),
  ];
  return signs.map(({ sign, source }) => ({
    at: sign,
    severity: 'caution' as const,
    evidence: `${host.name}: ${sign}.`,
    consequence:
      'Automatic addressing seems to have failed: what the console shows was made up, and nobody reaches the host.',
    remedy: 'Check cable and port, then type the values of the build sheet.',
    source,
  }));
});
