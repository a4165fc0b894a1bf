import { change, draftOf, noSuch, ref, type DeciderOf } from '../record/index.js';

export const removePlacementRule = change({
  type: 'rule.remove',
  title: 'Remove the rule of placement',
  alters: ['id'],
  input: { id: ref('placementRule') },
});

export const decideRemovePlacementRule: DeciderOf<typeof removePlacementRule> = (
  fleet,
  { id },
  context,
) => {
  const rule = fleet.get('placementRule', id);
  if (!rule) return noSuch('placementRule');
  const draft = draftOf(fleet, context);
  for (const member of fleet.referring('placementMember', 'ruleId', rule.id))
    draft.remove('placementMember', member.id);
  draft.remove('placementRule', rule.id);
  return {
    draft,
    title: `removed the rule ${rule.name}`,
    subjects: [{ kind: 'placementRule', id: rule.id, name: rule.name }],
  };
};
