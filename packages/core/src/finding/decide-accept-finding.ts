import { draftOf, noSuch, refuse, type DeciderOf } from '../record/index.js';
import type { acceptFinding, endAcceptance } from './accept-finding.js';
import { placesOf } from './finding.js';
import { allFindingsAt } from './registry.js';

export const decideAcceptFinding: DeciderOf<typeof acceptFinding> = (
  fleet,
  { findingId, until },
  context,
) => {
  const finding = allFindingsAt(fleet, placesOf(findingId), context.now).find(
    ({ id }) => id === findingId,
  );
  if (!finding)
    return refuse({
      code: 'no-such-finding',
      field: 'findingId',
      sentence: 'This finding no longer stands.',
      remedy: 'Look at the findings again.',
    });
  if (until < context.now.slice(0, 10))
    return refuse({
      code: 'day-has-passed',
      field: 'until',
      sentence: `${until} has passed: a finding is accepted until a day to come.`,
    });
  const draft = draftOf(fleet, context);
  const values = {
    evidence: finding.evidence,
    reason: context.reason,
    until,
    by: context.actor.name,
    at: context.now,
  };
  const held = fleet.acceptanceOf(findingId);
  if (held) draft.update('acceptance', held.id, values);
  else draft.create('acceptance', { findingId, ...values });
  return {
    draft,
    title: `accepted ${finding.rule} of ${finding.about.name} until ${until}`,
    subjects: [finding.about],
  };
};

export const decideEndAcceptance: DeciderOf<typeof endAcceptance> = (fleet, { id }, context) => {
  const row = fleet.get('acceptance', id);
  if (!row) return noSuch('acceptance');
  const draft = draftOf(fleet, context);
  draft.remove('acceptance', id);
  return { draft, title: `wants to hear again: ${row.evidence.slice(0, 150)}`, subjects: [] };
};
