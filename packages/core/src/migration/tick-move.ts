import {
  change,
  draftOf,
  fieldsOf,
  noSuch,
  objection,
  omittable,
  refs,
  refuse,
  said,
  text,
  type DeciderOf,
  type Fleet,
  type InputOf,
  type Refusal,
  type Row,
} from '../record/index.js';
import { fewNames } from '../quantity/index.js';
import { pausedFault } from './pause-migration.js';
import { systemsMeet } from './systems-meet.js';
import { advance, stepMigration, titleOfStep } from './step-migration.js';

type MoveStep = Row<'moveStep'>;
const { copySeconds, keepUntil } = stepMigration.input;

/** Steps of a migration are done, failed, skipped, or open again. One that says what the migration becomes takes it there. */
export const tickMove = change({
  type: 'migration.tick',
  title: 'Tick steps of the migration',
  carried: 'only afterwards',
  undoable: false,
  input: {
    stepIds: refs('moveStep', 60),
    state: said(fieldsOf('moveStep').state),
    remark: omittable(fieldsOf('moveStep').remark),
    /** Of what is destroyed, as it was typed. */
    typed: omittable(text(200)),
    copySeconds,
    keepUntil,
  },
});
type TickMove = InputOf<(typeof tickMove)['input']>;

export const decideTickMove: DeciderOf<typeof tickMove> = (fleet, input, context) => {
  const steps: MoveStep[] = [];
  for (const id of input.stepIds) {
    const step = fleet.get('moveStep', id);
    if (!step) return noSuch('moveStep');
    steps.push(step);
  }
  const [first] = steps;
  if (!first) return refuse({ code: 'none-chosen', field: 'stepIds', sentence: 'Choose a step.' });
  const migration = fleet.need('migration', first.migrationId);
  const fault = faultOf(fleet, migration, steps, input);
  if (fault) return fault;
  const draft = draftOf(fleet, context);
  const at = context.happenedAt;
  for (const step of steps)
    draft.update('moveStep', step.id, {
      state: input.state,
      at: input.state === 'open' ? null : at,
      by: input.state === 'open' ? '' : context.actor.name,
      ...(input.remark === undefined ? {} : { remark: input.remark }),
    });
  const leading = input.state === 'done' && steps.find(({ becomes }) => becomes !== 'none');
  const guest = fleet.need('guest', migration.guestId);
  const outcome = leading ? advance(fleet, draft, migration, stepOf(leading), at, input) : [];
  if (!Array.isArray(outcome)) return outcome;
  return {
    draft,
    title: leading
      ? titleOfStep(fleet, migration, stepOf(leading))
      : `${WORDS[input.state]} for the move of ${guest.name}: ${fewNames(steps.map(({ title }) => title))}`,
    subjects: [
      { kind: 'migration', id: migration.id, name: guest.name },
      { kind: 'guest', id: guest.id, name: guest.name },
    ],
    objections: [...(input.state === 'done' ? earlierOpen(fleet, steps) : []), ...outcome],
  };
};

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
const STEP_OF = { started: 'start', switched: 'switch', accepted: 'accept' } as const;
const stepOf = ({ becomes }: MoveStep) => STEP_OF[becomes as keyof typeof STEP_OF];
const WORDS = { open: 'reopened', done: 'ticked', failed: 'failed', skipped: 'skipped' } as const;

function faultOf(
  fleet: Fleet,
  migration: Row<'migration'>,
  steps: readonly MoveStep[],
  { state, remark, typed }: TickMove,
): Refusal | undefined {
  if (steps.some(({ migrationId }) => migrationId !== migration.id))
    return refuse({
      code: 'two-migrations',
      field: 'stepIds',
      sentence: 'These are steps of several migrations: tick those of one at a time.',
    });
  if (migration.state === 'accepted' || migration.state === 'rolled back')
    return refuse({
      code: 'state-cannot-follow',
      sentence: `The migration is ${migration.state}: its steps stay as they are.`,
    });
  if ((state === 'failed' || state === 'skipped') && !remark?.trim())
    return refuse({
      code: 'remark-wanted',
      field: 'remark',
      sentence: `Write why it ${state === 'failed' ? 'failed' : 'was skipped'}.`,
    });
  if (state !== 'done') return undefined;
  const paused = pausedFault(migration);
  if (paused) return paused;
  if (steps.filter(({ becomes }) => becomes !== 'none').length > 1)
    return refuse({
      code: 'one-at-a-time',
      field: 'stepIds',
      sentence: 'Several of these take the migration on: tick them one after the other.',
    });
  const destroying = steps.find(({ destroys }) => destroys !== '');
  if (destroying && typed?.trim() !== destroying.destroys)
    return refuse({
      code: 'name-not-typed',
      field: 'typed',
      sentence: `This destroys what lies there. Type its name to say that you have looked: ${destroying.destroys}.`,
    });
  return bothOn(fleet, steps);
}

/** Never two own systems on networks that reach each other: the first start waits for what keeps the source off. */
function bothOn(fleet: Fleet, steps: readonly MoveStep[]): Refusal | undefined {
  const starting = steps.find(({ key }) => key === 'first-start');
  if (!starting) return undefined;
  const ticking = new Set(steps.map(({ id }) => id));
  const off = fleet
    .referring('moveStep', 'migrationId', starting.migrationId)
    .find(
      ({ id, key, state }) =>
        (key === 'shut-down' || key === 'source-off') && state !== 'done' && !ticking.has(id),
    );
  const met = off && systemsMeet(fleet, fleet.need('migration', starting.migrationId));
  return met
    ? refuse({
        code: 'both-on',
        field: 'stepIds',
        sentence: `Not ticked yet: ${off.title}. ${capital(met)}: two systems with one address both lose their connections.`,
        remedy: 'See to it and tick it, or rehearse with the adapters disconnected.',
      })
    : undefined;
}

/** Steps of earlier blocks that nobody settled. */
function earlierOpen(fleet: Fleet, steps: readonly MoveStep[]): Refusal[] {
  const last = Math.max(...steps.map(({ position }) => position));
  const ticking = new Set(steps.map(({ id }) => id));
  const open = fleet
    .referring('moveStep', 'migrationId', steps[0]!.migrationId)
    .filter(
      ({ id, position, state }) =>
        position < last && !ticking.has(id) && (state === 'open' || state === 'failed'),
    )
    .sort((a, b) => a.position - b.position);
  if (open.length === 0) return [];
  return [
    objection({
      code: 'earlier-open',
      field: 'stepIds',
      sentence: `Before it stands: ${fewNames(open.map(({ title }) => title))}.`,
      remedy: 'Tick what was done, skip what does not apply, or write why it goes on without.',
    }),
  ];
}
