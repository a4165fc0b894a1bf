import { formatPrefix, prefixOf, singleCover, total, type Prefix } from '../address/index.js';
import { change, draftOf, noSuch, ref, refuse, type DeciderOf } from '../record/index.js';
import { rehome } from './rehome.js';

/** Joins two subnets that lie side by side into the block that holds exactly both. */
export const joinSubnets = change({
  type: 'subnet.join',
  title: 'Join the subnets',
  alters: ['id', 'otherId'],
  input: { id: ref('subnet'), otherId: ref('subnet') },
});

export const decideJoinSubnets: DeciderOf<typeof joinSubnets> = (fleet, input, context) => {
  const [one, other] = [fleet.get('subnet', input.id), fleet.get('subnet', input.otherId)];
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
  const draft = draftOf(fleet, context);
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
