/** Reservations for a DHCP server from the record: addresses marked as reservations, with the MAC of their holder. */
import { addressOf, formatAddress, netmask, prefixOf } from '../address/index.js';
import type { Fleet } from '../record/index.js';
import { hostNameComplaint, machineNames } from './machine-names.js';

export interface Reservation {
  mac: string;
  ip: string;
  name: string;
}

/** IPv4 reservations of a subnet, in address order, and machines that lack a MAC or a name that can stand there. */
export function reservationsOf(
  fleet: Fleet,
  subnetId: string,
): { rows: Reservation[]; left: { name: string; why: string }[] } {
  const rows: Reservation[] = [];
  const left: { name: string; why: string }[] = [];
  const seen = { mac: new Set<string>(), ip: new Set<string>() };
  for (const machine of machineNames(fleet)) {
    for (const { ip, use, mac, subnetId: home } of machine.addresses) {
      if (home !== subnetId || use !== 'reservation' || ip.includes(':')) continue;
      const complaint = hostNameComplaint(machine.name);
      if (!mac)
        left.push({
          name: machine.name,
          why: `${ip} is reserved for it, but its MAC is not recorded`,
        });
      else if (seen.mac.has(mac) || seen.ip.has(ip))
        left.push({
          name: machine.name,
          why: `${seen.mac.has(mac) ? mac : ip} stands in an earlier line`,
        });
      else {
        seen.mac.add(mac);
        seen.ip.add(ip);
        rows.push({ mac, ip, name: complaint ? '' : machine.name });
      }
    }
  }
  const value = (row: Reservation) => addressOf(row.ip).value;
  return { rows: rows.sort((a, b) => (value(a) < value(b) ? -1 : 1)), left };
}

/** The subnet as a JSON document: block, dynamic ranges, gateway, name servers, reservations. */
export function reservationsJson(fleet: Fleet, subnetId: string): string {
  const subnet = fleet.need('subnet', subnetId);
  const dynamic = fleet
    .referring('range', 'subnetId', subnetId)
    .filter((range) => range.use === 'dynamic');
  const options = [
    ...(subnet.gateway ? [{ name: 'routers', data: subnet.gateway }] : []),
    ...(subnet.nameServers.length
      ? [{ name: 'domain-name-servers', data: subnet.nameServers.join(', ') }]
      : []),
    ...(subnet.domain ? [{ name: 'domain-name', data: subnet.domain }] : []),
  ];
  const document = {
    Dhcp4: {
      'valid-lifetime': 43_200,
      subnet4: [
        {
          id: 1,
          subnet: subnet.prefix,
          pools: dynamic.map((range) => ({ pool: `${range.firstIp} - ${range.lastIp}` })),
          'option-data': options,
          reservations: reservationsOf(fleet, subnetId).rows.map(({ mac, ip, name }) => ({
            'hw-address': mac,
            'ip-address': ip,
            ...(name ? { hostname: name } : {}),
          })),
        },
      ],
    },
  };
  return `${JSON.stringify(document, null, 2)}\n`;
}

/** The same as lines of text, one a range and one a reservation. */
export function reservationsText(fleet: Fleet, subnetId: string): string {
  const subnet = fleet.need('subnet', subnetId);
  const block = prefixOf(subnet.prefix);
  const dynamic = fleet
    .referring('range', 'subnetId', subnetId)
    .filter((range) => range.use === 'dynamic');
  const { rows, left } = reservationsOf(fleet, subnetId);
  return [
    ...(dynamic.length
      ? dynamic.map((range) => `dhcp-range=${range.firstIp},${range.lastIp},${netmask(block)},12h`)
      : [
          `dhcp-range=${formatAddress({ family: 4, value: block.first })},static,${netmask(block)},12h`,
        ]),
    ...rows.map(({ mac, ip, name }) => `dhcp-host=${[mac, ip, ...(name ? [name] : [])].join(',')}`),
    ...left.map(({ name, why }) => `# left out ${name.replace(/[\r\n]/g, ' ')}: ${why}`),
    '',
  ].join('\n');
}
