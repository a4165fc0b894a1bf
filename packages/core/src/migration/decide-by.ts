/** Until when a move can still be taken back inside its window: after that it goes on or overruns. */
import { practice, own, type Figure } from '../figure/index.js';
import type { Fleet, Row } from '../record/index.js';
import type { MoveKind } from './method.js';
import { kindOfMove } from './route.js';

/** Minutes of the way back: start the source again and look, or its reverse between platforms. Common practice, no source. */
const WAY_BACK_MINUTES = {
  'between hosts': 10,
  'between platforms': 20,
  'storage only': 10,
  'physical to guest': 20,
  'guest to physical': 20,
} as const;
const CHECKS_MINUTES = 15;
const MARGIN_MINUTES = 30;

export interface DecideBy {
  /** UTC. */
  at: string;
  /** Minutes before the end of the window. */
  figure: Figure & { value: number };
}

/** Null without a window. @see 8-moving: window end − way back − its checks − 30 min */
export function decideBy(fleet: Fleet, migration: Row<'migration'>): DecideBy | null {
  if (migration.windowUntil === null) return null;
  const wayBack = WAY_BACK_MINUTES[kindOfMove(fleet, migration)];
  const minutes = wayBack + CHECKS_MINUTES + MARGIN_MINUTES;
  const line = (label: string, value: number, operator: '·' | '+' | '=') => ({
    label,
    value: value * 60,
    unit: 'seconds' as const,
    operator,
  });
  return {
    at: new Date(Date.parse(migration.windowUntil) - minutes * 60_000).toISOString(),
    figure: {
      name: 'decide-by',
      title: 'Before the end of the window',
      value: minutes * 60,
      unit: 'seconds',
      lines: [
        line('Way back', wayBack, '·'),
        line('Its checks', CHECKS_MINUTES, '+'),
        line('Margin', MARGIN_MINUTES, '+'),
        line('Decide so long before the end', minutes, '='),
      ],
      sources: [
        practice('Go back at the latest when way back, its checks and half an hour still fit'),
        own('Minutes of the way back by kind of move'),
      ],
    },
  };
}

/** Days that the disks of the source are kept after acceptance, by kind. Common practice, no source. */
export function holdDays(fleet: Fleet, migration: Row<'migration'>): number {
  return HOLD_DAYS[kindOfMove(fleet, migration)] ?? (migration.running ? 1 : 7);
}

const HOLD_DAYS: Partial<Record<MoveKind, number>> = {
  'between platforms': 14,
  'physical to guest': 35,
  'guest to physical': 35,
};
