import { draftOf, editFields, isRefusal, noSuch, refuse, type ChangeBase, type Decider, type NewFields, type Values } from '../record/index.js';

/** Records a pool that one or several hosts reach. */
export interface RecordPool extends ChangeBase {
  type: 'pool.record';
  fields: NewFields<'pool'>;
  hostIds: string[];
}

export const recordPool: Decider<RecordPool> = (fleet, change, edge) => {
  const draft = draftOf(fleet, edge);
  const poolId = draft.create('pool', change.fields);
  for (const hostId of new Set(change.hostIds)) draft.create('poolReach', { poolId, hostId });
  return { draft, title: `recorded pool ${String(change.fields.name)}`, subjects: [{ kind: 'pool', id: poolId, name: String(change.fields.name) }] };
};

const POOL_FIELDS = ['name', 'usableBytes', 'promiseLimitPercent', 'arrayId', 'diskId', 'remote', 'copies', 'fillAlarmPercent', 'usedBytes', 'notes', 'labels', 'owner'];

/** Edits a pool; `hostIds`, if given, says anew which hosts reach it. */
export interface EditPool extends ChangeBase {
  type: 'pool.edit';
  id: string;
  fields: Values;
  hostIds?: string[];
}

export const editPool: Decider<EditPool> = (fleet, change, edge) => {
  const draft = draftOf(fleet, edge);
  const pool = editFields(fleet, draft, 'pool', change.id, change.fields, POOL_FIELDS);
  if (isRefusal(pool)) return pool;
  if (change.hostIds) {
    const now = fleet.referring('poolReach', 'poolId', pool.id);
    for (const reach of now) if (!change.hostIds.includes(reach.hostId)) draft.remove('poolReach', reach.id);
    for (const hostId of change.hostIds) if (!now.some((reach) => reach.hostId === hostId)) draft.create('poolReach', { poolId: pool.id, hostId });
  }
  return { draft, title: `edited pool ${pool.name}`, subjects: [{ kind: 'pool', id: pool.id, name: pool.name }] };
};

/** Says that a host carries a network, and how. */
export interface CarryNetwork extends ChangeBase {
  type: 'host.carry';
  hostId: string;
  networkId: string;
  mode: 'bridged' | 'NAT' | 'host and guests' | 'guests only' | 'routed';
}

export const carryNetwork: Decider<CarryNetwork> = (fleet, change, edge) => {
  const host = fleet.get('host', change.hostId);
  const network = fleet.get('network', change.networkId);
  if (!host) return noSuch('host');
  if (!network) return noSuch('network');
  const draft = draftOf(fleet, edge);
  draft.create('virtualSwitch', { hostId: host.id, networkId: network.id, mode: change.mode, name: network.name });
  return {
    draft,
    title: `${host.name} carries ${network.name}, ${change.mode}`,
    subjects: [
      { kind: 'host', id: host.id, name: host.name },
      { kind: 'network', id: network.id, name: network.name },
    ],
  };
};

/** Says that a host no longer has a virtual switch. */
export interface DropSwitch extends ChangeBase {
  type: 'host.drop-switch';
  id: string;
}

export const dropSwitch: Decider<DropSwitch> = (fleet, change, edge) => {
  const found = fleet.get('virtualSwitch', change.id);
  if (!found) return noSuch('virtualSwitch');
  const draft = draftOf(fleet, edge);
  draft.remove('virtualSwitch', found.id);
  const host = fleet.need('host', found.hostId);
  return { draft, title: `${host.name} no longer carries ${found.name}`, subjects: [{ kind: 'host', id: host.id, name: host.name }] };
};

/** Says by which ports of its host a virtual switch goes out. */
export interface SetUplinks extends ChangeBase {
  type: 'switch.set-uplinks';
  switchId: string;
  portIds: string[];
}

export const setUplinks: Decider<SetUplinks> = (fleet, change, edge) => {
  const found = fleet.get('virtualSwitch', change.switchId);
  if (!found) return noSuch('virtualSwitch');
  const stranger = change.portIds.find((id) => fleet.get('port', id)?.hostId !== found.hostId);
  if (stranger) return refuse({ code: 'port-of-another-host', field: 'portIds', sentence: 'This port is not one of the same host.' });
  const draft = draftOf(fleet, edge);
  const held = fleet.referring('uplink', 'switchId', found.id);
  for (const uplink of held) if (!change.portIds.includes(uplink.portId)) draft.remove('uplink', uplink.id);
  for (const portId of new Set(change.portIds)) if (!held.some((uplink) => uplink.portId === portId)) draft.create('uplink', { switchId: found.id, portId });
  const host = fleet.need('host', found.hostId);
  draft.update('host', host.id, { networkChangedAt: edge.now });
  const names = change.portIds.map((id) => fleet.need('port', id).name).join(' + ') || 'no port';
  return { draft, title: `${found.name} of ${host.name} goes out by ${names}`, subjects: [{ kind: 'host', id: host.id, name: host.name }] };
};
