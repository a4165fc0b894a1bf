import {
  change,
  draftOf,
  fieldsOf,
  noSuch,
  omittable,
  optional,
  ref,
  refuse,
  said,
  type DeciderOf,
  type Row,
} from '../record/index.js';
import { guestBuild } from './build-steps.js';

const tick = fieldsOf('buildTick');

/** A step of a guest's build was done, failed, or is not needed; null takes the tick back. May be repeated. */
export const tickStep = change({
  type: 'guest.tick',
  title: 'Tick a step of the build',
  carried: 'only afterwards',
  input: {
    guestId: ref('guest'),
    step: tick.step,
    outcome: said(optional(tick.outcome)),
    remark: omittable(tick.remark),
  },
});

export const decideTickStep: DeciderOf<typeof tickStep> = (fleet, input, context) => {
  const guest = fleet.get('guest', input.guestId);
  if (!guest) return noSuch('guest');
  const step = guestBuild(fleet, guest.id)
    .sections.flatMap(({ steps }) => steps)
    .find(({ key }) => key === input.step);
  const held = fleet
    .referring('buildTick', 'guestId', guest.id)
    .find((found) => found.step === input.step);
  if (!step && !held)
    return refuse({
      code: 'no-such-step',
      field: 'step',
      sentence: `The build of ${guest.name} has no step "${input.step}".`,
    });
  if (input.outcome === 'failed' && step && !step.check)
    return refuse({
      code: 'not-a-check',
      field: 'outcome',
      sentence: 'Only a check fails; a step that did not work is left open.',
    });
  const draft = draftOf(fleet, context);
  const subjects = [{ kind: 'guest' as const, id: guest.id, name: guest.name }];
  const what = step?.text ?? input.step;
  if (input.outcome === null) {
    if (held) draft.remove('buildTick', held.id);
    return { draft, title: `took back a tick of ${guest.name}: ${what}`, subjects };
  }
  const fields = {
    outcome: input.outcome,
    at: context.happenedAt,
    by: context.actor.name,
    remark: input.remark ?? '',
  };
  if (held) draft.update('buildTick', held.id, fields);
  else draft.create('buildTick', { guestId: guest.id, step: input.step, ...fields });
  return { draft, title: `${guest.name}: ${input.outcome} – ${what}`, subjects };
};

/** Its first checks: how many there are, were passed, have failed; and when the last was ticked. */
export interface Checked {
  passed: number;
  failed: string[];
  last: string | null;
}

export function checkedAt(ticks: readonly Row<'buildTick'>[]): Checked {
  const checks = ticks.filter((found) => found.step.startsWith('check '));
  return {
    passed: checks.filter((found) => found.outcome === 'done').length,
    failed: checks
      .filter((found) => found.outcome === 'failed')
      .map((found) => found.step.slice('check '.length)),
    last:
      checks
        .map((found) => found.at)
        .sort()
        .at(-1) ?? null,
  };
}
