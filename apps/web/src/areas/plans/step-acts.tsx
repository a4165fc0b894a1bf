/** What one does with a step: moves it, ticks it, drops it. */
import type { PlanStepView, PlanSheet } from '@insel/contract';
import { counted } from '@insel/core';
import { useState, type ReactNode } from 'react';
import { SeverityWord } from '../../components/mark.js';
import { ProblemNote } from '../../components/problem.js';
import { useChange } from '../../client/change.js';

/** How a step is dragged to another place, or stepped there by its handle and the arrows. */

export interface Dragging {
  over: 'above' | 'below' | null;
  take: () => void;
  pass: (below: boolean) => void;
  drop: () => void;
  end: () => void;
  step: (by: 1 | -1) => void;
}

export function Handle({ dragging, number }: { dragging: Dragging; number: number }) {
  return (
    <button
      type="button"
      draggable
      aria-label={`Move step ${number}`}
      title="Drag it, or press the arrow keys"
      className="min-h-6 cursor-grab px-1 text-faint"
      onDragStart={(event) => {
        event.dataTransfer.effectAllowed = 'move';
        // Without data some browsers drag nothing.
        event.dataTransfer.setData('text/plain', String(number));
        dragging.take();
      }}
      onDragEnd={dragging.end}
      onKeyDown={(event) => {
        const by = ({ ArrowUp: -1, ArrowDown: 1 } as const)[event.key];
        if (by === undefined) return;
        event.preventDefault();
        dragging.step(by);
      }}
    >
      ⠿
    </button>
  );
}

/** What was done by hand is ticked with what was found. */
export function Tick({ step, number }: { step: PlanStepView; number: number }) {
  const { make, anyway, problem } = useChange();
  const [found, setFound] = useState('');
  return (
    <form
      className="my-1 flex flex-wrap items-baseline gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void make('plan-step.tick', { id: step.id, found }, { seen: step });
      }}
    >
      <input
        aria-label={`What was found at step ${number}`}
        placeholder="what was found: values, serial numbers, what was different"
        className="w-[min(360px,100%)]"
        value={found}
        onChange={(event) => setFound(event.target.value)}
      />
      <button type="submit" className="act">
        Tick step {number} as done
      </button>
      <ProblemNote problem={problem} anyway={anyway} />
    </form>
  );
}

export const Act = ({ label, text, act }: { label: string; text: string; act: () => void }) => (
  <button type="button" className="act" aria-label={label} onClick={act}>
    {text}
  </button>
);

/** Findings of one step in a line; the whole of them stands below. */
export function Moved({
  appearing,
  vanishing,
}: Pick<PlanSheet, 'appearing' | 'vanishing'>): ReactNode {
  if (appearing.length + vanishing.length === 0) return null;
  return (
    <p className="text-[13px]">
      {appearing.slice(0, 2).map((finding) => (
        <span key={finding.id} className="mr-3">
          <SeverityWord severity={finding.severity} /> {finding.evidence}
        </span>
      ))}
      {appearing.length > 2 && <span className="mr-3">and {appearing.length - 2} more.</span>}
      {vanishing.length > 0 && (
        <span>{counted(vanishing.length, 'finding vanishes', 'findings vanish')}.</span>
      )}
    </p>
  );
}
