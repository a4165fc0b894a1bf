/**
 * What the record can never hold, whoever says so: a field outside its bounds, a reference to nothing, an assigned
 * identity given twice, overlapping subnets of one routing domain, a range that leaves its subnet. Everything else that
 * is wrong in the world is recorded and becomes a finding.
 */
import type { Fleet } from './fleet.js';
import { REFERENCES, type Kind, type Row } from './kinds/index.js';
import type { Patch, Values } from './patch.js';
import { refuse, type Refusal } from './refusal.js';
import { fieldFault } from './field-complaint.js';
import {
  vlansUnreadable,
  cableTwice,
  lineFault,
  subnetOverlaps,
  rangeOutside,
  noUplink,
  forwardedTwice,
  noTrunk,
  macTwice,
  addressTwice,
  notOne,
} from './network-invariants.js';

/** The first broken invariant of the fleet as it would be with the patches, or undefined. */
export function brokenInvariant(fleet: Fleet, patches: readonly Patch[]): Refusal | undefined {
  for (const patch of patches) {
    const fault = patch.op === 'delete' ? undefined : fieldFault(patch.kind, patch.after);
    if (fault) return fault;
  }
  const would = fleet.overlay(patches);
  for (const patch of patches) {
    const fault =
      patch.op === 'delete' ? stillReferred(would, patch) : brokenRow(would, patch.kind, patch.id);
    if (fault) return fault;
  }
  return undefined;
}

function brokenRow(fleet: Fleet, kind: Kind, id: string): Refusal | undefined {
  const row = fleet.need(kind, id);
  for (const { field, to } of REFERENCES[kind]) {
    const target = (row as unknown as Values)[field] as string | null;
    if (target !== null && !fleet.get(to, target)) {
      return refuse({
        code: 'no-such-record',
        field,
        sentence: `This refers to a ${to} that is not in the record.`,
      });
    }
  }
  switch (kind) {
    case 'host':
      return nameTwice(fleet, row as Row<'host'>) ?? rackPlaceTaken(fleet, row as Row<'host'>);
    case 'guest':
      return nameTwice(fleet, row as Row<'guest'>);
    case 'device':
      return nameTwice(fleet, row as Row<'device'>);
    case 'adapter':
      return noTrunk(fleet, row as Row<'adapter'>) ?? macTwice(fleet, row as Row<'adapter'>);
    case 'switchPort':
      return vlansUnreadable(row as Row<'switchPort'>);
    case 'port':
      return cableTwice(fleet, (row as Row<'port'>).switchPortId, 'switchPortId');
    case 'devicePort':
      return cableTwice(fleet, (row as Row<'devicePort'>).switchPortId, 'switchPortId');
    case 'switchLine':
      return lineFault(fleet, row as Row<'switchLine'>);
    case 'plan':
      return standsOnItself(fleet, row as Row<'plan'>);
    case 'route':
      return notOne(
        row,
        ['hostId', 'guestId', 'deviceId'],
        'Say whose route it is: one host, one guest, or one device.',
      );
    case 'forwardedPort':
      return (
        notOne(
          row,
          ['hostId', 'guestId', 'deviceId'],
          'Say whose port it is: of one host, one guest, or one device.',
        ) ?? forwardedTwice(fleet, row as Row<'forwardedPort'>)
      );
    case 'virtualSwitch':
      return noUplink(fleet, row as Row<'virtualSwitch'>);
    case 'provider':
      return (
        notOne(row, ['guestId', 'deviceId'], 'Say who provides it: one guest, or one device.') ??
        statedTwice(fleet, kind, row as unknown as Values)
      );
    case 'drive':
      return statedTwice(fleet, kind, row as unknown as Values);
    case 'dependency':
      return needFault(fleet, row as Row<'dependency'>);
    case 'address':
      return addressTwice(fleet, row as Row<'address'>);
    case 'subnet':
      return subnetOverlaps(fleet, row as Row<'subnet'>);
    case 'range':
      return rangeOutside(fleet, row as Row<'range'>);
    default:
      return undefined;
  }
}

function stillReferred(fleet: Fleet, patch: Patch): Refusal | undefined {
  const [first] = fleet.referrers(patch.kind, patch.id);
  if (!first) return undefined;
  const count = first.ids.length;
  return refuse({
    code: 'still-referred-to',
    sentence: `${count} ${first.kind}${count === 1 ? ' refers' : ' records refer'} to it.`,
    remedy: 'Remove or redirect what refers to it first.',
  });
}

function nameTwice(
  fleet: Fleet,
  row: Row<'host'> | Row<'guest'> | Row<'device'>,
): Refusal | undefined {
  if (!row.nameAssigned) return undefined;
  const other = fleet
    .named(row.name)
    .find((found) => found.id !== row.id && fleet.need(found.kind, found.id).nameAssigned);
  if (!other) return undefined;
  return refuse({
    code: 'name-taken',
    field: 'name',
    sentence: `${row.name} is the name of another ${other.kind}.`,
    remedy: 'Choose another name.',
  });
}

/** Two machines cannot stand in one place of a rack: units u … u + height − 1, counted from the floor. */
function rackPlaceTaken(fleet: Fleet, row: Row<'host'>): Refusal | undefined {
  if (!row.rackId || row.rackUnit === null || row.state === 'retired') return undefined;
  const rack = fleet.need('rack', row.rackId);
  const top = row.rackUnit + row.rackHeight - 1;
  if (top > rack.units)
    return refuse({
      code: 'above-the-rack',
      field: 'rackUnit',
      sentence: `${rack.name} has ${rack.units} units; ${row.name} would reach up to ${top}.`,
    });
  const other = fleet
    .referring('host', 'rackId', rack.id)
    .find(
      (found) =>
        found.id !== row.id &&
        found.state !== 'retired' &&
        found.rackUnit !== null &&
        found.rackUnit <= top &&
        row.rackUnit! < found.rackUnit + found.rackHeight,
    );
  if (!other) return undefined;
  const units =
    other.rackHeight === 1
      ? `unit ${other.rackUnit}`
      : `units ${other.rackUnit} to ${other.rackUnit! + other.rackHeight - 1}`;
  return refuse({
    code: 'rack-place-taken',
    field: 'rackUnit',
    sentence: `${other.name} stands in ${units} of ${rack.name}.`,
    remedy: 'Choose free units.',
  });
}

/** A plan that stands on others comes to an end of them. */
function standsOnItself(fleet: Fleet, plan: Row<'plan'>): Refusal | undefined {
  let lower = fleet.get('plan', plan.onPlanId);
  for (let i = 0; lower && i <= fleet.count('plan'); i += 1) {
    if (lower.id === plan.id)
      return refuse({
        code: 'stands-on-itself',
        field: 'onPlanId',
        sentence: `${plan.name} would stand on itself.`,
        remedy: 'Let it stand on the record, or on a plan that does not stand on it.',
      });
    lower = fleet.get('plan', lower.onPlanId);
  }
  return undefined;
}

function needFault(fleet: Fleet, row: Row<'dependency'>): Refusal | undefined {
  const fault =
    notOne(row, ['hostId', 'guestId'], 'Say who needs it: one host, or one guest.') ??
    notOne(row, ['serviceId', 'onGuestId'], 'Say what is needed: one service, or one guest.');
  if (fault) return fault;
  if (row.guestId !== null && row.guestId === row.onGuestId)
    return refuse({
      code: 'needs-itself',
      field: 'onGuestId',
      sentence: 'A guest does not wait for itself.',
    });
  return statedTwice(fleet, 'dependency', row as unknown as Values);
}

/** The same provider of a service, the same need, the same medium in a guest's drives, is recorded once. */
function statedTwice(
  fleet: Fleet,
  kind: 'provider' | 'dependency' | 'drive',
  row: Values,
): Refusal | undefined {
  const fields = REFERENCES[kind].map(({ field }) => field);
  const field = fields.find((name) => row[name] !== null)!;
  const alike = (
    fleet.referring(
      kind as 'provider',
      field as 'serviceId',
      String(row[field]),
    ) as unknown as Values[]
  ).find((other) => other.id !== row.id && fields.every((name) => other[name] === row[name]));
  return alike && refuse({ code: 'stated-twice', sentence: 'That is recorded already.' });
}
