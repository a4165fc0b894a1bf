/** A step of a plan: what it comes to, its place, its tick. */
import type { PlanSheet, PlanStepView } from '@insel/contract';
import { useState } from 'react';
import { asText, Editable } from '../../components/editable.js';
import { ProblemNote } from '../../components/problem.js';
import { YesNo } from '../../components/small-edits.js';
import { capital, editing, useChange } from '../../client/change.js';
import { useMayPlan } from '../../client/session.js';
import { minuteOf } from '../../components/minute.js';
import { Split } from './split-plan.js';
import { Handle, Act, Tick, Moved, type Dragging } from './step-acts.js';

export function Step({
  plan,
  step,
  number,
  dragging,
  next,
  rest,
  earlier,
  later,
}: {
  plan: PlanSheet['plan'];
  step: PlanStepView;
  number: number;
  dragging?: Dragging;
  next: boolean;
  /** This one and those behind it, where others stand before it. */
  rest?: string[];
  earlier?: () => void;
  later?: () => void;
}) {
  const { make, anyway, problem } = useChange();
  const mayPlan = useMayPlan();
  const at = editing('plan-step.edit', step);
  const { outcome } = step;
  const [splitting, setSplitting] = useState(false);
  return (
    <li
      className={`border-b border-rule py-1 ${dragging?.over === 'above' ? 'shadow-[0_-2px_0_0_var(--color-pencil)]' : ''} ${dragging?.over === 'below' ? 'shadow-[0_2px_0_0_var(--color-pencil)]' : ''}`}
      onDragOver={
        dragging &&
        ((event) => {
          event.preventDefault();
          const { top, height } = event.currentTarget.getBoundingClientRect();
          dragging.pass(event.clientY > top + height / 2);
        })
      }
      onDrop={
        dragging &&
        ((event) => {
          event.preventDefault();
          dragging.drop();
        })
      }
    >
      <div className="flex flex-wrap items-baseline gap-x-3">
        {dragging && <Handle dragging={dragging} number={number} />}
        <span className="mono text-faint">{number}</span>
        <b className={outcome?.refusal ? 'line-through' : outcome ? 'text-pencil' : ''}>
          {outcome?.title ? capital(outcome.title) : step.change}
        </b>
        {step.doneAt && (
          <span className="text-[13px] text-faint">
            {step.byHand ? 'done by hand' : 'carried out'} {minuteOf(step.doneAt)}
            {step.doneBy && ` by ${step.doneBy}`}
            {step.found && `; found: ${step.found}`}
          </span>
        )}
        <span className="ml-auto flex gap-3 text-[13px]">
          {earlier && <Act label={`Step ${number} earlier`} act={earlier} text="Earlier" />}
          {later && <Act label={`Step ${number} later`} act={later} text="Later" />}
          {mayPlan && step.doneAt === null && (
            <Act
              label={`Drop step ${number}`}
              text="Drop"
              act={() => void make('plan-step.remove', { id: step.id }, { seen: step })}
            />
          )}
          {rest && (
            <Act
              label={`Split from step ${number} on`}
              text="Split here"
              act={() => setSplitting(true)}
            />
          )}
          {next && !step.byHand && (
            <Act
              label={`Carry out step ${number}`}
              text="Carry out"
              act={() => void make('plan-step.carry-out', { id: step.id }, { seen: step })}
            />
          )}
        </span>
      </div>
      {splitting && rest && <Split plan={plan} ids={rest} close={() => setSplitting(false)} />}
      {next && step.byHand && <Tick step={step} number={number} />}
      {outcome?.overtaken.map(({ name, field, was, is }) => (
        <p key={`${name} ${field}`}>
          <b className="text-amber">◆ Overtaken.</b> {capital(field)}
          {name && ` of ${name}`} was {was} when it was drawn, and is {is} now.{' '}
          {mayPlan && (
            <Act
              label={`Keep step ${number} as it is now`}
              text="Keep it as it is now"
              act={() => void make('plan-step.keep', { id: step.id }, { seen: step })}
            />
          )}
        </p>
      ))}
      {outcome?.approval === 'no longer' && (
        <p>
          <b className="text-amber">◆ No longer what was approved.</b>
        </p>
      )}
      {outcome?.refusal && (
        <p>
          <b className="text-signal">■ Can no longer be done.</b> {outcome.refusal.sentence}{' '}
          <span className="text-faint">{outcome.refusal.remedy}</span>
        </p>
      )}
      {outcome?.objections.map((sentence) => (
        <p key={sentence}>
          <b className="text-amber">◆ Meets an objection.</b> {sentence}
        </p>
      ))}
      {outcome?.difference && <p className="text-[13px] text-pencil">{outcome.difference}</p>}
      {outcome && <Moved appearing={outcome.appearing} vanishing={outcome.vanishing} />}
      <div className="flex flex-wrap gap-x-4 text-[13px] text-faint">
        <span>
          drawn {step.drawnAt.slice(0, 10)} by {step.drawnBy}
        </span>
        <span>
          day{' '}
          <Editable
            name={`Day of step ${number}`}
            at={at('day')}
            value={step.day}
            show={(day) => day ?? 'open'}
            write={(day) => day ?? ''}
            parse={(text) => ({ ok: true, value: text.trim() || null })}
            mono
          />
        </span>
        <span>
          by{' '}
          <Editable
            name={`Who does step ${number}`}
            at={at('person')}
            value={step.person}
            show={(person) => person || 'anybody'}
            write={String}
            parse={asText}
          />
        </span>
        {step.doneAt === null && (
          <span>
            <YesNo
              at={at('byHand')}
              name={`How step ${number} is done`}
              value={step.byHand}
              yes="done by hand, then ticked"
              no="done here"
            />
          </span>
        )}
        <span>
          remark{' '}
          <Editable
            name={`Remark on step ${number}`}
            at={at('remark')}
            value={step.remark}
            show={String}
            parse={asText}
          />
        </span>
      </div>
      <ProblemNote problem={problem} anyway={anyway} />
    </li>
  );
}
