/** Drafting networks and subnets: shared by recording one, several, and adding a subnet. */
import { addressOf, contains, formatPrefix, parsePrefix } from '../address/index.js';
import {
  isRefusal,
  refuse,
  tidy,
  type Draft,
  type Fleet,
  type Refusal,
  type Row,
} from '../record/index.js';
import { domainFor } from './give-address.js';
import type { NetworkInput, SubnetInput } from './network-input.js';

/** @param path of the subnet's fields in the input, for a refusal */
export function draftNetwork(
  fleet: Fleet,
  draft: Draft,
  { subnet, alsoAt = [], ...fields }: NetworkInput,
  path: string,
): { id: string; name: string } | Refusal {
  const name = fields.name.trim();
  const taken = networkNameTaken(fleet, name);
  if (taken) return taken;
  const id = draft.create('network', { ...tidy('network', fields), name });
  for (const siteId of new Set(alsoAt))
    if (siteId !== fields.siteId) draft.create('networkSite', { networkId: id, siteId });
  const fault = subnet && draftSubnet(fleet, draft, id, subnet, path);
  return fault ?? { id, name };
}

export function networkNameTaken(fleet: Fleet, name: string, but = ''): Refusal | undefined {
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

export function draftSubnet(
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
  for (const range of ranges) draft.create('range', { ...tidy('range', range), subnetId });
  // Addresses that were found before their subnet was recorded now belong to it.
  for (const address of fleet.referring('address', 'domainId', domainId)) {
    if (address.subnetId === null && contains(prefix.value, addressOf(address.ip)))
      draft.update('address', address.id, { subnetId });
  }
  return undefined;
}

/** What of a subnet goes with it, and what stays in none. */
export function draftSubnetRemoval(fleet: Fleet, draft: Draft, subnet: Row<'subnet'>): void {
  for (const range of fleet.referring('range', 'subnetId', subnet.id))
    draft.remove('range', range.id);
  for (const rest of fleet.referring('quarantine', 'subnetId', subnet.id))
    draft.remove('quarantine', rest.id);
  for (const address of fleet.referring('address', 'subnetId', subnet.id))
    draft.update('address', address.id, { subnetId: null });
  draft.remove('subnet', subnet.id);
}
