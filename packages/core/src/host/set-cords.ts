import { change, draftOf, list, noSuch, ref, refuse, type DeciderOf } from '../record/index.js';

/** Into which feeds the supplies of a host are plugged: one line a supply. */
export const setCords = change({
  type: 'host.set-cords',
  title: 'Say which power feeds the host is plugged into',
  alters: ['id'],
  input: { id: ref('host'), cords: list({ feedId: ref('powerFeed') }, 8) },
});

export const decideSetCords: DeciderOf<typeof setCords> = (fleet, input, context) => {
  const host = fleet.get('host', input.id);
  if (!host) return noSuch('host');
  if (input.cords.length > host.powerSupplies)
    return refuse({
      code: 'more-cords-than-supplies',
      field: 'cords',
      sentence: `${host.name} has ${host.powerSupplies} power ${host.powerSupplies === 1 ? 'supply' : 'supplies'}, and ${input.cords.length} are plugged in.`,
      remedy: 'Record how many supplies it has, or take a feed away.',
    });
  const draft = draftOf(fleet, context);
  const wanted = input.cords.map(({ feedId }) => feedId);
  for (const cord of fleet.referring('powerCord', 'hostId', host.id)) {
    const at = wanted.indexOf(cord.feedId);
    if (at < 0) draft.remove('powerCord', cord.id);
    else wanted.splice(at, 1);
  }
  for (const feedId of wanted) {
    if (!fleet.get('powerFeed', feedId)) return noSuch('powerFeed');
    draft.create('powerCord', { hostId: host.id, feedId });
  }
  const names = input.cords.map(({ feedId }) => fleet.get('powerFeed', feedId)?.name ?? '');
  return {
    draft,
    title: `${host.name} is plugged into ${names.join(' and ') || 'no feed that is recorded'}`,
    subjects: [{ kind: 'host', id: host.id, name: host.name }],
  };
};
