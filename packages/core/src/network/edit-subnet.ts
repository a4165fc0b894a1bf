import { addressOf, contains, formatPrefix, parsePrefix } from '../address/index.js';
import {
  change,
  draftOf,
  editFields,
  fieldsOf,
  isRefusal,
  ref,
  refuse,
  some,
  type DeciderOf,
} from '../record/index.js';

/** Gateway, name servers or the block of a subnet; held addresses follow the block. */
export const editSubnet = change({
  type: 'subnet.edit',
  title: 'Edit the subnet',
  alters: ['id'],
  input: {
    id: ref('subnet'),
    ...some(
      fieldsOf('subnet'),
      'prefix',
      'gateway',
      'nameServers',
      'domain',
      'policy',
      'quarantineDays',
      'lowKept',
    ),
  },
});

export const decideEditSubnet: DeciderOf<typeof editSubnet> = (
  fleet,
  { id, ...fields },
  context,
) => {
  const draft = draftOf(fleet, context);
  const subnet = editFields(fleet, draft, 'subnet', id, fields);
  if (isRefusal(subnet)) return subnet;
  if (fields.prefix !== undefined) {
    const read = parsePrefix(fields.prefix);
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
