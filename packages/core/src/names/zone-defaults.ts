/** What the head of a zone most likely says, from the record: nobody types what is known. */
import type { Fleet } from '../record/index.js';
import { machineNames, trimDomain } from './machine-names.js';

export interface ZoneDefaults {
  /** Domain that most subnets name; empty where none does. */
  domain: string;
  /** Full names of the machines that these subnets name as their name servers, the one named most first. */
  servers: string[];
  /** hostmaster at the domain (RFC 2142, section 7). */
  mailbox: string;
}

export function zoneDefaults(fleet: Fleet): ZoneDefaults {
  const subnets = [...fleet.all('subnet')].map((subnet) => ({
    domain: trimDomain(subnet.domain),
    servers: subnet.nameServers,
  }));
  const domain = byCount(subnets.map((subnet) => subnet.domain).filter(Boolean))[0] ?? '';
  const named = new Map(
    machineNames(fleet).flatMap((machine) =>
      machine.addresses.map(({ ip }) => [ip, machine.full] as const),
    ),
  );
  const servers = byCount(
    subnets
      .filter((subnet) => subnet.domain === domain)
      .flatMap((subnet) => subnet.servers.flatMap((ip) => named.get(ip) ?? [])),
  );
  return { domain, servers, mailbox: domain && `hostmaster.${domain}` };
}

function byCount(texts: readonly string[]): string[] {
  const counts = new Map<string, number>();
  for (const text of texts) counts.set(text, (counts.get(text) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1)).map(([text]) => text);
}
