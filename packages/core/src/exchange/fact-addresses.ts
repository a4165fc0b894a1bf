/** Addresses and gateways in the facts of a machine. */
import { list, string } from './facts-values.js';
import type { MachineFacts } from './machine-facts.js';

export function addressesOf(value: unknown): MachineFacts['addresses'] | null {
  const ports = list(value);
  return (
    ports
      ?.filter((port) => !(Array.isArray(port.flags) && port.flags.includes('LOOPBACK')))
      .flatMap((port) =>
        (list(port.addr_info) ?? [])
          .filter(
            (info) =>
              (info.scope === 'global' || info.scope === 'link') &&
              typeof info.local === 'string' &&
              Number.isSafeInteger(info.prefixlen),
          )
          .filter((info) => !(info.scope === 'link' && info.family === 'inet6'))
          .map((info) => ({
            port: string(port.ifname),
            mac: string(port.address) || null,
            ip: string(info.local),
            prefixLength: Number(info.prefixlen),
          })),
      ) ?? null
  );
}

export function gatewayOf(value: unknown): string | null {
  const route = list(value)?.find((found) => found.dst === 'default');
  return route ? string(route.gateway) || null : null;
}
