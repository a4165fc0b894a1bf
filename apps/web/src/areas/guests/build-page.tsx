/** The build sheet of a guest on screen and on paper: every value to type, steps ticked with their times, first checks. */
import type { GuestBuildView, TickView } from '@insel/contract';
import type { BuildStep } from '@insel/core';
import { useEffect, useState } from 'react';
import { Link, useParams } from 'react-router';
import { useMayPlan } from '../../client/session.js';
import { useChange } from '../../client/change.js';
import { BuildSection, Undecided } from '../../components/build-sections.js';
import { PrintedDifferences } from '../../components/differences.js';
import { ProblemNote } from '../../components/problem.js';
import { Progress } from '../../components/progress.js';
import { useRead, hrefOf } from '../../client/read.js';
import { minuteOf } from '../../components/minute.js';

const WAYS: Record<GuestBuildView['way'], string> = {
  'full medium': 'installed from a full medium',
  'network install': 'installed over the network',
  copy: 'a copy of another guest',
  'no medium': 'no medium chosen yet',
};

export function GuestBuildPage() {
  const { id = '' } = useParams();
  const mayPlan = useMayPlan();
  const { make, anyway, problem } = useChange();
  const build = useRead('guestBuild', { id });
  const sheet = useRead('guest', { id }).data;
  if (build.error) return <p className="p-6 text-signal">{build.error.message}</p>;
  if (!build.data || !sheet) return null;
  const { guest, host, platform, way, sections, undecided, ticks, done, total } = build.data;
  const follows = sheet.states
    .map(({ state }) => state)
    .filter((state) => state === 'building' || state === 'in service');
  return (
    <div className="h-full overflow-y-auto px-6 py-4 print:overflow-visible print:p-0">
      <div className="mx-auto max-w-[900px]">
        <div className="flex flex-wrap items-baseline gap-x-4">
          <h1>Build sheet of {guest}</h1>
          <span className="text-faint">
            on {host}, {platform}; {WAYS[way]}
          </span>
          <span className="no-print ml-auto flex gap-4">
            <button type="button" className="act" onClick={() => window.print()}>
              Print
            </button>
            <a
              className="act"
              href={hrefOf('guestBuildPage', { id })}
              download={`build-${guest}.html`}
            >
              Save as one page
            </a>
            <Link className="act" to={`/guests/${id}`}>
              Back to {guest}
            </Link>
          </span>
        </div>
        <p className="no-print my-1 flex items-center gap-3">
          <Progress label="Steps ticked" max={total} value={done} />{' '}
          <b className="mono">
            {done} of {total}
          </b>{' '}
          steps ticked
          {mayPlan &&
            follows.map((state) => (
              <button
                key={state}
                type="button"
                className="act"
                onClick={() => void make('guest.set-state', { id, state }, { seen: sheet.guest })}
              >
                Set to {state}
              </button>
            ))}
          <span className="text-faint">it is {sheet.guest.state}</span>
        </p>
        <ProblemNote problem={problem} anyway={anyway} />
        <Undecided what={undecided} />
        {sections.map((section) => (
          <BuildSection key={section.title} title={section.title}>
            {section.steps.map((step) => (
              <Step key={step.key} guestId={id} step={step} tick={ticks[step.key]} />
            ))}
          </BuildSection>
        ))}
        <PrintedDifferences />
      </div>
    </div>
  );
}

function Step({
  guestId,
  step,
  tick,
}: {
  guestId: string;
  step: BuildStep;
  tick: TickView | undefined;
}) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const [remark, setRemark] = useState('');
  const [failing, setFailing] = useState(false);
  /** What was just ticked, shown until the record has it. */
  const [pencil, setPencil] = useState<boolean | null>(null);
  useEffect(() => setPencil(null), [tick]);
  const set = async (outcome: TickView['outcome'] | null, words = '') => {
    if (
      await make('guest.tick', { guestId, step: step.key, outcome, remark: words }, { quiet: true })
    )
      setFailing(false);
    else setPencil(null);
  };
  const failed = tick?.outcome === 'failed';
  return (
    <li
      className={`grid break-inside-avoid grid-cols-[24px_1fr] min-[520px]:grid-cols-[24px_300px_1fr_90px] items-baseline gap-x-2 border-b border-rule py-0.5 ${tick && !failed ? 'text-faint' : ''}`}
    >
      {mayPlan ? (
        <input
          type="checkbox"
          className="h-4 w-4"
          aria-label={`${step.text}: done`}
          checked={pencil ?? (Boolean(tick) && !failed)}
          onChange={(event) => {
            setPencil(event.target.checked);
            void set(event.target.checked ? 'done' : null);
          }}
        />
      ) : (
        <span>{tick ? '✓' : ''}</span>
      )}
      <span>{step.text}</span>
      {step.value === null ? (
        <span className="col-start-2 border-b border-dotted border-ink text-faint min-[520px]:col-start-auto print:text-transparent">
          not decided
        </span>
      ) : (
        <span className="mono col-start-2 [overflow-wrap:anywhere] min-[520px]:col-start-auto">
          {step.value}
        </span>
      )}
      <span className="no-print col-start-2 min-[520px]:col-start-auto min-[520px]:text-right">
        {mayPlan && !tick && !step.check && (
          <button
            type="button"
            className="act text-[12px]"
            aria-label={`${step.text}: not needed`}
            onClick={() => void set('not needed')}
          >
            Not needed
          </button>
        )}
        {mayPlan && step.check && !failing && !failed && (
          <button
            type="button"
            className="act text-[12px]"
            aria-label={`${step.text}: failed`}
            onClick={() => setFailing(true)}
          >
            It failed
          </button>
        )}
      </span>
      {step.caution && (
        <span className="col-start-2 text-[13px] text-ink min-[520px]:col-span-3">
          <b className="text-amber">◆ Caution.</b> {step.caution}
        </span>
      )}
      <span className="no-print col-start-2 flex min-[520px]:col-span-3 flex-wrap items-baseline gap-x-3 text-[13px]">
        {tick && (
          <span className={failed ? 'font-bold text-signal' : 'text-faint'}>
            {failed && '■ '}
            {tick.outcome} {minuteOf(tick.at)} UTC, {tick.by}
            {tick.remark && `: ${tick.remark}`}
          </span>
        )}
        {mayPlan && failed && (
          <button
            type="button"
            className="act text-[12px]"
            onClick={() => void set('done', 'on the second try')}
          >
            It works now
          </button>
        )}
        {failing && (
          <>
            <input
              autoFocus
              aria-label="What it said"
              placeholder="what it said"
              value={remark}
              onChange={(event) => setRemark(event.target.value)}
            />
            <button
              type="button"
              className="act text-[12px]"
              onClick={() => void set('failed', remark)}
            >
              Keep
            </button>
            <button type="button" className="act text-[12px]" onClick={() => setFailing(false)}>
              Drop
            </button>
          </>
        )}
        <ProblemNote problem={problem} />
      </span>
    </li>
  );
}
