import { addressOf, contains, formatPrefix, parsePrefix } from '../address/index.js';
import {
  draftOf,
  editFields,
  isRefusal,
  noSuch,
  refuse,
  tidy,
  type ChangeBase,
  type Decider,
  type Draft,
  type Fleet,
  type NewFields,
  type Refusal,
  type Row,
  type Values,
} from '../record/index.js';
import { domainFor } from './give-address.js';

export interface SubnetInput {
  prefix: string;
  gateway?: string | null;
  nameServers?: string[];
  domainId?: string;
  domain?: string;
  policy?: Row<'subnet'>['policy'];
  quarantineDays?: number;
  ranges?: RangeInput[];
}

export interface RangeInput {
  use: Row<'range'>['use'];
  firstIp: string;
  lastIp: string;
  purpose?: string;
}

/** Records a network, with a subnet and its ranges if it has one. */
export interface RecordNetwork extends ChangeBase {
  type: 'network.record';
  fields: NewFields<'network'>;
  subnet?: SubnetInput;
  /** Sites it reaches beside its own. */
  alsoAt?: string[];
}

export const recordNetwork: Decider<RecordNetwork> = (fleet, change, edge) => {
  const draft = draftOf(fleet, edge);
  const made = addNetwork(fleet, draft, change, 'subnet.');
  if (isRefusal(made)) return made;
  return {
    draft,
    title: `recorded network ${made.name}`,
    subjects: [{ kind: 'network', ...made }],
  };
};

function addNetwork(
  fleet: Fleet,
  draft: Draft,
  { fields, subnet, alsoAt = [] }: Omit<RecordNetwork, 'type'>,
  path: string,
): { id: string; name: string } | Refusal {
  const name = String(fields.name ?? '').trim();
  const taken = nameTaken(fleet, name);
  if (taken) return taken;
  const id = draft.create('network', { ...tidy('network', fields as Values), name });
  for (const siteId of new Set(alsoAt))
    if (siteId !== fields.siteId) draft.create('networkSite', { networkId: id, siteId });
  const fault = subnet && addSubnet(fleet, draft, id, subnet, path);
  return fault ?? { id, name };
}

function nameTaken(fleet: Fleet, name: string, but = ''): Refusal | undefined {
  for (const other of fleet.all('network')) {
    if (other.id !== but && other.name.toLowerCase() === name.trim().toLowerCase()) {
      return refuse({
        code: 'name-taken',
        field: 'name',
        sentence: `There is a network named ${other.name} already.`,
        remedy: 'Choose another name.',
      });
    }
  }
  return undefined;
}

/** Records several networks with their subnets, all or none: what a prefix plan comes to. */
export interface RecordNetworks extends ChangeBase {
  type: 'network.record-many';
  networks: { fields: NewFields<'network'>; subnet: SubnetInput }[];
}

export const recordNetworks: Decider<RecordNetworks> = (fleet, change, edge) => {
  if (change.networks.length === 0)
    return refuse({
      code: 'none',
      field: 'networks',
      sentence: 'There is no network to record here.',
    });
  const draft = draftOf(fleet, edge);
  const subjects = [];
  const names = new Set<string>();
  for (const [i, network] of change.networks.entries()) {
    const made = addNetwork(fleet, draft, network, 'subnet.');
    if (isRefusal(made)) return { ...made, field: `networks.${i}.${made.field}` };
    if (names.has(made.name.toLowerCase()))
      return refuse({
        code: 'name-taken',
        field: `networks.${i}.name`,
        sentence: `${made.name} stands here twice.`,
      });
    names.add(made.name.toLowerCase());
    subjects.push({ kind: 'network' as const, ...made });
  }
  return {
    draft,
    title:
      `recorded ${subjects.length} networks: ${subjects.map(({ name }) => name).join(', ')}`.slice(
        0,
        200,
      ),
    subjects,
  };
};

/** Removes a network that nothing refers to any more, with its subnets, ranges and rests. */
export interface RemoveNetwork extends ChangeBase {
  type: 'network.remove';
  id: string;
}

export const removeNetwork: Decider<RemoveNetwork> = (fleet, change, edge) => {
  const network = fleet.get('network', change.id);
  if (!network) return noSuch('network');
  const draft = draftOf(fleet, edge);
  for (const subnet of fleet.referring('subnet', 'networkId', network.id))
    draftRemoval(fleet, draft, subnet);
  for (const site of fleet.referring('networkSite', 'networkId', network.id))
    draft.remove('networkSite', site.id);
  draft.remove('network', network.id);
  return {
    draft,
    title: `removed network ${network.name}`,
    subjects: [{ kind: 'network', id: network.id, name: network.name }],
  };
};

/** Removes a subnet; addresses found in it stay, in no subnet. */
export interface RemoveSubnet extends ChangeBase {
  type: 'subnet.remove';
  id: string;
}

export const removeSubnet: Decider<RemoveSubnet> = (fleet, change, edge) => {
  const subnet = fleet.get('subnet', change.id);
  if (!subnet) return noSuch('subnet');
  const draft = draftOf(fleet, edge);
  draftRemoval(fleet, draft, subnet);
  const network = fleet.need('network', subnet.networkId);
  return {
    draft,
    title: `removed subnet ${subnet.prefix} of ${network.name}`,
    subjects: [{ kind: 'network', id: network.id, name: network.name }],
  };
};

function draftRemoval(fleet: Fleet, draft: Draft, subnet: Row<'subnet'>): void {
  for (const range of fleet.referring('range', 'subnetId', subnet.id))
    draft.remove('range', range.id);
  for (const rest of fleet.referring('quarantine', 'subnetId', subnet.id))
    draft.remove('quarantine', rest.id);
  for (const address of fleet.referring('address', 'subnetId', subnet.id))
    draft.update('address', address.id, { subnetId: null });
  draft.remove('subnet', subnet.id);
}

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
  return {
    draft,
    title: `recorded subnet ${change.subnet.prefix} of ${network.name}`,
    subjects: [{ kind: 'network', id: network.id, name: network.name }],
  };
};

function addSubnet(
  fleet: Fleet,
  draft: Draft,
  networkId: string,
  input: SubnetInput,
  path: string,
): Refusal | undefined {
  const prefix = parsePrefix(input.prefix);
  if (!prefix.ok) {
    return refuse({
      code: 'bad-prefix',
      field: `${path}prefix`,
      sentence: prefix.sentence,
      remedy: prefix.suggestion && `Write ${prefix.suggestion}.`,
    });
  }
  const domainId = input.domainId ?? domainFor(fleet, null);
  if (isRefusal(domainId)) return domainId;
  const { ranges = [], ...rest } = input;
  const subnetId = draft.create('subnet', {
    ...tidy('subnet', {
      ...rest,
      gateway: rest.gateway ?? null,
      nameServers: rest.nameServers ?? [],
      domain: rest.domain ?? '',
    }),
    prefix: formatPrefix(prefix.value),
    networkId,
    domainId,
  });
  for (const range of ranges)
    draft.create('range', { ...tidy('range', range as unknown as Values), subnetId });
  // Addresses that were found before their subnet was recorded now belong to it.
  for (const address of fleet.referring('address', 'domainId', domainId)) {
    if (address.subnetId === null && contains(prefix.value, addressOf(address.ip)))
      draft.update('address', address.id, { subnetId });
  }
  return undefined;
}

/** Edits a network's own fields. */
export interface EditNetwork extends ChangeBase {
  type: 'network.edit';
  id: string;
  fields: Values;
  /** Says anew which sites it reaches beside its own. */
  alsoAt?: string[];
}

export const editNetwork: Decider<EditNetwork> = (fleet, change, edge) => {
  const draft = draftOf(fleet, edge);
  const network = editFields(fleet, draft, 'network', change.id, change.fields, [
    'name',
    'purpose',
    'vlanId',
    'mtu',
    'siteId',
    'untrusted',
    'notes',
    'labels',
    'owner',
  ]);
  if (isRefusal(network)) return network;
  const taken =
    typeof change.fields.name === 'string'
      ? nameTaken(fleet, change.fields.name, network.id)
      : undefined;
  if (taken) return taken;
  if (change.alsoAt) {
    const held = fleet.referring('networkSite', 'networkId', network.id);
    for (const row of held)
      if (!change.alsoAt.includes(row.siteId)) draft.remove('networkSite', row.id);
    for (const siteId of new Set(change.alsoAt))
      if (!held.some((row) => row.siteId === siteId))
        draft.create('networkSite', { networkId: network.id, siteId });
  }
  return {
    draft,
    title: `edited network ${network.name}: ${[...Object.keys(change.fields), ...(change.alsoAt ? ['sites'] : [])].join(', ')}`,
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
  const subnet = editFields(fleet, draft, 'subnet', change.id, change.fields, [
    'prefix',
    'gateway',
    'nameServers',
    'domain',
    'policy',
    'quarantineDays',
  ]);
  if (isRefusal(subnet)) return subnet;
  if (change.fields.prefix !== undefined) {
    const read = parsePrefix(String(change.fields.prefix));
    if (!read.ok)
      return refuse({
        code: 'bad-prefix',
        field: 'prefix',
        sentence: read.sentence,
        remedy: read.suggestion && `Write ${read.suggestion}.`,
      });
    const lost = fleet
      .referring('range', 'subnetId', subnet.id)
      .find(
        (range) =>
          !contains(read.value, addressOf(range.firstIp)) ||
          !contains(read.value, addressOf(range.lastIp)),
      );
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
      if (inside && address.subnetId === null)
        draft.update('address', address.id, { subnetId: subnet.id });
      if (!inside && address.subnetId === subnet.id)
        draft.update('address', address.id, { subnetId: null });
    }
  }
  const network = fleet.need('network', subnet.networkId);
  return {
    draft,
    title: `edited subnet ${subnet.prefix} of ${network.name}`,
    subjects: [{ kind: 'network', id: network.id, name: network.name }],
  };
};

/** Sets apart a range of a subnet. */
export interface RecordRange extends ChangeBase {
  type: 'range.record';
  subnetId: string;
  fields: RangeInput;
}

export const recordRange: Decider<RecordRange> = (fleet, change, edge) => {
  const subnet = fleet.get('subnet', change.subnetId);
  if (!subnet) return noSuch('subnet');
  const draft = draftOf(fleet, edge);
  draft.create('range', {
    ...tidy('range', change.fields as unknown as Values),
    subnetId: subnet.id,
  });
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
  return {
    draft,
    title: `removed range ${range.firstIp} – ${range.lastIp} of ${network.name}`,
    subjects: [{ kind: 'network', id: network.id, name: network.name }],
  };
};
