/** Plans beside the open one: changes in pencil, what they come to, and carrying them out. */
import type { PlanRow, PlanSheet, PlanStepView } from '@insel/contract';
import { counted, type Finding } from '@insel/core';
import { useState, type ReactNode } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { Area } from '../../components/area.js';
import { asText, Editable } from '../../components/editable.js';
import { errorsOf, Field } from '../../components/field.js';
import { FindingLine, SeverityWord } from '../../components/mark.js';
import { ProblemNote } from '../../components/problem.js';
import { Part } from '../../components/sheet.js';
import { OneOf } from '../../components/small-edits.js';
import { capital, editing, useChange } from '../../frame/change.js';
import { hrefOf, useRead } from '../../frame/read.js';
import { useMayPlan } from '../../frame/session.js';
import { Compared } from './compared.js';

export function Plans() {
  const { id } = useParams();
  const plans = useRead('plans');
  const mayPlan = useMayPlan();
  return (
    <Area
      width={400}
      list={
        <div className="h-full overflow-y-auto px-4 py-3">
          <h1>Plans</h1>
          <p className="mb-2 text-faint">
            A plan is drawn in pencil over the record: open it, alter what you like in any view, and
            see what would be. Nothing is done before it is carried out.
          </p>
          <p className="mb-3">
            <Link className="act" to="/plans/moves">
              Find moves
            </Link>{' '}
            <span className="text-faint">that empty a host, free one, or even out</span>
            <br />
            <Link className="act" to="/plans/growth">
              When it runs out
            </Link>{' '}
            <span className="text-faint">by the history of the record, and what to buy</span>
          </p>
          {plans.error && <p className="text-signal">{plans.error.message}</p>}
          <PlanList plans={plans.data ?? []} openId={id ?? ''} />
          {mayPlan && <BeginPlan />}
        </div>
      }
      sheet={id ? <Open key={id} id={id} /> : null}
    />
  );
}

function PlanList({ plans, openId }: { plans: readonly PlanRow[]; openId: string }) {
  if (plans.length === 0) return <p className="text-faint">No plan is drawn yet.</p>;
  return (
    <table className="w-full text-left text-[13px]">
      <thead>
        <tr className="border-b border-ink text-xs">
          <th>Plan</th>
          <th>State</th>
          <th className="text-right">done</th>
        </tr>
      </thead>
      <tbody>
        {plans.map((plan) => (
          <tr
            key={plan.id}
            className={`h-8 border-b border-rule ${plan.id === openId ? 'bg-water' : ''}`}
          >
            <td>
              <Link className="font-bold" to={`/plans/${plan.id}`}>
                {plan.name}
              </Link>
            </td>
            <td>{plan.state}</td>
            <td className="mono text-right">
              {plan.done} of {plan.steps}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function BeginPlan() {
  const { make, problem } = useChange();
  const go = useNavigate();
  const [draft, setDraft] = useState({ name: '', purpose: '' });
  const error = errorsOf(problem);
  const begin = async () => {
    const written = await make('plan.record', draft);
    const made = written?.created.find(({ kind }) => kind === 'plan');
    if (made) void go(`/plans/${made.id}`);
  };
  return (
    <form
      className="mt-4 flex flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void begin();
      }}
    >
      <Field label="Name of a new plan" error={error.name}>
        <input
          value={draft.name}
          onChange={(event) => setDraft({ ...draft, name: event.target.value })}
        />
      </Field>
      <Field label="What for" error={error.purpose}>
        <input
          value={draft.purpose}
          onChange={(event) => setDraft({ ...draft, purpose: event.target.value })}
        />
      </Field>
      <button type="submit" className="act self-start">
        Begin a plan
      </button>
      <ProblemNote problem={problem} />
    </form>
  );
}

function Open({ id }: { id: string }) {
  const { data, error } = useRead('plan', { id }, { keep: true });
  if (error) return <p className="text-signal">{error.message}</p>;
  return data ? <Sheet sheet={data} /> : null;
}

function Sheet({ sheet }: { sheet: PlanSheet }) {
  const { plan, steps, appearing, vanishing } = sheet;
  const at = editing('plan.edit', plan);
  const { make, problem } = useChange();
  const mayPlan = useMayPlan();
  const go = useNavigate();
  return (
    <article aria-label={`Plan ${plan.name}`}>
      <div className="flex flex-wrap items-baseline gap-4 border-b border-rule pb-2">
        <h1>{plan.name}</h1>
        <OneOf
          at={at('state')}
          name="State"
          value={plan.state}
          choices={['drawn', 'carried out', 'given up']}
        />
        {plan.state === 'drawn' && (
          <Link className="act ml-auto" to={`/hosts?plan=${plan.id}`}>
            Draw in this plan
          </Link>
        )}
        <a
          className="act"
          href={hrefOf('planRunbook', { id: plan.id })}
          target="_blank"
          rel="noreferrer"
        >
          Page to carry along
        </a>
        {mayPlan && <CopyPlan plan={plan} />}
        {mayPlan && (
          <button
            type="button"
            className="act"
            onClick={() =>
              void make('plan.remove', { id: plan.id }, { seen: plan }).then(
                (written) => written && void go('/plans'),
              )
            }
          >
            Remove the plan
          </button>
        )}
      </div>
      <ProblemNote problem={problem} />
      <Part title="What for">
        <Editable
          name="What for"
          at={at('purpose')}
          value={plan.purpose}
          show={String}
          parse={asText}
        />
        <span className="ml-6 text-faint">drawn for </span>
        <Editable name="Owner" at={at('owner')} value={plan.owner} show={String} parse={asText} />
      </Part>
      <Part title="Steps">
        <Steps sheet={sheet} />
      </Part>
      <Part title="The record then">
        <Levels sheet={sheet} />
        {steps.length > 0 && appearing.length + vanishing.length === 0 && (
          <p className="text-faint">No finding appears, none vanishes.</p>
        )}
        {appearing.length > 0 && <Findings title="Findings that appear" findings={appearing} />}
        {vanishing.length > 0 && <Findings title="Findings that vanish" findings={vanishing} />}
      </Part>
      <Part title="Compared">
        <Compared planId={plan.id} />
      </Part>
    </article>
  );
}

/** The open steps once more, under another name: to try another way beside it. */
function CopyPlan({ plan }: { plan: PlanSheet['plan'] }) {
  const { make, problem } = useChange();
  const go = useNavigate();
  const [name, setName] = useState<string | null>(null);
  if (name === null)
    return (
      <button type="button" className="act" onClick={() => setName(`${plan.name}, another way`)}>
        Copy it
      </button>
    );
  const copy = async () => {
    const written = await make('plan.copy', { id: plan.id, name });
    const made = written?.created.find(({ kind }) => kind === 'plan');
    if (made) void go(`/plans/${made.id}`);
  };
  return (
    <form
      className="flex items-baseline gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void copy();
      }}
    >
      <input
        autoFocus
        aria-label="Name of the copy"
        value={name}
        onChange={(event) => setName(event.target.value)}
        onKeyDown={(event) => event.key === 'Escape' && setName(null)}
      />
      <button type="submit" className="act">
        Copy
      </button>
      <ProblemNote problem={problem} />
    </form>
  );
}

const Findings = ({ title, findings }: { title: string; findings: readonly Finding[] }) => (
  <section className="mt-2">
    <h3 className="font-bold">{title}</h3>
    {findings.map((finding) => (
      // What mends it would be done in the record: it is drawn in the plan instead.
      <FindingLine key={finding.id} brief finding={{ ...finding, mend: undefined }} />
    ))}
  </section>
);

/** The tightest places now and then; a line only where it moves. */
function Levels({ sheet: { before, after } }: { sheet: PlanSheet }) {
  const told = (level: PlanSheet['before'][number]) =>
    level.place && level.taken?.value !== undefined && level.taken.value !== null
      ? `${level.place.name} ${Math.round(level.taken.value)} %`
      : 'nothing yet';
  const moved = before.flatMap((level, i) => {
    const [was, is] = [told(level), told(after[i]!)];
    return was === is ? [] : [{ resource: level.resource, was, is }];
  });
  if (moved.length === 0)
    return <p className="text-faint">The tightest places stay as they are.</p>;
  return (
    <dl className="grid grid-cols-[110px_1fr] gap-x-3">
      {moved.map(({ resource, was, is }) => (
        <div key={resource} className="contents">
          <dt className="capitalize">{resource}</dt>
          <dd className="mono">
            {was} → <b className="text-pencil">{is}</b>
          </dd>
        </div>
      ))}
    </dl>
  );
}

function Steps({ sheet: { plan, steps } }: { sheet: PlanSheet }) {
  const { make, problem, busy } = useChange();
  const [stopped, setStopped] = useState('');
  const mayPlan = useMayPlan();
  const open = steps.filter(({ doneAt }) => doneAt === null);
  if (steps.length === 0)
    return (
      <p className="text-faint">
        No step yet. Draw in this plan: alter a host, plan a guest, move an address in any view, and
        each alteration becomes a step.
      </p>
    );
  const carryOutAll = async () => {
    setStopped('');
    for (const [i, step] of open.entries())
      if (!(await make('plan-step.carry-out', { id: step.id }, { seen: step, quiet: true })))
        return setStopped(`Stopped before step ${steps.indexOf(step) + 1}; ${i} carried out.`);
  };
  const move = (step: PlanStepView, by: 1 | -1) => {
    const order = [...open];
    const from = order.indexOf(step);
    order.splice(from, 1);
    order.splice(from + by, 0, step);
    void make('plan.order', { planId: plan.id, ids: order.map(({ id }) => id) }, { seen: order });
  };
  return (
    <>
      <ol>
        {steps.map((step, i) => (
          <Step
            key={step.id}
            step={step}
            number={i + 1}
            next={mayPlan && plan.state === 'drawn' && step.id === open[0]?.id}
            earlier={mayPlan && open.indexOf(step) > 0 ? () => move(step, -1) : undefined}
            later={
              mayPlan && step.doneAt === null && open.indexOf(step) < open.length - 1
                ? () => move(step, 1)
                : undefined
            }
          />
        ))}
      </ol>
      {mayPlan && plan.state === 'drawn' && open.length > 1 && (
        <button
          type="button"
          className="act mt-2"
          disabled={busy}
          onClick={() => void carryOutAll()}
        >
          Carry out all {open.length}, one after another
        </button>
      )}
      {stopped && <p className="text-amber">{stopped}</p>}
      <ProblemNote problem={problem} />
    </>
  );
}

function Step({
  step,
  number,
  next,
  earlier,
  later,
}: {
  step: PlanStepView;
  number: number;
  next: boolean;
  earlier?: () => void;
  later?: () => void;
}) {
  const { make, anyway, problem } = useChange();
  const mayPlan = useMayPlan();
  const at = editing('plan-step.edit', step);
  const { outcome } = step;
  return (
    <li className="border-b border-rule py-1">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <span className="mono text-faint">{number}</span>
        <b className={outcome?.refusal ? 'line-through' : outcome ? 'text-pencil' : ''}>
          {outcome?.title ? capital(outcome.title) : step.change}
        </b>
        {step.doneAt && (
          <span className="text-[13px] text-faint">
            carried out {step.doneAt.slice(0, 16).replace('T', ' ')}
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
          {next && (
            <Act
              label={`Carry out step ${number}`}
              text="Carry out"
              act={() => void make('plan-step.carry-out', { id: step.id }, { seen: step })}
            />
          )}
        </span>
      </div>
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

const Act = ({ label, text, act }: { label: string; text: string; act: () => void }) => (
  <button type="button" className="act" aria-label={label} onClick={act}>
    {text}
  </button>
);

/** Findings of one step in a line; the whole of them stands below. */
function Moved({ appearing, vanishing }: Pick<PlanSheet, 'appearing' | 'vanishing'>): ReactNode {
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
