import {
  draftOf,
  noSuch,
  refuse,
  type ChangeBase,
  type Decider,
  type Row,
} from '../record/index.js';

/** Says which guests belong together, apart, or on one host; with an id it says so anew. */
export interface SetPlacementRule extends ChangeBase {
  type: 'rule.set';
  id?: string;
  name: string;
  rule: Row<'placementRule'>['rule'];
  scope?: Row<'placementRule'>['scope'];
  hostId?: string | null;
  guestIds: string[];
}

export const setPlacementRule: Decider<SetPlacementRule> = (fleet, change, edge) => {
  const guestIds = [...new Set(change.guestIds)];
  const least = change.rule === 'pinned' ? 1 : 2;
  if (guestIds.length < least)
    return refuse({
      code: 'too-few',
      field: 'guestIds',
      sentence: `"${change.rule}" takes at least ${least} ${least === 1 ? 'guest' : 'guests'}.`,
    });
  if (change.rule === 'pinned' && !change.hostId)
    return refuse({
      code: 'no-host',
      field: 'hostId',
      sentence: 'Say to which host the guests are pinned.',
    });
  const draft = draftOf(fleet, edge);
  const fields = {
    name: change.name.trim(),
    rule: change.rule,
    scope: change.scope ?? 'host',
    hostId: change.rule === 'pinned' ? change.hostId : null,
  };
  if (change.id && !fleet.get('placementRule', change.id)) return noSuch('placementRule');
  const ruleId = change.id ?? draft.create('placementRule', fields);
  const held = change.id ? fleet.referring('placementMember', 'ruleId', change.id) : [];
  if (change.id) draft.update('placementRule', change.id, fields);
  for (const member of held)
    if (!guestIds.includes(member.guestId)) draft.remove('placementMember', member.id);
  for (const guestId of guestIds)
    if (!held.some((member) => member.guestId === guestId))
      draft.create('placementMember', { ruleId, guestId });
  return {
    draft,
    title: `${change.id ? 'edited' : 'recorded'} the rule ${fields.name}: ${guestIds.length} guests ${change.rule}`,
    subjects: [{ kind: 'placementRule', id: ruleId, name: fields.name }],
  };
};

export interface RemovePlacementRule extends ChangeBase {
  type: 'rule.remove';
  id: string;
}

export const removePlacementRule: Decider<RemovePlacementRule> = (fleet, change, edge) => {
  const rule = fleet.get('placementRule', change.id);
  if (!rule) return noSuch('placementRule');
  const draft = draftOf(fleet, edge);
  for (const member of fleet.referring('placementMember', 'ruleId', rule.id))
    draft.remove('placementMember', member.id);
  draft.remove('placementRule', rule.id);
  return {
    draft,
    title: `removed the rule ${rule.name}`,
    subjects: [{ kind: 'placementRule', id: rule.id, name: rule.name }],
  };
};
