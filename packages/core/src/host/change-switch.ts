/** Virtual switches of a host: which network, in which mode, by which ports; the same for all hosts of a site. */
import { formatPrefix, parsePrefix, usable, formatAddress } from '../address/index.js';
import {
  draftOf,
  editFields,
  isRefusal,
  noSuch,
  refuse,
  type ChangeBase,
  type Decider,
  type Draft,
  type Fleet,
  type Refusal,
  type Row,
  type Values,
} from '../record/index.js';

export type SwitchMode = Row<'virtualSwitch'>['mode'];

/** Says that a host carries a network, and how. */
export interface CarryNetwork extends ChangeBase {
  type: 'host.carry';
  hostId: string;
  networkId: string;
  mode: SwitchMode;
}

export const carryNetwork: Decider<CarryNetwork> = (fleet, change, edge) => {
  const host = fleet.get('host', change.hostId);
  const network = fleet.get('network', change.networkId);
  if (!host) return noSuch('host');
  if (!network) return noSuch('network');
  if (
    fleet
      .referring('virtualSwitch', 'hostId', host.id)
      .some((found) => found.networkId === network.id)
  ) {
    return refuse({
      code: 'carried-already',
      field: 'networkId',
      sentence: `${host.name} carries ${network.name} already.`,
      remedy: 'Edit its mode or its ports instead.',
    });
  }
  const draft = draftOf(fleet, edge);
  draft.create('virtualSwitch', {
    hostId: host.id,
    networkId: network.id,
    mode: change.mode,
    name: network.name,
  });
  draft.update('host', host.id, { networkChangedAt: edge.now });
  return {
    draft,
    title: `${host.name} carries ${network.name}, ${change.mode}`,
    subjects: [
      { kind: 'host', id: host.id, name: host.name },
      { kind: 'network', id: network.id, name: network.name },
    ],
  };
};

/** Gives a host a network of its own that no other host carries, with a block in a routing domain of its own. */
export interface AddInsideNetwork extends ChangeBase {
  type: 'host.add-inside';
  hostId: string;
  name: string;
  mode: Exclude<SwitchMode, 'bridged'>;
  /** Block of its guests; the host takes the first usable address where the mode gives it one. */
  prefix: string;
}

export const addInsideNetwork: Decider<AddInsideNetwork> = (fleet, change, edge) => {
  const host = fleet.get('host', change.hostId);
  if (!host) return noSuch('host');
  const block = parsePrefix(change.prefix);
  if (!block.ok)
    return refuse({
      code: 'bad-prefix',
      field: 'prefix',
      sentence: block.sentence,
      remedy: block.suggestion && `Write ${block.suggestion}.`,
    });
  const name = change.name.trim();
  for (const other of fleet.all('network'))
    if (other.name.toLowerCase() === name.toLowerCase())
      return refuse({
        code: 'name-taken',
        field: 'name',
        sentence: `There is a network named ${name} already.`,
      });
  const draft = draftOf(fleet, edge);
  const domainId = draft.create('routingDomain', { name: `inside ${host.name}: ${name}` });
  const networkId = draft.create('network', {
    name,
    siteId: host.siteId,
    purpose: `${change.mode}, on ${host.name} only`,
  });
  const first = formatAddress({ family: block.value.family, value: usable(block.value).first });
  const isGateway = change.mode === 'NAT' || change.mode === 'routed';
  const subnetId = draft.create('subnet', {
    networkId,
    domainId,
    prefix: formatPrefix(block.value),
    gateway: isGateway ? first : null,
  });
  const virtualSwitchId = draft.create('virtualSwitch', {
    hostId: host.id,
    networkId,
    mode: change.mode,
    name,
  });
  const isolated = change.mode === 'NAT' && !fleet.need('platform', host.platformId).natShared;
  if (change.mode !== 'guests only' && !isolated) {
    draft.create('address', {
      domainId,
      subnetId,
      ip: first,
      assigned: true,
      use: 'static',
      purpose: change.mode,
      hostId: host.id,
      virtualSwitchId,
    });
  }
  return {
    draft,
    title: `${host.name} has ${name} for its guests, ${change.mode}, ${formatPrefix(block.value)}`,
    subjects: [
      { kind: 'host', id: host.id, name: host.name },
      { kind: 'network', id: networkId, name },
    ],
  };
};

/** Edits a virtual switch. */
export interface EditSwitch extends ChangeBase {
  type: 'switch.edit';
  id: string;
  fields: Values;
}

export const editSwitch: Decider<EditSwitch> = (fleet, change, edge) => {
  const draft = draftOf(fleet, edge);
  const found = editFields(fleet, draft, 'virtualSwitch', change.id, change.fields, [
    'name',
    'mode',
    'untagged',
    'bundle',
  ]);
  if (isRefusal(found)) return found;
  const host = fleet.need('host', found.hostId);
  draft.update('host', host.id, { networkChangedAt: edge.now });
  return {
    draft,
    title: `edited ${found.name} of ${host.name}: ${Object.keys(change.fields).join(', ')}`,
    subjects: [{ kind: 'host', id: host.id, name: host.name }],
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
  for (const uplink of fleet.referring('uplink', 'switchId', found.id))
    draft.remove('uplink', uplink.id);
  draft.remove('virtualSwitch', found.id);
  const host = fleet.need('host', found.hostId);
  draft.update('host', host.id, { networkChangedAt: edge.now });
  return {
    draft,
    title: `${host.name} no longer carries ${found.name}`,
    subjects: [{ kind: 'host', id: host.id, name: host.name }],
  };
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
  if (stranger)
    return refuse({
      code: 'port-of-another-host',
      field: 'portIds',
      sentence: 'This port is not one of the same host.',
    });
  const draft = draftOf(fleet, edge);
  draftUplinks(fleet, draft, found.id, change.portIds);
  const host = fleet.need('host', found.hostId);
  draft.update('host', host.id, { networkChangedAt: edge.now });
  const names = change.portIds.map((id) => fleet.need('port', id).name).join(' + ') || 'no port';
  return {
    draft,
    title: `${found.name} of ${host.name} goes out by ${names}`,
    subjects: [{ kind: 'host', id: host.id, name: host.name }],
  };
};

function draftUplinks(
  fleet: Fleet,
  draft: Draft,
  switchId: string,
  portIds: readonly string[],
): void {
  const held = fleet.referring('uplink', 'switchId', switchId);
  for (const uplink of held)
    if (!portIds.includes(uplink.portId)) draft.remove('uplink', uplink.id);
  for (const portId of new Set(portIds))
    if (!held.some((uplink) => uplink.portId === portId))
      draft.create('uplink', { switchId, portId });
}

/** Gives hosts the switches that another one has: bridged networks that they lack, by ports of the same names. */
export interface SwitchesAlike extends ChangeBase {
  type: 'host.switches-alike';
  /** The host to take as the model. */
  likeId: string;
  hostIds: string[];
}

export const switchesAlike: Decider<SwitchesAlike> = (fleet, change, edge) => {
  const model = fleet.get('host', change.likeId);
  if (!model) return noSuch('host');
  const draft = draftOf(fleet, edge);
  const given: string[] = [];
  const subjects = [];
  for (const id of new Set(change.hostIds)) {
    const host = fleet.get('host', id);
    if (!host) return noSuch('host');
    const added = giveLike(fleet, draft, model, host);
    if (isRefusal(added)) return added;
    if (added === 0) continue;
    draft.update('host', host.id, { networkChangedAt: edge.now });
    given.push(`${host.name} ${added}`);
    subjects.push({ kind: 'host' as const, id: host.id, name: host.name });
  }
  return {
    draft,
    title:
      `gave hosts the switches of ${model.name}: ${given.join(', ') || 'none was missing'}`.slice(
        0,
        200,
      ),
    subjects,
  };
};

/** Drafts what a host lacks of a model's bridged switches; gives how many. Networks inside one host stay there. */
function giveLike(
  fleet: Fleet,
  draft: Draft,
  model: Row<'host'>,
  host: Row<'host'>,
): number | Refusal {
  if (host.id === model.id) return 0;
  const mine = fleet.referring('virtualSwitch', 'hostId', host.id);
  const ports = new Map(
    fleet.referring('port', 'hostId', host.id).map((port) => [port.name, port.id]),
  );
  let added = 0;
  for (const like of fleet.referring('virtualSwitch', 'hostId', model.id)) {
    if (like.mode !== 'bridged' || mine.some((found) => found.networkId === like.networkId))
      continue;
    const switchId = draft.create('virtualSwitch', {
      hostId: host.id,
      networkId: like.networkId,
      mode: like.mode,
      name: like.name,
      untagged: like.untagged,
      bundle: like.bundle,
    });
    for (const uplink of fleet.referring('uplink', 'switchId', like.id)) {
      const portId = ports.get(fleet.need('port', uplink.portId).name);
      if (portId) draft.create('uplink', { switchId, portId });
    }
    added += 1;
  }
  return added;
}
