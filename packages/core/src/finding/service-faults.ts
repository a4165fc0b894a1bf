import { practice } from '../figure/index.js';
import type { Row } from '../record/index.js';
import { ruleAt, type RuleFinding } from './rule-at.js';

/** A service that somebody needs and nobody provides, or that hangs on one machine; one that manages the hosts it runs on. */
export const serviceFaults = ruleAt(
  'service',
  'service-unprovided',
  (fleet, service): RuleFinding[] => {
    const guests = fleet
      .referring('provider', 'serviceId', service.id)
      .flatMap((row) => fleet.get('guest', row.guestId) ?? []);
    const devices = fleet
      .referring('provider', 'serviceId', service.id)
      .flatMap((row) => fleet.get('device', row.deviceId) ?? []);
    const running = guests.filter((guest) => guest.state === 'in service');
    const alive = running.length + devices.filter((device) => device.state === 'in service').length;
    const users = fleet.referringCount('dependency', 'serviceId', service.id);
    const own = ownGroup(
      service,
      running.map((guest) => fleet.need('host', guest.hostId)),
    );
    const found: RuleFinding[] = own && devices.length === 0 ? [own] : [];
    if (users === 0) return found;
    const needed = users === 1 ? 'one machine needs it' : `${users} machines need it`;
    if (alive === 0)
      found.push({
        severity: 'blocker',
        evidence: `${service.name}: ${needed}, and nobody who provides it is in service.`,
        consequence: 'Whoever needs it does not start after a power cut.',
        remedy: 'Start or record a machine that provides it, or take the needs away.',
        source: practice('A needed service has a provider'),
      });
    const hosts = new Set(running.map((guest) => guest.hostId));
    if (alive > 0 && alive === running.length && hosts.size === 1) {
      const host = fleet.need('host', [...hosts][0]!).name;
      const who = running.map((guest) => guest.name).join(' and ');
      found.push({
        rule: 'service-on-one-host',
        severity: 'note',
        evidence: `${service.name} comes from ${who} alone, on ${host}; ${needed}.`,
        consequence: `While ${host} is down, nobody has it.`,
        remedy: 'Let a second machine on another host provide it.',
        source: practice('Replicas of a service run on different hosts'),
      });
    }
    return found;
  },
);

function ownGroup(service: Row<'service'>, hosts: readonly Row<'host'>[]): RuleFinding | undefined {
  if (
    !service.hostGroupId ||
    hosts.length === 0 ||
    hosts.some((host) => host.groupId !== service.hostGroupId)
  )
    return undefined;
  return {
    rule: 'manages-its-own-hosts',
    severity: 'note',
    evidence: `${service.name} is for the hosts of a group, and runs only on ${[...new Set(hosts.map((host) => host.name))].join(' and ')} of that very group.`,
    consequence: 'When the group is down, it is not there to bring it up.',
    remedy:
      'Keep one provider outside the group, or write down how each host is started without it.',
    source: practice('A management console runs outside of what it manages'),
  };
}
