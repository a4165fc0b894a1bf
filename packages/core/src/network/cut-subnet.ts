/** A subnet cut into equal parts, or joined with its neighbour; addresses, ranges and rests go to the part they lie in. */
import {
  addressOf,
  contains,
  formatPrefix,
  prefixOf,
  singleCover,
  splitInto,
  total,
  type Prefix,
} from '../address/index.js';
import {
  draftOf,
  noSuch,
  refuse,
  type ChangeBase,
  type Decider,
  type Draft,
  type Fleet,
  type Row,
} from '../record/index.js';

/** Cuts a subnet into blocks of a longer prefix length, all on its network. */
export interface SplitSubnet extends ChangeBase {
  type: 'subnet.split';
  id: string;
  length: number;
}

const MOST_PARTS = 256;

export const splitSubnet: Decider<SplitSubnet> = (fleet, change, edge) => {
  const subnet = fleet.get('subnet', change.id);
  if (!subnet) return noSuch('subnet');
  const block = prefixOf(subnet.prefix);
  const bits = block.family === 4 ? 32 : 128;
  if (!Number.isInteger(change.length) || change.length <= block.length || change.length > bits) {
    return refuse({
      code: 'bad-length',
      field: 'length',
      sentence: `A part of ${subnet.prefix} is longer than /${block.length} and at most /${bits}.`,
    });
  }
  if (change.length - block.length > 8)
    return refuse({
      code: 'too-many',
      field: 'length',
      sentence: `That would be more than ${MOST_PARTS} parts.`,
      remedy: 'Cut it in steps.',
    });
  const parts = splitInto(block, change.length, MOST_PARTS);
  const torn = fleet
    .referring('range', 'subnetId', subnet.id)
    .find(
      (range) =>
        !parts.some(
          (part) =>
            contains(part, addressOf(range.firstIp)) && contains(part, addressOf(range.lastIp)),
        ),
    );
  if (torn) {
    return refuse({
      code: 'range-torn',
      field: 'length',
      sentence: `The ${torn.use} range ${torn.firstIp} – ${torn.lastIp} would lie in two parts.`,
      remedy: 'Shorten or remove the range first.',
    });
  }
  const draft = draftOf(fleet, edge);
  const ids = parts.map((part, i) => {
    const gateway =
      subnet.gateway && contains(part, addressOf(subnet.gateway)) ? subnet.gateway : null;
    const fields = { prefix: formatPrefix(part), gateway };
    if (i === 0) {
      draft.update('subnet', subnet.id, fields);
      return subnet.id;
    }
    const { id: _, revision: __, ...rest } = subnet;
    return draft.create('subnet', { ...rest, ...fields });
  });
  rehome(
    fleet,
    draft,
    subnet,
    (ip) => ids[parts.findIndex((part) => contains(part, addressOf(ip)))]!,
  );
  const network = fleet.need('network', subnet.networkId);
  return {
    draft,
    title: `cut ${subnet.prefix} of ${network.name} into ${parts.length} × /${change.length}`,
    subjects: [{ kind: 'network', id: network.id, name: network.name }],
  };
};

/** Joins two subnets that lie side by side into the block that holds exactly both. */
export interface JoinSubnets extends ChangeBase {
  type: 'subnet.join';
  id: string;
  otherId: string;
}

export const joinSubnets: Decider<JoinSubnets> = (fleet, change, edge) => {
  const [one, other] = [fleet.get('subnet', change.id), fleet.get('subnet', change.otherId)];
  if (!one || !other) return noSuch('subnet');
  const [a, b] = [prefixOf(one.prefix), prefixOf(other.prefix)];
  if (one.id === other.id || one.domainId !== other.domainId || a.family !== b.family) {
    return refuse({
      code: 'not-joinable',
      field: 'otherId',
      sentence: 'Only two subnets of one family and one routing domain can be joined.',
    });
  }
  const cover: Prefix = singleCover([a, b]);
  if (total(cover) !== total(a) + total(b)) {
    return refuse({
      code: 'not-joinable',
      field: 'otherId',
      sentence: `${one.prefix} and ${other.prefix} do not make one block: the smallest that holds both is ${formatPrefix(cover)}, with ${total(cover) - total(a) - total(b)} addresses of others.`,
    });
  }
  const draft = draftOf(fleet, edge);
  draft.update('subnet', one.id, {
    prefix: formatPrefix(cover),
    gateway: one.gateway ?? other.gateway,
  });
  rehome(fleet, draft, other, () => one.id);
  draft.remove('subnet', other.id);
  const network = fleet.need('network', one.networkId);
  return {
    draft,
    title: `joined ${one.prefix} and ${other.prefix} into ${formatPrefix(cover)} of ${network.name}`,
    subjects: [{ kind: 'network', id: network.id, name: network.name }],
  };
};

function rehome(
  fleet: Fleet,
  draft: Draft,
  from: Row<'subnet'>,
  homeOf: (ip: string) => string,
): void {
  for (const address of fleet.referring('address', 'subnetId', from.id))
    draft.update('address', address.id, { subnetId: homeOf(address.ip) });
  for (const range of fleet.referring('range', 'subnetId', from.id))
    draft.update('range', range.id, { subnetId: homeOf(range.firstIp) });
  for (const rest of fleet.referring('quarantine', 'subnetId', from.id))
    draft.update('quarantine', rest.id, { subnetId: homeOf(rest.ip) });
}
