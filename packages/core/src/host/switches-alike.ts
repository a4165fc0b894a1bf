import {
  change,
  draftOf,
  isRefusal,
  noSuch,
  ref,
  refs,
  type DeciderOf,
  type Draft,
  type Fleet,
  type Refusal,
  type Row,
} from '../record/index.js';

/** Gives hosts the switches that another one has: bridged networks that they lack, by ports of the same names. */
export const switchesAlike = change({
  type: 'host.switches-alike',
  title: 'Give hosts the same switches',
  input: {
    /** The host to take as the model. */
    likeId: ref('host'),
    hostIds: refs('host'),
  },
});

export const decideSwitchesAlike: DeciderOf<typeof switchesAlike> = (fleet, input, context) => {
  const model = fleet.get('host', input.likeId);
  if (!model) return noSuch('host');
  const draft = draftOf(fleet, context);
  const given: string[] = [];
  const subjects = [];
  for (const id of new Set(input.hostIds)) {
    const host = fleet.get('host', id);
    if (!host) return noSuch('host');
    const added = giveLike(fleet, draft, model, host);
    if (isRefusal(added)) return added;
    if (added === 0) continue;
    draft.update('host', host.id, { networkChangedAt: context.now });
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
