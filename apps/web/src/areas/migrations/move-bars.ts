/** A planned bar of the timetable that is being moved. */
import type { TimetableView } from '@insel/contract';
import { useEffect, useEffectEvent, useState } from 'react';
import { useChange } from '../../client/change.js';

export type Bar = TimetableView['bars'][number];

export interface Moving {
  move: (bar: Bar, by: number) => void;
  /** While a bar is held nothing is recorded. */
  hold: (held: boolean) => void;
}

/** So long after the last key, or after a bar is let go, what it comes to is recorded, as one change. */
const SETTLED_MS = 500;

/** A planned bar that is being moved: shown where it goes at once, recorded when keys and pointer rest. */
export function useShift(found: TimetableView | undefined) {
  const { make, problem, anyway } = useChange();
  const [shift, setShift] = useState<{ id: string; by: number } | null>(null);
  const [held, hold] = useState(false);
  const [recording, setRecording] = useState(false);
  const bars = found?.bars ?? [];
  const later = (time: string | null, by: number) =>
    time && new Date(Date.parse(time) + by).toISOString();
  const send = useEffectEvent(async () => {
    const bar = bars.find(({ id }) => id === shift?.id);
    if (!shift || !bar || !found) return;
    // There and back again is no move.
    if (shift.by === 0) return setShift(null);
    setRecording(true);
    const written = await make(
      'migration.edit',
      {
        id: bar.id,
        windowFrom: later(bar.windowFrom, shift.by),
        windowUntil: later(bar.windowUntil, shift.by),
      },
      { seen: { id: bar.id, revision: found.revisions[bar.id]! }, quiet: true },
    );
    setRecording(false);
    // What it was moved meanwhile is recorded next.
    setShift((now) =>
      !written || !now || now === shift ? null : { ...now, by: now.by - shift.by },
    );
  });
  useEffect(() => {
    if (!shift || held || recording) return;
    const timer = setTimeout(() => void send(), SETTLED_MS);
    return () => clearTimeout(timer);
  }, [shift, held, recording]);
  const move = (bar: Bar, by: number) => {
    if (bar.state !== 'planned' || !bar.windowFrom || (shift && shift.id !== bar.id)) return;
    setShift({ id: bar.id, by: (shift?.by ?? 0) + by });
  };
  const shifted = bars.map((bar) =>
    bar.id !== shift?.id
      ? bar
      : {
          ...bar,
          from: later(bar.from, shift.by)!,
          to: later(bar.to, shift.by)!,
          windowFrom: later(bar.windowFrom, shift.by),
          windowUntil: later(bar.windowUntil, shift.by),
          decideBy: later(bar.decideBy, shift.by),
        },
  );
  return { shifted, move, hold, problem, anyway };
}
