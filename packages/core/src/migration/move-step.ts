/** A step of a move, and what steps are made of. */
import type { Row, NewFields, Fleet } from '../record/index.js';
import { FIXED_MINUTES, type MoveKind, type MoveMethod } from './method.js';

export interface StepsInput {
  guest: Row<'guest'>;
  source: Row<'host'>;
  target: Row<'host'>;
  /** Volumes that go to another pool. */
  moved: readonly Row<'volume'>[];
  targetPoolId: string | null;
  running: boolean;
  kind: MoveKind;
  method: MoveMethod;
}

export type MoveStepFields = Omit<NewFields<'moveStep'>, 'migrationId' | 'position'>;
export type Step = MoveStepFields;
export const sourceStaysOff = ({ source }: StepsInput): Step => ({
  key: 'source-off',
  phase: 'switch',
  console: 'source',
  title: `What is left on ${source.name} stays off: its adapters disconnected, its automatic start taken away`,
  detail: 'A careless restart starts the old system: both would lose their connections.',
});

export const firstStart = (guest: Row<'guest'>, target: Row<'host'>): Step => ({
  key: 'first-start',
  phase: 'switch',
  console: 'target',
  title: `First start of ${guest.name} on ${target.name}, connected`,
  minutes: FIXED_MINUTES.firstStart,
  becomes: 'switched',
});

export function answers(fleet: Fleet, guest: Row<'guest'>, target: Row<'host'>): Step {
  const held = fleet
    .referring('adapter', 'guestId', guest.id)
    .flatMap((adapter) => fleet.referring('address', 'adapterId', adapter.id))
    .map(({ ip }) => ip);
  return {
    key: 'answers',
    phase: 'after',
    console: 'target',
    title: `On ${target.name}: address, gateway, name server, outside; what it serves is asked by a user`,
    detail: held.length ? `It answers as ${held.join(', ')}.` : 'No address is recorded of it.',
    minutes: FIXED_MINUTES.checks,
  };
}
export const shutDown = (guest: Row<'guest'>): Step => ({
  key: 'shut-down',
  phase: 'before',
  console: 'source',
  title: `Shut ${guest.name} down cleanly`,
  detail: 'From inside, not by cutting its power: a file system that was cut may not mount there.',
});
export const accepted = (title: string, detail = ''): Step => ({
  key: 'accepted',
  phase: 'after',
  console: 'elsewhere',
  title,
  detail,
  becomes: 'accepted',
});
