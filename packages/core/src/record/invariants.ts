/**
 * What the record can never hold, whoever says so: a field outside its bounds, a reference to nothing, an assigned
 * identity given twice, overlapping subnets of one routing domain, a range that leaves its subnet. Everything else that
 * is wrong in the world is recorded and becomes a finding.
 */
import {
  addressOf,
  contains,
  overlap,
  parseAddress,
  parseMac,
  parsePrefix,
  prefixOf,
} from '../address/index.js';
import type { Field } from './field.js';
import { canonicalTime, isDay } from '../quantity/time.js';
import { parseVlans } from '../quantity/vlan.js';
import type { Fleet } from './fleet.js';
import type { NamedKind } from './row-reader.js';
import { KINDS, REFERENCES, type Kind, type Row } from './kinds/index.js';
import type { Patch, Values } from './patch.js';
import { refuse, type Refusal } from './refusal.js';

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

function fieldFault(kind: Kind, values: Values): Refusal | undefined {
  for (const [name, value] of Object.entries(values)) {
    const field = KINDS[kind].fields[name];
    if (!field) throw new Error(`${kind} has no field ${name}`);
    const sentence = complaint(field, value);
    if (sentence) return refuse({ code: 'bad-value', field: name, sentence });
  }
  return undefined;
}

/** Why a field cannot hold a value, or undefined if it can. */
export function complaint(field: Field<unknown>, value: unknown): string | undefined {
  if (value === null)
    return field.nullable ? undefined : 'Give a value: this cannot be left empty.';
  switch (field.type) {
    case 'text':
      if (typeof value !== 'string') return 'Write a text.';
      if (holdsSecret(value)) return SECRET;
      if (value.trim().length < (field.min ?? 0)) return 'Write a name.';
      if (field.reads) return sentenceOf(field.reads(value));
      return value.length > field.max!
        ? `At most ${field.max} characters, this has ${value.length}.`
        : undefined;
    case 'choice':
      return field.choices!.includes(value as string)
        ? undefined
        : `Choose one of: ${field.choices!.join(', ')}.`;
    case 'integer':
      if (!Number.isSafeInteger(value)) return 'Write a whole number.';
      if ((value as number) < field.min!) return `At least ${field.min}, not ${String(value)}.`;
      return (value as number) > field.max!
        ? `At most ${field.max}, not ${String(value)}.`
        : undefined;
    case 'flag':
      return typeof value === 'boolean' ? undefined : 'Say yes or no.';
    case 'time':
      return typeof value === 'string' && canonicalTime(value) === value
        ? undefined
        : 'Write a time as 2026-11-20T08:00:00Z.';
    case 'date':
      return typeof value === 'string' && isDay(value) ? undefined : 'Write a date as 2026-11-20.';
    case 'address':
      return sentenceOf(parseAddress(String(value)));
    case 'prefix':
      return sentenceOf(parsePrefix(String(value)));
    case 'mac':
      return sentenceOf(parseMac(String(value)));
    case 'ref':
      return typeof value === 'string' && value !== '' ? undefined : 'Choose a record.';
    case 'texts':
      if (!isTexts(value)) return 'Give a list.';
      return value.some(holdsSecret) ? SECRET : undefined;
    case 'addresses':
      if (!isTexts(value)) return 'Give a list.';
      return value.map((member) => sentenceOf(parseAddress(member))).find(Boolean);
  }
}

const isTexts = (value: unknown): value is string[] =>
  Array.isArray(value) && value.every((member) => typeof member === 'string');

/** Said where a text holds a private key: the record keeps no secrets of the fleet. */
export const SECRET =
  'This text holds a private key; the record keeps no secrets. Note where the key is kept instead.';
export const holdsSecret = (text: string): boolean =>
  /-----BEGIN [A-Z ]*PRIVATE KEY-----/.test(text);

const sentenceOf = (parsed: { ok: true } | { ok: false; sentence: string; suggestion?: string }) =>
  parsed.ok
    ? undefined
    : [parsed.sentence, parsed.suggestion && `Write ${parsed.suggestion}.`]
        .filter(Boolean)
        .join(' ');

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

/** A sub-interface travels over an adapter of its own guest, and has no MAC of its own. */
function noTrunk(fleet: Fleet, row: Row<'adapter'>): Refusal | undefined {
  if (row.trunkId === null) return undefined;
  const trunk = fleet.get('adapter', row.trunkId);
  const sentence =
    trunk && (trunk.guestId !== row.guestId || trunk.trunkId !== null || trunk.id === row.id)
      ? 'A sub-interface travels over an adapter of the same guest that is none itself.'
      : row.mac !== null
        ? 'A sub-interface has the MAC of the adapter that it travels over.'
        : fleet.referringCount('adapter', 'trunkId', row.id) > 0
          ? 'Sub-interfaces travel over this adapter: it cannot be one itself.'
          : '';
  return sentence ? refuse({ code: 'no-trunk', field: 'trunkId', sentence }) : undefined;
}

function macTwice(fleet: Fleet, row: Row<'adapter'>): Refusal | undefined {
  if (!row.mac || !row.macAssigned) return undefined;
  const other = fleet.withMac(row.mac).find((found) => found.id !== row.id && found.macAssigned);
  if (!other) return undefined;
  const name = fleet.need('guest', other.guestId).name;
  return refuse({
    code: 'mac-taken',
    field: 'mac',
    sentence: `${row.mac} is assigned to ${name}.`,
    remedy: 'Leave it empty to have one generated.',
  });
}

function addressTwice(fleet: Fleet, row: Row<'address'>): Refusal | undefined {
  const fault = notOne(
    row,
    ['hostId', 'adapterId', 'devicePortId'],
    'Say who carries it: one host, one adapter, or one port of a device.',
  );
  if (fault) return fault;
  if (!row.assigned || row.use === 'shared') return undefined;
  const other = fleet
    .withIp(row.domainId, row.ip)
    .find((found) => found.id !== row.id && found.assigned && found.use !== 'shared');
  if (!other) return undefined;
  return refuse({
    code: 'address-taken',
    field: 'ip',
    sentence: `${row.ip} is assigned to ${holderName(fleet, other)}.`,
    remedy: 'Take the next free address.',
  });
}

/** Name of the host, guest or device that carries an address. */
export function holderName(fleet: Fleet, address: Row<'address'>): string {
  const { kind, id } = machineOf(fleet, address);
  return fleet.need(kind, id).name;
}

/** The machine that carries an address. */
export function machineOf(fleet: Fleet, address: Row<'address'>): { kind: NamedKind; id: string } {
  if (address.hostId) return { kind: 'host', id: address.hostId };
  if (address.devicePortId)
    return { kind: 'device', id: fleet.need('devicePort', address.devicePortId).deviceId };
  return { kind: 'guest', id: fleet.need('adapter', address.adapterId!).guestId };
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

/** Exactly one of the fields refers to a record. */
function notOne(row: object, fields: readonly string[], sentence: string): Refusal | undefined {
  const given = fields.filter((field) => (row as Values)[field] !== null);
  if (given.length === 1) return undefined;
  return refuse({ code: 'not-one', field: given[1] ?? fields[0]!, sentence });
}

/** A port of one address leads to one place. */
function forwardedTwice(fleet: Fleet, row: Row<'forwardedPort'>): Refusal | undefined {
  const field = (['hostId', 'guestId', 'deviceId'] as const).find((one) => row[one] !== null)!;
  const other = fleet
    .referring('forwardedPort', field, row[field]!)
    .find(
      ({ id, protocol, port, atIp, toIp }) =>
        id !== row.id &&
        protocol === row.protocol &&
        port === row.port &&
        atIp === row.atIp &&
        toIp.includes(':') === row.toIp.includes(':'),
    );
  if (!other) return undefined;
  return refuse({
    code: 'port-leads-on',
    field: 'port',
    sentence: `Port ${row.port}/${row.protocol} leads to ${other.toIp} already.`,
    remedy: 'Remove that one first, or choose another port.',
  });
}

/** What a switch translates leaves by another switch of its host. */
function noUplink(fleet: Fleet, row: Row<'virtualSwitch'>): Refusal | undefined {
  const uplink = fleet.get('virtualSwitch', row.natUplinkId);
  if (!uplink || (uplink.hostId === row.hostId && uplink.id !== row.id)) return undefined;
  return refuse({
    code: 'no-uplink',
    field: 'natUplinkId',
    sentence: 'What it translates leaves by another switch of the same host.',
  });
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

function vlansUnreadable(row: Row<'switchPort'>): Refusal | undefined {
  const read = parseVlans(row.taggedVlans);
  return read.ok
    ? undefined
    : refuse({ code: 'bad-vlans', field: 'taggedVlans', sentence: read.sentence });
}

/** A port of a switch takes one cable; ports of one device that are told apart by their tags share theirs. */
function cableTwice(fleet: Fleet, switchPortId: string | null, field: string): Refusal | undefined {
  if (!switchPortId) return undefined;
  const ofDevices = fleet.referring('devicePort', 'switchPortId', switchPortId);
  const devices = new Set(ofDevices.map(({ deviceId }) => deviceId)).size;
  const mixed = devices === 1 ? notToldApart(fleet, ofDevices) : null;
  if (mixed)
    return refuse({
      code: 'port-taken',
      field,
      sentence: mixed,
      remedy: 'Let each carry the tag of its own network, but one that may go without.',
    });
  const cables =
    fleet.referringCount('port', 'switchPortId', switchPortId) +
    devices +
    fleet.referringCount('switchLine', 'aPortId', switchPortId) +
    fleet.referringCount('switchLine', 'bPortId', switchPortId);
  if (cables <= 1) return undefined;
  const port = fleet.need('switchPort', switchPortId);
  return refuse({
    code: 'port-taken',
    field,
    sentence: `Port ${port.name} of ${fleet.need('physicalSwitch', port.physicalSwitchId).name} has a cable already.`,
    remedy: 'Choose another port, or record first where the other cable went.',
  });
}

/** Why frames of several ports of one device on one cable could not be told apart; null: they can. */
function notToldApart(fleet: Fleet, ports: readonly Row<'devicePort'>[]): string | null {
  const carried = ports.map(({ tagged, networkId }) => (tagged && networkId) || 'without a tag');
  if (new Set(carried).size === ports.length) return null;
  const names = ports.map(({ name }) => name).join(' and ');
  return `${names} of ${fleet.need('device', ports[0]!.deviceId).name} share a cable, and no tag tells them apart.`;
}

function lineFault(fleet: Fleet, row: Row<'switchLine'>): Refusal | undefined {
  if (row.aPortId === row.bPortId)
    return refuse({
      code: 'line-to-itself',
      field: 'bPortId',
      sentence: 'A line joins two different ports.',
    });
  return cableTwice(fleet, row.aPortId, 'aPortId') ?? cableTwice(fleet, row.bPortId, 'bPortId');
}

function subnetOverlaps(fleet: Fleet, row: Row<'subnet'>): Refusal | undefined {
  const mine = prefixOf(row.prefix);
  const other = fleet
    .referring('subnet', 'domainId', row.domainId)
    .find((found) => found.id !== row.id && overlap(mine, prefixOf(found.prefix)));
  if (!other) return undefined;
  const name = fleet.need('network', other.networkId).name;
  return refuse({
    code: 'subnet-overlaps',
    field: 'prefix',
    sentence: `${row.prefix} overlaps ${other.prefix} of ${name} in the same routing domain.`,
    remedy: 'Choose a block that is free, or a routing domain of its own.',
  });
}

function rangeOutside(fleet: Fleet, row: Row<'range'>): Refusal | undefined {
  const subnet = fleet.need('subnet', row.subnetId);
  const block = prefixOf(subnet.prefix);
  const first = addressOf(row.firstIp);
  const last = addressOf(row.lastIp);
  const outside = !contains(block, first)
    ? row.firstIp
    : !contains(block, last)
      ? row.lastIp
      : undefined;
  if (outside) {
    return refuse({
      code: 'range-outside',
      field: outside === row.firstIp ? 'firstIp' : 'lastIp',
      sentence: `${outside} is not in ${subnet.prefix}.`,
    });
  }
  if (first.value > last.value)
    return refuse({
      code: 'range-backwards',
      field: 'lastIp',
      sentence: `${row.lastIp} comes before ${row.firstIp}.`,
    });
  const other = fleet
    .referring('range', 'subnetId', subnet.id)
    .find(
      (found) =>
        found.id !== row.id &&
        addressOf(found.firstIp).value <= last.value &&
        first.value <= addressOf(found.lastIp).value,
    );
  if (!other) return undefined;
  return refuse({
    code: 'range-overlaps',
    field: 'firstIp',
    sentence: `It overlaps the ${other.use} range ${other.firstIp} – ${other.lastIp}.`,
  });
}
