/** What rows of the network may not be, beside one another. */
import { addressOf, prefixOf, overlap, contains } from '../address/index.js';
import { parseVlans } from '../quantity/index.js';
import type { Fleet } from './fleet.js';
import type { Row } from './kinds/index.js';
import type { Values } from './patch.js';
import { type Refusal, refuse } from './refusal.js';
import type { NamedKind } from './row-reader.js';

export function vlansUnreadable(row: Row<'switchPort'>): Refusal | undefined {
  const read = parseVlans(row.taggedVlans);
  return read.ok
    ? undefined
    : refuse({ code: 'bad-vlans', field: 'taggedVlans', sentence: read.sentence });
}

/** A port of a switch takes one cable; ports of one device that are told apart by their tags share theirs. */
export function cableTwice(
  fleet: Fleet,
  switchPortId: string | null,
  field: string,
): Refusal | undefined {
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

export function lineFault(fleet: Fleet, row: Row<'switchLine'>): Refusal | undefined {
  if (row.aPortId === row.bPortId)
    return refuse({
      code: 'line-to-itself',
      field: 'bPortId',
      sentence: 'A line joins two different ports.',
    });
  return cableTwice(fleet, row.aPortId, 'aPortId') ?? cableTwice(fleet, row.bPortId, 'bPortId');
}

export function subnetOverlaps(fleet: Fleet, row: Row<'subnet'>): Refusal | undefined {
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

export function rangeOutside(fleet: Fleet, row: Row<'range'>): Refusal | undefined {
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

/** A port of one address leads to one place. */
export function forwardedTwice(fleet: Fleet, row: Row<'forwardedPort'>): Refusal | undefined {
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
export function noUplink(fleet: Fleet, row: Row<'virtualSwitch'>): Refusal | undefined {
  const uplink = fleet.get('virtualSwitch', row.natUplinkId);
  if (!uplink || (uplink.hostId === row.hostId && uplink.id !== row.id)) return undefined;
  return refuse({
    code: 'no-uplink',
    field: 'natUplinkId',
    sentence: 'What it translates leaves by another switch of the same host.',
  });
}

/** A sub-interface travels over an adapter of its own guest, and has no MAC of its own. */
export function noTrunk(fleet: Fleet, row: Row<'adapter'>): Refusal | undefined {
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

export function macTwice(fleet: Fleet, row: Row<'adapter'>): Refusal | undefined {
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

export function addressTwice(fleet: Fleet, row: Row<'address'>): Refusal | undefined {
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

/** Exactly one of the fields refers to a record. */
export function notOne(
  row: object,
  fields: readonly string[],
  sentence: string,
): Refusal | undefined {
  const given = fields.filter((field) => (row as Values)[field] !== null);
  if (given.length === 1) return undefined;
  return refuse({ code: 'not-one', field: given[1] ?? fields[0]!, sentence });
}
