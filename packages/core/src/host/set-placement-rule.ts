import { counted } from '../quantity/index.js';
import {
  change,
  draftOf,
  fieldsOf,
  noSuch,
  omittable,
  ref,
  refs,
  refuse,
  some,
  type DeciderOf,
} from '../record/index.js';

const rule = fieldsOf('placementRule');

/** Which guests belong together, apart, or on one host; with an id it is said anew. */
export const setPlacementRule = change({
  type: 'rule.set',
  title: 'Set a rule of placement',
  alters: ['id'],
  input: {
    id: omittable(ref('placementRule')),
    name: rule.name,
    rule: rule.rule,
    ...some(rule, 'scope', 'hostId'),
    guestIds: refs('guest', 200),
  },
});

export const decideSetPlacementRule: DeciderOf<typeof setPlacementRule> = (
  fleet,
  input,
  context,
) => {
  const guestIds = [...new Set(input.guestIds)];
  const least = input.rule === 'pinned' ? 1 : 2;
  if (guestIds.length < least)
    return refuse({
      code: 'too-few',
      field: 'guestIds',
      sentence: `"${input.rule}" takes at least ${least} ${least === 1 ? 'guest' : 'guests'}.`,
    });
  if (input.rule === 'pinned' && !input.hostId)
    return refuse({
      code: 'no-host',
      field: 'hostId',
      sentence: 'Say to which host the guests are pinned.',
    });
  const draft = draftOf(fleet, context);
  const fields = {
    name: input.name.trim(),
    rule: input.rule,
    scope: input.scope ?? 'host',
    hostId: input.rule === 'pinned' ? input.hostId : null,
  };
  if (input.id && !fleet.get('placementRule', input.id)) return noSuch('placementRule');
  const ruleId = input.id ?? draft.create('placementRule', fields);
  const held = input.id ? fleet.referring('placementMember', 'ruleId', input.id) : [];
  if (input.id) draft.update('placementRule', input.id, fields);
  for (const member of held)
    if (!guestIds.includes(member.guestId)) draft.remove('placementMember', member.id);
  for (const guestId of guestIds)
    if (!held.some((member) => member.guestId === guestId))
      draft.create('placementMember', { ruleId, guestId });
  return {
    draft,
    title: `${input.id ? 'edited' : 'recorded'} the rule ${fields.name}: ${counted(guestIds.length, 'guest')} ${input.rule}`,
    subjects: [{ kind: 'placementRule', id: ruleId, name: fields.name }],
  };
};
