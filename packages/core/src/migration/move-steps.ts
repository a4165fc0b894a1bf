/**
 * Steps of a move, as rows to tick: made from its kind, its method, both platforms and the guest. A routine move has few;
 * one between platforms says at which console each is done, and the exact lines of what is renamed.
 */
import { formatBoth } from '../quantity/index.js';
import type { Fleet } from '../record/index.js';
import { betweenPlatforms } from './between-platforms.js';
import { METHODS } from './method.js';
import {
  type StepsInput,
  type Step,
  sourceStaysOff,
  firstStart,
  answers,
  shutDown,
  accepted,
} from './move-step.js';

export function moveSteps(fleet: Fleet, input: StepsInput): Step[] {
  if (input.kind === 'storage only') return storageSteps(fleet, input);
  if (input.running) return runningSteps(input);
  return input.kind === 'between platforms'
    ? betweenPlatforms(fleet, input)
    : stoppedSteps(fleet, input);
}

function runningSteps({ guest, target }: StepsInput): Step[] {
  return [
    {
      key: 'moved',
      phase: 'switch',
      console: 'target',
      title: `Moved: ${guest.name} runs on ${target.name}`,
      becomes: 'switched',
    },
    {
      key: 'answers',
      phase: 'after',
      console: 'target',
      title: 'It answers under its name and address',
    },
    accepted('Done: nothing new among its findings'),
  ];
}

function storageSteps(fleet: Fleet, { guest, targetPoolId, running }: StepsInput): Step[] {
  const pool = fleet.need('pool', targetPoolId!).name;
  return [
    ...(running ? [] : [shutDown(guest)]),
    {
      key: 'moved',
      phase: 'switch',
      console: 'source',
      title: `Volumes copied to pool ${pool}, ${guest.name} uses them there`,
      becomes: 'switched',
    },
    {
      key: 'answers',
      phase: 'after',
      console: 'source',
      title: 'It answers, and nothing in it complains of its disks',
    },
    accepted('Done: what lies in the old pool may go on its day'),
  ];
}

const freshBackup: Step = {
  key: 'backup',
  phase: 'before',
  console: 'elsewhere',
  title: 'A backup of the last 24 hours is there',
};

function stoppedSteps(fleet: Fleet, input: StepsInput): Step[] {
  const { guest, target } = input;
  return [
    freshBackup,
    shutDown(guest),
    copied(fleet, input),
    sourceStaysOff(input),
    firstStart(guest, target),
    answers(fleet, guest, target),
    accepted('Accepted: its first backup there is done', 'Within 24 hours of the switch.'),
  ];
}

function copied(fleet: Fleet, { moved, targetPoolId, target, method }: StepsInput): Step {
  if (moved.length === 0)
    return {
      key: 'copied',
      phase: 'copy',
      console: 'target',
      title: `Registered on ${target.name}; its disks stay where they are`,
      becomes: 'started',
    };
  const pool = fleet.need('pool', targetPoolId!).name;
  return {
    key: 'copied',
    phase: 'copy',
    console: 'target',
    title: `Copy to pool ${pool} begun: ${METHODS[method].words}`,
    detail: moved.map(({ label, bytes }) => `${label}: ${formatBoth(bytes)}`).join('\n'),
    becomes: 'started',
  };
}
