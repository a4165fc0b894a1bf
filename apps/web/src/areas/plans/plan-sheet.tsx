/** One plan: what it is for, its steps with their effect, where it stands. */
import type { PlanSheet } from '@insel/contract';
import { counted, type Finding } from '@insel/core';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { Editable, asText } from '../../components/editable.js';
import { FindingLine } from '../../components/finding-line.js';
import { Pause } from '../../components/pause.js';
import { ProblemNote } from '../../components/problem.js';
import { SheetActions } from '../../components/sheet-actions.js';
import { Part } from '../../components/sheet.js';
import { OneOf, YesNo } from '../../components/small-edits.js';
import { editing, useChange } from '../../client/change.js';
import { hrefOf, useRead } from '../../client/read.js';
import { useMayPlan } from '../../client/session.js';
import { Compared } from './compared.js';
import { Steps } from './steps.js';

export function Sheet({ sheet }: { sheet: PlanSheet }) {
  const { plan, steps, appearing, vanishing } = sheet;
  const at = editing('plan.edit', plan);
  const { make, problem } = useChange();
  const mayPlan = useMayPlan();
  const go = useNavigate();
  const [copying, setCopying] = useState(false);
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
        <SheetActions
          first={
            plan.state === 'drawn'
              ? { label: 'Draw in this plan', to: `/hosts?plan=${plan.id}` }
              : null
          }
          rest={[
            {
              label: 'Page to carry along',
              href: hrefOf('planRunbook', { id: plan.id }),
              effect: 'all steps with boxes to tick, as one page that works without a network',
            },
            steps.some(({ type, doneAt }) => type === 'migration.plan' && doneAt === null) && {
              label: 'Times for its moves',
              to: `/migrations/timetable?plan=${plan.id}&find=yes`,
              effect:
                'an order within their windows, and one move at a time where room asks for it',
            },
            mayPlan && { label: 'Copy it', act: () => setCopying(true) },
            mayPlan && {
              label: 'Remove the plan',
              act: () =>
                void make('plan.remove', { id: plan.id }, { seen: plan }).then(
                  (written) => written && void go('/plans'),
                ),
            },
          ]}
        />
      </div>
      {copying && <CopyPlan plan={plan} close={() => setCopying(false)} />}
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
      {plan.state === 'drawn' && <Standing sheet={sheet} />}
      <Part title="Steps">
        <Steps sheet={sheet} />
      </Part>
      <Part title="The record then">
        <Levels sheet={sheet} />
        {steps.length > 0 && appearing.length + vanishing.length === 0 && (
          <p className="text-faint">No finding appears, none vanishes.</p>
        )}
        {!sheet.wholeFleet && steps.length > 0 && (
          <p className="text-faint">
            In a record this large, rules that look at the whole fleet are asked when it is carried
            out.
          </p>
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

/** What it stands on, and who has to agree. */
function Standing({ sheet: { plan, steps, standsOn } }: { sheet: PlanSheet }) {
  const { make, anyway, problem } = useChange();
  const at = editing('plan.edit', plan);
  const mayPlan = useMayPlan();
  const plans = useRead('plans');
  const open = steps.flatMap(({ outcome }) => outcome ?? []);
  const missing = open.filter(({ approval }) => approval !== 'approved').length;
  const lapsed = open.some(({ approval }) => approval === 'no longer');
  return (
    <Part title="Before it is carried out">
      <Pause kept="plan" row={plan} />
      <p>
        <span className="text-faint">stands on </span>
        <OneOf
          at={at('onPlanId')}
          name="Stands on"
          value={plan.onPlanId}
          choices={[
            { value: '', label: 'the record as it is' },
            ...(plans.data ?? [])
              .filter(({ id, state }) => id !== plan.id && state === 'drawn')
              .map(({ id, name }) => ({ value: id, label: `the plan ${name}` })),
          ]}
        />
        {standsOn && standsOn.open > 0 && (
          <span className="ml-2 text-amber">
            ◆ {counted(standsOn.open, 'step')} of it still to be done
          </span>
        )}
        <span className="ml-6 text-faint">approval </span>
        <YesNo
          at={at('needsApproval')}
          name="Approval"
          value={plan.needsApproval}
          yes="by somebody who did not draw it"
          no="not needed"
        />
      </p>
      {plan.needsApproval && open.length > 0 && (
        <p>
          {missing === 0 ? (
            <>
              Approved by <b>{plan.approvedBy}</b> on {plan.approvedAt?.slice(0, 10)}.
            </>
          ) : (
            <>
              <b className="text-amber">◆ {counted(missing, 'step')} not approved.</b>{' '}
              {lapsed &&
                `Since ${plan.approvedBy} approved it, a step or what it alters has become another. `}
              {mayPlan && (
                <button
                  type="button"
                  className="act"
                  onClick={() => void make('plan.approve', { id: plan.id }, { seen: plan })}
                >
                  Approve it as it is now
                </button>
              )}
            </>
          )}
        </p>
      )}
      <ProblemNote problem={problem} anyway={anyway} />
    </Part>
  );
}

/** The open steps once more, under another name: to try another way beside it. */
function CopyPlan({ plan, close }: { plan: PlanSheet['plan']; close: () => void }) {
  const { make, problem } = useChange();
  const go = useNavigate();
  const [name, setName] = useState(`${plan.name}, another way`);
  const copy = async () => {
    const written = await make('plan.copy', { id: plan.id, name });
    const made = written?.created.find(({ kind }) => kind === 'plan');
    if (!made) return;
    close();
    void go(`/plans/${made.id}`);
  };
  return (
    <form
      className="mt-2 flex items-baseline gap-2"
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
        onKeyDown={(event) => event.key === 'Escape' && close()}
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
  const words = (level: PlanSheet['before'][number]) =>
    level.place && level.taken?.value !== undefined && level.taken.value !== null
      ? `${level.place.name} ${Math.round(level.taken.value)} %`
      : 'nothing yet';
  const moved = before.flatMap((level, i) => {
    const [was, is] = [words(level), words(after[i]!)];
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
