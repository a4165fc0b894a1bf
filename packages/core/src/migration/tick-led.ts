import type { ChangeContext, Draft, Fleet, Row } from '../record/index.js';
import type { MigrationStep } from './step-migration.js';

/** The step of its list that says the same is ticked with it. */
export function tickLed(
  fleet: Fleet,
  draft: Draft,
  migration: Row<'migration'>,
  step: MigrationStep,
  { happenedAt, actor }: ChangeContext,
): void {
  const becomes = { start: 'started', switch: 'switched', accept: 'accepted', 'roll back': '' }[
    step
  ];
  for (const row of fleet.referring('moveStep', 'migrationId', migration.id))
    if (row.becomes === becomes && row.state === 'open')
      draft.update('moveStep', row.id, { state: 'done', at: happenedAt, by: actor.name });
}
