import type {
  ComputerView,
  DeviceListRow,
  DeviceView,
  LineView,
  ListWindow,
  MachineListRow,
  Named,
  PatchCell,
  PatchTableView,
  PhysicalSwitchView,
  PlugView,
  SwitchPortView,
} from '@insel/contract';
import {
  addressesOf,
  asGuest,
  computerOf,
  findingsOn,
  machineName,
  nodeKeys,
  wiringOf,
  type Fleet,
  type Row,
} from '@insel/core';
import { addressView, byName, markOf, named, namedById } from './common.js';

const namedOrNull = (row: { id: string; name: string } | undefined): Named | null =>
  row ? named(row) : null;

function switchPortView(fleet: Fleet, port: Row<'switchPort'>): SwitchPortView {
  return { ...port, cable: cableOf(fleet, port) };
}

function cableOf(fleet: Fleet, port: Row<'switchPort'>): SwitchPortView['cable'] {
  const [hostPort] = fleet.referring('port', 'switchPortId', port.id);
  if (hostPort)
    return { kind: 'host', ...named(fleet.need('host', hostPort.hostId)), port: hostPort.name };
  const [devicePort] = fleet.referring('devicePort', 'switchPortId', port.id);
  if (devicePort)
    return {
      kind: 'device',
      ...named(fleet.need('device', devicePort.deviceId)),
      port: devicePort.name,
    };
  const [line] = [
    ...fleet.referring('switchLine', 'aPortId', port.id),
    ...fleet.referring('switchLine', 'bPortId', port.id),
  ];
  if (!line) return null;
  const other = fleet.need('switchPort', line.aPortId === port.id ? line.bPortId : line.aPortId);
  return {
    kind: 'physicalSwitch',
    ...named(fleet.need('physicalSwitch', other.physicalSwitchId)),
    port: other.name,
  };
}

export function physicalSwitchView(fleet: Fleet, id: string, now: string): PhysicalSwitchView {
  const found = fleet.need('physicalSwitch', id);
  return {
    ...found,
    site: namedOrNull(fleet.get('site', found.siteId)),
    rack: namedOrNull(fleet.get('rack', found.rackId)),
    ports: fleet
      .referring('switchPort', 'physicalSwitchId', id)
      .sort(byName)
      .map((port) => switchPortView(fleet, port)),
    findings: findingsOn(fleet, 'physicalSwitch', id, now),
  };
}

export function lineView(fleet: Fleet, line: Row<'switchLine'>): LineView {
  const end = (id: string) => {
    const port = fleet.need('switchPort', id);
    return { ...named(fleet.need('physicalSwitch', port.physicalSwitchId)), port: port.name };
  };
  return { ...line, a: end(line.aPortId), b: end(line.bPortId) };
}

export function deviceView(fleet: Fleet, id: string, now: string): DeviceView {
  const device = fleet.need('device', id);
  return {
    ...device,
    site: namedOrNull(fleet.get('site', device.siteId)),
    fullName: machineName(fleet, 'device', id)?.full ?? device.name,
    ports: fleet
      .referring('devicePort', 'deviceId', id)
      .sort(byName)
      .map((port) => ({
        ...port,
        network: namedOrNull(fleet.get('network', port.networkId)),
        addresses: fleet
          .referring('address', 'devicePortId', port.id)
          .map((row) => addressView(fleet, row)),
      })),
    routes: fleet.referring('route', 'deviceId', id),
    forwardedPorts: fleet.referring('forwardedPort', 'deviceId', id),
    computer: device.kind === 'computer' ? computerView(fleet, id) : null,
    findings: findingsOn(fleet, 'device', id, now),
  };
}

function computerView(fleet: Fleet, deviceId: string): ComputerView {
  const sheet = computerOf(fleet, deviceId);
  const move = (into: 'guest' | 'computer') => (row: Row<'migration'>) => ({
    row,
    view: { id: row.id, guest: namedById(fleet, 'guest', row.guestId), state: row.state, into },
  });
  return {
    sheet,
    disks: fleet
      .referring('computerDisk', 'deviceId', deviceId)
      .sort((a, b) => a.bay.localeCompare(b.bay)),
    asGuest: asGuest(sheet),
    moves: [
      ...fleet.referring('migration', 'sourceDeviceId', deviceId).map(move('guest')),
      ...fleet.referring('migration', 'targetDeviceId', deviceId).map(move('computer')),
    ]
      .sort((a, b) => b.row.plannedAt.localeCompare(a.row.plannedAt))
      .map(({ view }) => view),
  };
}

export function deviceRow(fleet: Fleet, device: Row<'device'>, now: string): DeviceListRow {
  return {
    ...named(device),
    revision: device.revision,
    kind: device.kind,
    state: device.state,
    addresses: addressesOf(fleet, 'device', device.id).map((row) => row.ip),
    finding: markOf(fleet, 'device', device.id, now),
  };
}

/** Machines whose name or address holds a text: those whose name begins with it first. */
export function machineList(
  fleet: Fleet,
  q: string,
  from: number,
  take: number,
): ListWindow<MachineListRow> {
  const wanted = q.trim().toLowerCase();
  const found: { row: MachineListRow; at: number }[] = [];
  for (const kind of ['host', 'guest', 'device'] as const) {
    for (const machine of fleet.all(kind)) {
      if (machine.state === 'retired') continue;
      const at = machine.name.toLowerCase().indexOf(wanted);
      if (at >= 0) found.push({ row: { ...named(machine), kind, address: '' }, at });
      else if (/[.:]/.test(wanted)) {
        const address = addressesOf(fleet, kind, machine.id).find((row) => row.ip.includes(wanted));
        if (address)
          found.push({ row: { ...named(machine), kind, address: address.ip }, at: 1000 });
      }
    }
  }
  found.sort((a, b) => a.at - b.at || byName(a.row, b.row));
  const rows = found.slice(from, from + take).map(({ row }) => ({
    ...row,
    address: row.address || (addressesOf(fleet, row.kind, row.id)[0]?.ip ?? ''),
  }));
  return { rows, total: found.length, from, revision: fleet.revision };
}

export function plugView(fleet: Fleet): PlugView {
  return {
    switches: [...fleet.all('physicalSwitch')].sort(byName).map((found) => ({
      ...named(found),
      ports: fleet
        .referring('switchPort', 'physicalSwitchId', found.id)
        .sort(byName)
        .map((port) => ({ ...named(port), taken: cableOf(fleet, port) !== null })),
    })),
  };
}

/** Hosts down, networks across: what each carries, how, by which ports, and where it stands alone or goes wrong. */
export function patchTable(
  fleet: Fleet,
  window: { siteId?: string; from: number; take: number },
): PatchTableView {
  const hosts = [...fleet.all('host')].filter(
    (host) => host.state !== 'retired' && (!window.siteId || host.siteId === window.siteId),
  );
  const site = (id: string | null) => fleet.get('site', id)?.name ?? '';
  hosts.sort((a, b) => site(a.siteId).localeCompare(site(b.siteId)) || byName(a, b));
  const shown = hosts.slice(window.from, window.from + window.take);
  const carried = new Set(
    shown.flatMap((host) =>
      fleet.referring('virtualSwitch', 'hostId', host.id).flatMap((found) => found.networkId ?? []),
    ),
  );
  const networks = [...fleet.all('network')].filter(
    (network) => carried.has(network.id) || !window.siteId || network.siteId === window.siteId,
  );
  networks.sort((a, b) => site(a.siteId).localeCompare(site(b.siteId)) || byName(a, b));
  return {
    networks: networks.map((network) => ({
      ...named(network),
      vlanId: network.vlanId,
      site: site(network.siteId),
    })),
    rows: shown.map((host) => ({
      ...named(host),
      site: site(host.siteId),
      path: `/hosts/${host.id}`,
      cells: networks.map((network) => cellOf(fleet, host, network)),
    })),
    total: hosts.length,
  };
}

function cellOf(fleet: Fleet, host: Row<'host'>, network: Row<'network'>): PatchCell {
  const found = fleet
    .referring('virtualSwitch', 'hostId', host.id)
    .find((one) => one.networkId === network.id);
  if (!found) return { mode: '', ports: '', fault: '', single: false };
  const ports = fleet
    .referring('uplink', 'switchId', found.id)
    .map((uplink) => fleet.need('port', uplink.portId))
    .sort(byName);
  return {
    mode: found.mode,
    ports: ports.map((port) => port.name).join(' + '),
    fault: faultOf(fleet, found),
    single: found.mode === 'bridged' && (ports.length === 1 || oneSwitch(fleet, ports)),
  };
}

/** The first way out of a virtual switch that does not pass frames, in words. */
function faultOf(fleet: Fleet, found: Row<'virtualSwitch'>): string {
  const wiring = wiringOf(fleet);
  const node = wiring.find(nodeKeys.virtualSwitch(found.id));
  if (node === undefined) return '';
  return wiring.edgesAt(node).find((edge) => edge.blocked)?.blocked?.sentence ?? '';
}

function oneSwitch(fleet: Fleet, ports: Row<'port'>[]): boolean {
  const behind = ports.map((port) => fleet.get('switchPort', port.switchPortId)?.physicalSwitchId);
  return behind.length > 1 && behind.every((id) => id !== undefined && id === behind[0]);
}
