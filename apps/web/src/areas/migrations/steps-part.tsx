/**
 * Steps of a move in blocks, as rows to tick: at which console, by whom, when, what was noted. Several people see each
 * other's ticks. A block is ticked at once; what takes the move on is ticked by itself.
 */
import type { MigrationSheet } from '@insel/contract';
import { MOVE_PHASES } from '@insel/core';
import { useState } from 'react';
import { ProblemNote } from '../../components/problem.js';
import { Part } from '../../components/sheet.js';
import { useChange } from '../../client/change.js';
import { useMayPlan } from '../../client/session.js';
import { minuteOf } from '../../components/minute.js';
import { StepQuestions, type Step, type Extra } from './step-questions.js';

const BLOCKS: Record<Step['phase'], string> = {
  before: 'Before',
  copy: 'Copy',
  switch: 'Switch over',
  after: 'After',
};

export function StepsPart({ sheet }: { sheet: MigrationSheet }) {
  const { steps, migration } = sheet;
  const mayPlan = useMayPlan();
  const { make, anyway, busy, problem } = useChange();
  const over = migration.state === 'accepted' || migration.state === 'rolled back';
  const may = mayPlan && !over;
  const tick = (some: readonly Step[], state: Step['state'], extra: Extra = {}) =>
    make('migration.tick', { stepIds: some.map(({ id }) => id), state, ...extra });
  if (steps.length === 0) return null;
  return (
    <Part title="Steps">
      {MOVE_PHASES.map((phase) => {
        const rows = steps.filter((step) => step.phase === phase);
        if (rows.length === 0) return null;
        const plain = rows.filter(
          ({ state, becomes, destroys }) =>
            state === 'open' && becomes === 'none' && destroys === '',
        );
        return (
          <section key={phase} aria-label={BLOCKS[phase]} className="mb-2">
            <h3 className="flex items-baseline gap-4 text-[13px] font-bold">
              {BLOCKS[phase]}
              {may && plain.length > 1 && (
                <button
                  type="button"
                  className="act font-normal"
                  disabled={busy}
                  onClick={() => void tick(plain, 'done')}
                >
                  Tick these {plain.length}
                </button>
              )}
            </h3>
            <ol>
              {rows.map((step) => (
                <StepRow
                  key={step.id}
                  step={step}
                  sheet={sheet}
                  may={may}
                  busy={busy}
                  tick={tick}
                />
              ))}
            </ol>
          </section>
        );
      })}
      <ProblemNote problem={problem} anyway={anyway} />
    </Part>
  );
}

const MARK: Record<Step['state'], string> = { open: '□', done: '✓', failed: '■', skipped: '–' };

function StepRow({
  step,
  sheet,
  may,
  busy,
  tick,
}: {
  step: Step;
  sheet: MigrationSheet;
  may: boolean;
  busy: boolean;
  tick: (some: readonly Step[], state: Step['state'], extra?: Extra) => Promise<unknown>;
}) {
  const [asking, setAsking] = useState<'done' | 'failed' | 'skipped' | null>(null);
  const where = {
    source: `at ${sheet.source.name}`,
    target: `at ${sheet.target.name}`,
    both: 'at both',
    elsewhere: '',
  }[step.console];
  const wants = step.becomes === 'switched' || step.becomes === 'accepted' || step.destroys !== '';
  return (
    <li className="border-b border-rule py-1">
      <div className="grid grid-cols-[16px_1fr] gap-x-2 md:grid-cols-[16px_84px_1fr]">
        <span
          aria-hidden
          className={
            step.state === 'failed'
              ? 'font-bold text-signal'
              : step.state === 'done'
                ? 'text-teal'
                : ''
          }
        >
          {MARK[step.state]}
        </span>
        <span className="text-[13px] text-faint">{where}</span>
        <div className="col-start-2 min-w-0 md:col-start-3">
          <span className={step.state === 'open' ? '' : 'text-faint'}>{step.title}</span>{' '}
          {step.state !== 'open' && (
            <span className="text-xs text-faint">
              {step.state}, {step.at && minuteOf(step.at)}, {step.by}
              {step.remark && `: ${step.remark}`}
            </span>
          )}
          {step.detail && step.state === 'open' && (
            <p className="mono text-[12px] whitespace-pre-wrap text-faint">{step.detail}</p>
          )}
          {may && (
            <p className="flex flex-wrap gap-x-4 text-[13px]">
              {step.state === 'open' || step.state === 'failed' ? (
                <>
                  <button
                    type="button"
                    className="act"
                    disabled={busy}
                    onClick={() => (wants ? setAsking('done') : void tick([step], 'done'))}
                  >
                    {wants ? 'Done …' : 'Done'}
                  </button>
                  <button
                    type="button"
                    className="act font-normal"
                    onClick={() => setAsking('failed')}
                  >
                    Failed …
                  </button>
                  {step.becomes === 'none' && (
                    <button
                      type="button"
                      className="act font-normal"
                      onClick={() => setAsking('skipped')}
                    >
                      Skip …
                    </button>
                  )}
                </>
              ) : (
                step.becomes === 'none' && (
                  <button
                    type="button"
                    className="act font-normal"
                    onClick={() => void tick([step], 'open')}
                  >
                    Open again
                  </button>
                )
              )}
            </p>
          )}
          {asking && (
            <StepQuestions
              step={step}
              state={asking}
              sheet={sheet}
              close={() => setAsking(null)}
              tick={(extra) => tick([step], asking, extra)}
            />
          )}
        </div>
      </div>
    </li>
  );
}
