import {
  draftOf,
  noSuch,
  refuse,
  type ChangeBase,
  type Decider,
  type Row,
} from '../record/index.js';
import { guestBuild } from './build-steps.js';

/** Records that a step of a guest's build was done, failed, or is not needed; null takes the tick back. */
export interface TickStep extends ChangeBase {
  type: 'guest.tick';
  guestId: string;
  step: string;
  outcome: Row<'buildTick'>['outcome'] | null;
  remark?: string;
}

export const tickStep: Decider<TickStep> = (fleet, change, edge) => {
  const guest = fleet.get('guest', change.guestId);
  if (!guest) return noSuch('guest');
  const step = guestBuild(fleet, guest.id)
    .sections.flatMap(({ steps }) => steps)
    .find(({ key }) => key === change.step);
  const held = fleet
    .referring('buildTick', 'guestId', guest.id)
    .find((tick) => tick.step === change.step);
  if (!step && !held)
    return refuse({
      code: 'no-such-step',
      field: 'step',
      sentence: `The build of ${guest.name} has no step "${change.step}".`,
    });
  if (change.outcome === 'failed' && step && !step.check)
    return refuse({
      code: 'not-a-check',
      field: 'outcome',
      sentence: 'Only a check fails; a step that did not work is left open.',
    });
  const draft = draftOf(fleet, edge);
  const subjects = [{ kind: 'guest' as const, id: guest.id, name: guest.name }];
  const what = step?.text ?? change.step;
  if (change.outcome === null) {
    if (held) draft.remove('buildTick', held.id);
    return { draft, title: `took back a tick of ${guest.name}: ${what}`, subjects };
  }
  const fields = {
    outcome: change.outcome,
    at: change.happenedAt ?? edge.now,
    by: edge.actor.name,
    remark: change.remark ?? '',
  };
  if (held) draft.update('buildTick', held.id, fields);
  else draft.create('buildTick', { guestId: guest.id, step: change.step, ...fields });
  return { draft, title: `${guest.name}: ${change.outcome} – ${what}`, subjects };
};

/** Its first checks: how many there are, were passed, have failed; and when the last was ticked. */
export interface Checked {
  passed: number;
  failed: string[];
  last: string | null;
}

export function checkedAt(ticks: readonly Row<'buildTick'>[]): Checked {
  const checks = ticks.filter((tick) => tick.step.startsWith('check '));
  return {
    passed: checks.filter((tick) => tick.outcome === 'done').length,
    failed: checks
      .filter((tick) => tick.outcome === 'failed')
      .map((tick) => tick.step.slice('check '.length)),
    last:
      checks
        .map((tick) => tick.at)
        .sort()
        .at(-1) ?? null,
  };
}
