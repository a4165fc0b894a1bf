/** Ways that the bytes of a guest travel: what each copies, how fast it usually is, and what it costs beside the copy. */
import type { BytesPerSecond } from '../quantity/index.js';
import type { MOVE_METHODS } from '../record/index.js';

export type MoveMethod = (typeof MOVE_METHODS)[number];
export type MoveKind =
  | 'between hosts'
  | 'between platforms'
  | 'storage only'
  | 'physical to guest'
  | 'guest to physical';

interface MethodFacts {
  /** As a person would say it. */
  words: string;
  /** What a copy usually reaches: a rate, or what the link carries. Common practice, no source. */
  usual: BytesPerSecond | 'link';
  /** Times that the bytes are copied one after the other. */
  passes: 1 | 2;
  /** It understands the file system and leaves free blocks out. */
  skipsFree: boolean;
  /** Only of a guest that runs, only of one that is stopped, or of both. */
  of: 'running' | 'stopped' | 'either';
  /** Whether it also does for a computer that runs no guests: at its source, at its target. */
  ofComputers?: 'both' | 'source';
}

/** 12 GiB in about 9 minutes between two ordinary hosts. Common practice, no source. */
export const HABITUAL_RATE: BytesPerSecond = (12 * 1024 ** 3) / (9 * 60);

export const METHODS: Readonly<Record<MoveMethod, MethodFacts>> = {
  'running pre-copy': {
    words: 'memory copied while it runs',
    usual: 'link',
    passes: 1,
    skipsFree: false,
    of: 'running',
  },
  'shared storage switched over': {
    words: 'its disks stay, another host starts it',
    usual: 'link',
    passes: 1,
    skipsFree: false,
    of: 'stopped',
  },
  'block image': {
    words: 'block image over the network',
    usual: HABITUAL_RATE,
    passes: 1,
    skipsFree: false,
    of: 'stopped',
    ofComputers: 'both',
  },
  'intermediate disk': {
    words: 'image to an intermediate disk and back',
    usual: 100e6,
    passes: 2,
    skipsFree: false,
    of: 'stopped',
    ofComputers: 'both',
  },
  'live converter': {
    words: 'converter on the running source, last pass when it is stopped',
    usual: 20e6,
    passes: 1,
    skipsFree: true,
    of: 'either',
    ofComputers: 'source',
  },
  'files only': {
    words: 'files copied into a new system',
    usual: 20e6,
    passes: 1,
    skipsFree: true,
    of: 'either',
    ofComputers: 'both',
  },
  'appliance package': {
    words: 'packed with descriptor and manifest, unpacked there',
    usual: 50e6,
    passes: 2,
    skipsFree: true,
    of: 'stopped',
  },
};

/** Beside the copy, in minutes. Common practice, no source. */
export const FIXED_MINUTES = {
  environment: 5,
  firstStart: 5,
  firstStartOnOther: 10,
  bootRepair: 10,
  fixesInside: 10,
  checks: 15,
} as const;

export interface FixedTime {
  label: string;
  minutes: number;
}

/** What a move costs beside its copy. */
export function fixedTimes(kind: MoveKind, method: MoveMethod): FixedTime[] {
  if (method === 'running pre-copy' || kind === 'storage only') return [];
  const firstStart = { label: 'First start there', minutes: FIXED_MINUTES.firstStart };
  if (kind === 'between hosts') return [firstStart];
  const environment = isImaged(method)
    ? [{ label: 'Copying environment, two sides', minutes: 2 * FIXED_MINUTES.environment }]
    : [];
  const checks = { label: 'Checks by a person', minutes: FIXED_MINUTES.checks };
  if (kind === 'between platforms') return [...environment, firstStart, checks];
  return [
    ...environment,
    ...(kind === 'guest to physical' && isImaged(method)
      ? [{ label: 'Boot repair before the first start', minutes: FIXED_MINUTES.bootRepair }]
      : []),
    { label: 'First start on other hardware', minutes: FIXED_MINUTES.firstStartOnOther },
    { label: 'Fixes inside', minutes: FIXED_MINUTES.fixesInside },
    checks,
  ];
}

/** It copies blocks as they lie, from an environment that was started for it. */
export const isImaged = (method: MoveMethod): boolean =>
  method === 'block image' || method === 'intermediate disk';

/** The usual method of a move, where none was chosen. */
export const usualMethod = (running: boolean, movesStorage: boolean): MoveMethod =>
  running ? 'running pre-copy' : movesStorage ? 'block image' : 'shared storage switched over';
