/** Physical switches, lines, devices, and where the cables of hosts go. */
import { addressesOf } from '@insel/core';
import { notFound } from '../problem-exception.js';
import { byName, windowOf } from '../views/common.js';
import type { Sorts } from '../views/orders.js';
import {
  deviceRow,
  deviceView,
  lineView,
  machineList,
  patchTable,
  physicalSwitchView,
  plugView,
} from '../views/wiring.js';
import { found, type Reads } from './read.js';

const DEVICE_SORTS: Sorts<'device'> = {
  name: (_, device) => device.name.toLowerCase(),
  kind: (_, device) => device.kind,
};

export const WIRING_READS: Reads<
  | 'machines'
  | 'machine'
  | 'patchTable'
  | 'physicalSwitches'
  | 'plugs'
  | 'lines'
  | 'devices'
  | 'device'
> = {
  /** Hosts, guests and devices together, by part of a name or address: for a choice of any machine. */
  machines: (fleet, { q = '', from = 0, take = 12 }) => machineList(fleet, q, from, take),

  machine(fleet, { id }) {
    const held = fleet.get('host', id) ?? fleet.get('guest', id) ?? fleet.get('device', id);
    if (!held) throw notFound('machine');
    return { machine: { name: held.name } };
  },

  /** The first one after a change draws the wiring of the whole fleet. */
  patchTable: {
    inWorker: (fleet, { siteId, from = 0, take = 100 }) =>
      patchTable(fleet, { siteId, from, take }),
  },

  physicalSwitches: (fleet, _, { now }) =>
    [...fleet.all('physicalSwitch')]
      .sort(byName)
      .map(({ id }) => physicalSwitchView(fleet, id, now)),

  plugs: (fleet) => plugView(fleet),

  lines: (fleet) => [...fleet.all('switchLine')].sort(byName).map((line) => lineView(fleet, line)),

  devices(fleet, query, { now, orders }) {
    const wanted = query.q?.toLowerCase();
    const sorted = orders.sorted(
      fleet,
      'device',
      DEVICE_SORTS,
      'name',
      query,
      (device) =>
        (!query.kind || device.kind === query.kind) &&
        (!wanted ||
          device.name.toLowerCase().includes(wanted) ||
          addressesOf(fleet, 'device', device.id).some((row) => row.ip.includes(wanted))),
    );
    return windowOf(fleet, sorted, query, (id) => deviceRow(fleet, fleet.need('device', id), now));
  },

  device: (fleet, { id }, { now }) => ({
    device: deviceView(fleet, found(fleet, 'device', id).id, now),
  }),
};
