/** What the steps of a move off a computer and onto one have in common. @see 8-moving */
import { IDENTITY_ITEMS, type Row } from '../record/index.js';
import { FIXED_MINUTES } from './method.js';
import type { MoveStepFields } from './move-step.js';

/** The medium that a copying environment starts from, and what it is told. */
export const environment = (): MoveStepFields => ({
  key: 'environment',
  phase: 'copy',
  console: 'both',
  title: 'Copying environment started on both sides, first in their boot order',
  detail:
    'Read the address of the receiving side off its console, type it at the sending one: the environment has addresses of its own.',
  minutes: 2 * FIXED_MINUTES.environment,
});

export const diskName = ({ bay, model, serial }: Row<'computerDisk'>): string =>
  [model, serial].filter(Boolean).join(' ') || bay;

/** Both stay: the copy gets an identity of its own before it touches a network. */
export const identity = (console: 'source' | 'target'): MoveStepFields =>
  step(
    'identity',
    'switch',
    console,
    'The copy has an identity of its own before it touches a network',
    `${IDENTITY_ITEMS.join(', ')}.`,
  );

export const step = (
  key: string,
  phase: MoveStepFields['phase'],
  console: MoveStepFields['console'],
  title: string,
  detail = '',
): MoveStepFields => ({ key, phase, console, title, detail });
