/**
 * What a licence allows, and how much of it is used. Arithmetic only, nobody's terms: which guests it covers and what is
 * counted stand in the record and can be altered.
 */
import { fromRecord, own, type Figure, type WorkingLine } from '../figure/index.js';
import { cores } from '../host/index.js';
import { counted } from '../quantity/index.js';
import type { Fleet, Row } from '../record/index.js';

export type Entitlement = Row<'entitlement'>;

/** Whether a licence covers a guest: of its role, of its family, with its label, as far as each is said. */
export function covers(
  { profileId, family, label }: Entitlement,
  guest: Pick<Row<'guest'>, 'profileId' | 'family' | 'labels' | 'state'>,
): boolean {
  if (guest.state === 'retired') return false;
  if (profileId === null && family === 'any' && label === '') return false;
  return (
    (profileId === null || guest.profileId === profileId) &&
    (family === 'any' || guest.family === family) &&
    (label === '' || guest.labels.some((one) => one.toLowerCase() === label.toLowerCase()))
  );
}

/** Guests that count: a sealed version is copied, not run, so it takes no licence. */
const coveredGuests = (fleet: Fleet, entitlement: Entitlement): Row<'guest'>[] =>
  [...fleet.all('guest')].filter((guest) => !guest.template && covers(entitlement, guest));

/** Copies that count, by host. */
export const copiesByHost = (
  fleet: Fleet,
  entitlement: Entitlement,
  counts: (guest: Row<'guest'>) => boolean,
): Map<string, number> => byHostOf(coveredGuests(fleet, entitlement).filter(counts));

function byHostOf(guests: readonly Row<'guest'>[]): Map<string, number> {
  const byHost = new Map<string, number>();
  for (const { hostId } of guests) byHost.set(hostId, (byHost.get(hostId) ?? 0) + 1);
  return byHost;
}

/** Units that one licensing of a host takes. */
export function unitsOfHost(entitlement: Entitlement, host: Row<'host'>): number {
  const own = {
    host: 1,
    processor: host.sockets,
    'core pair': Math.ceil(cores(host) / 2),
    copy: 0,
    user: 0,
  }[entitlement.unit];
  return Math.max(own, entitlement.leastPerHost);
}

/** Units used, with what takes them. Its cost grows with the number of guests. */
export function entitlementUse(fleet: Fleet, id: string): Figure & { value: number } {
  const entitlement = fleet.need('entitlement', id);
  const { name, unit, count } = entitlement;
  const lines = linesOf(fleet, entitlement);
  const used = lines.reduce((sum, { value }) => sum + (value ?? 0), 0);
  return {
    name: 'entitlement-used',
    title: `Used of ${name}`,
    value: used,
    unit: 'count',
    lines: [
      ...lines,
      { label: `Used, in units of a ${unit}`, value: used, unit: 'count', operator: '=' },
      { label: 'Allowed', value: count, unit: 'count', operator: '·' },
    ],
    sources: [
      fromRecord('Guests it covers: the record'),
      own('The arithmetic of this licence, as it was entered'),
    ],
    policy: `What is counted, stands at ${name}`,
  };
}

function linesOf(fleet: Fleet, entitlement: Entitlement): WorkingLine[] {
  const { unit, users, copiesPerHost } = entitlement;
  if (unit === 'user')
    return [{ label: 'Users, as entered', value: users, unit: 'count', operator: '·' }];
  const guests = coveredGuests(fleet, entitlement);
  if (unit === 'copy')
    return [
      {
        label: counted(guests.length, 'copy', 'copies'),
        value: guests.length,
        unit: 'count',
        operator: '·',
      },
    ];
  return [...byHostOf(guests)].map(([hostId, copies]) => {
    const host = fleet.need('host', hostId);
    const once = unitsOfHost(entitlement, host);
    const times = copiesPerHost === 0 ? 1 : Math.ceil(copies / copiesPerHost);
    const least = once === entitlement.leastPerHost && once > 0 ? ', the least it counts' : '';
    return {
      label: `${host.name}: ${counted(copies, 'copy', 'copies')}, ${once} a time${least}, ${counted(times, 'time')}`,
      value: once * times,
      unit: 'count' as const,
      operator: '+' as const,
      from: { kind: 'host', id: hostId },
    };
  });
}

/** Licences that are used beyond what they allow, in the fleet as it is supposed. */
export const exceeded = (fleet: Fleet): { entitlement: Entitlement; used: number }[] =>
  [...fleet.all('entitlement')]
    .map((entitlement) => ({ entitlement, used: entitlementUse(fleet, entitlement.id).value }))
    .filter(({ entitlement, used }) => used > entitlement.count);
