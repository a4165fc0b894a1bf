import { addressOf, contains, formatPrefix, parsePrefix } from '../address/index.js';
import { draftOf, editFields, isRefusal, noSuch, refuse, tidy, type ChangeBase, type Decider, type Draft, type Fleet, type NewFields, type Refusal, type Values } from '../record/index.js';
import { domainFor } from './give-address.js';

export interface SubnetInput {
  prefix: string;
  gateway?: string | null;
  nameServers?: string[];
  domainId?: string;
  ranges?: { use: 'dynamic' | 'reserved'; firstIp: string; lastIp: string; purpose?: string }[];
}

/** Records a network, with a subnet and its ranges if it has one. */
export interface RecordNetwork extends ChangeBase {
  type: 'network.record';
  fields: NewFields<'network'>;
  subnet?: SubnetInput;
}

export const recordNetwork: Decider<RecordNetwork> = (fleet, change, edge) => {
  const name = String(change.fields.name ?? '').trim();
  for (const other of fleet.all('network')) {
    if (other.name.toLowerCase() === name.toLowerCase()) {
      return refuse({ code: 'name-taken', field: 'name', sentence: `There is a network named ${other.name} already.`, remedy: 'Choose another name.' });
    }
  }
  const draft = draftOf(fleet, edge);
  const networkId = draft.create('network', { ...tidy('network', change.fields), name });
  const fault = change.subnet && addSubnet(fleet, draft, networkId, change.subnet, 'subnet.');
  if (fault) return fault;
  return { draft, title: `recorded network ${name}`, subjects: [{ kind: 'network', id: networkId, name }] };
};

/** Records one more subnet of a network. */
export interface RecordSubnet extends ChangeBase {
  type: 'subnet.record';
  networkId: string;
  subnet: SubnetInput;
}

export const recordSubnet: Decider<RecordSubnet> = (fleet, change, edge) => {
  const network = fleet.get('network', change.networkId);
  if (!network) return noSuch('network');
  const draft = draftOf(fleet, edge);
  const fault = addSubnet(fleet, draft, network.id, change.subnet, '');
  if (fault) return fault;
  return { draft, title: `recorded subnet ${change.subnet.prefix} of ${network.name}`, subjects: [{ kind: 'network', id: network.id, name: network.name }] };
};

function addSubnet(fleet: Fleet, draft: Draft, networkId: string, input: SubnetInput, path: string): Refusal | undefined {
  const prefix = parsePrefix(input.prefix);
  if (!prefix.ok) {
    return refuse({ code: 'bad-prefix', field: `${path}prefix`, sentence: prefix.sentence, remedy: prefix.suggestion && `Write ${prefix.suggestion}.` });
  }
  const domainId = input.domainId ?? domainFor(fleet, null);
  if (isRefusal(domainId)) return domainId;
  const { ranges = [], ...rest } = input;
  const subnetId = draft.create('subnet', {
    ...tidy('subnet', { gateway: rest.gateway ?? null, nameServers: rest.nameServers ?? [] }),
    prefix: formatPrefix(prefix.value),
    networkId,
    domainId,
  });
  for (const range of ranges) draft.create('range', { ...tidy('range', range as unknown as Values), subnetId });
  // Addresses that were found before their subnet was recorded now belong to it.
  for (const address of fleet.referring('address', 'domainId', domainId)) {
    if (address.subnetId === null && contains(prefix.value, addressOf(address.ip))) draft.update('address', address.id, { subnetId });
  }
  return undefined;
}

/** Edits a network's own fields. */
export interface EditNetwork extends ChangeBase {
  type: 'network.edit';
  id: string;
  fields: Values;
}

export const editNetwork: Decider<EditNetwork> = (fleet, change, edge) => {
  const draft = draftOf(fleet, edge);
  const network = editFields(fleet, draft, 'network', change.id, change.fields, ['name', 'purpose', 'vlanId', 'mtu', 'siteId', 'notes', 'labels', 'owner']);
  if (isRefusal(network)) return network;
  return {
    draft,
    title: `edited network ${network.name}: ${Object.keys(change.fields).join(', ')}`,
    subjects: [{ kind: 'network', id: network.id, name: network.name }],
  };
};

/** Edits gateway, name servers or the block of a subnet; held addresses follow the block. */
export interface EditSubnet extends ChangeBase {
  type: 'subnet.edit';
  id: string;
  fields: Values;
}

export const editSubnet: Decider<EditSubnet> = (fleet, change, edge) => {
  const draft = draftOf(fleet, edge);
  const subnet = editFields(fleet, draft, 'subnet', change.id, change.fields, ['prefix', 'gateway', 'nameServers']);
  if (isRefusal(subnet)) return subnet;
  if (change.fields.prefix !== undefined) {
    const read = parsePrefix(String(change.fields.prefix));
    if (!read.ok) return refuse({ code: 'bad-prefix', field: 'prefix', sentence: read.sentence, remedy: read.suggestion && `Write ${read.suggestion}.` });
    const lost = fleet.referring('range', 'subnetId', subnet.id).find((range) => !contains(read.value, addressOf(range.firstIp)) || !contains(read.value, addressOf(range.lastIp)));
    if (lost) {
      return refuse({
        code: 'range-outside',
        field: 'prefix',
        sentence: `The ${lost.use} range ${lost.firstIp} – ${lost.lastIp} would lie outside ${formatPrefix(read.value)}.`,
        remedy: 'Remove or alter the range first.',
      });
    }
    for (const address of fleet.referring('address', 'domainId', subnet.domainId)) {
      const inside = contains(read.value, addressOf(address.ip));
      if (inside && address.subnetId === null) draft.update('address', address.id, { subnetId: subnet.id });
      if (!inside && address.subnetId === subnet.id) draft.update('address', address.id, { subnetId: null });
    }
  }
  const network = fleet.need('network', subnet.networkId);
  return { draft, title: `edited subnet ${subnet.prefix} of ${network.name}`, subjects: [{ kind: 'network', id: network.id, name: network.name }] };
};

/** Sets apart a range of a subnet. */
export interface RecordRange extends ChangeBase {
  type: 'range.record';
  subnetId: string;
  fields: { use: 'dynamic' | 'reserved'; firstIp: string; lastIp: string; purpose?: string };
}

export const recordRange: Decider<RecordRange> = (fleet, change, edge) => {
  const subnet = fleet.get('subnet', change.subnetId);
  if (!subnet) return noSuch('subnet');
  const draft = draftOf(fleet, edge);
  draft.create('range', { ...tidy('range', change.fields as unknown as Values), subnetId: subnet.id });
  const network = fleet.need('network', subnet.networkId);
  return {
    draft,
    title: `set apart ${change.fields.firstIp} – ${change.fields.lastIp} of ${network.name}, ${change.fields.use}`,
    subjects: [{ kind: 'network', id: network.id, name: network.name }],
  };
};

/** Gives a range back to the addresses handed out one by one. */
export interface RemoveRange extends ChangeBase {
  type: 'range.remove';
  id: string;
}

export const removeRange: Decider<RemoveRange> = (fleet, change, edge) => {
  const range = fleet.get('range', change.id);
  if (!range) return noSuch('range');
  const draft = draftOf(fleet, edge);
  draft.remove('range', range.id);
  const network = fleet.need('network', fleet.need('subnet', range.subnetId).networkId);
  return { draft, title: `removed range ${range.firstIp} – ${range.lastIp} of ${network.name}`, subjects: [{ kind: 'network', id: network.id, name: network.name }] };
};

