import { addressOf, contains, formatPrefix, prefixOf, splitInto } from '../address/index.js';
import { change, draftOf, integer, noSuch, ref, refuse, type DeciderOf } from '../record/index.js';
import { rehome } from './rehome.js';

/** Cuts a subnet into blocks of a longer prefix length, all on its network. */
export const splitSubnet = change({
  type: 'subnet.split',
  title: 'Cut the subnet into parts',
  alters: ['id'],
  input: { id: ref('subnet'), length: integer(1, 128) },
});

const MOST_PARTS = 256;

export const decideSplitSubnet: DeciderOf<typeof splitSubnet> = (
  fleet,
  { id, length },
  context,
) => {
  const subnet = fleet.get('subnet', id);
  if (!subnet) return noSuch('subnet');
  const block = prefixOf(subnet.prefix);
  const bits = block.family === 4 ? 32 : 128;
  if (!Number.isInteger(length) || length <= block.length || length > bits) {
    return refuse({
      code: 'bad-length',
      field: 'length',
      sentence: `A part of ${subnet.prefix} is longer than /${block.length} and at most /${bits}.`,
    });
  }
  if (length - block.length > 8)
    return refuse({
      code: 'too-many',
      field: 'length',
      sentence: `That would be more than ${MOST_PARTS} parts.`,
      remedy: 'Cut it in steps.',
    });
  const parts = splitInto(block, length, MOST_PARTS);
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
  const draft = draftOf(fleet, context);
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
    title: `cut ${subnet.prefix} of ${network.name} into ${parts.length} × /${length}`,
    subjects: [{ kind: 'network', id: network.id, name: network.name }],
  };
};
