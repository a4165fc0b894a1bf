import type { Check, Estimate } from '@insel/core';
import { counted, formatDuration } from '@insel/core';
import { Figure } from '../../components/workings.js';

const LOOK = {
  passed: { mark: '✓', style: '' },
  unknown: { mark: '?', style: 'font-bold text-amber' },
  caution: { mark: '◆', style: 'font-bold text-amber' },
  failed: { mark: '■', style: 'font-bold text-signal' },
};
const lookOf = ({ passed, advice }: Check): keyof typeof LOOK =>
  passed === null ? 'unknown' : passed ? 'passed' : advice ? 'caution' : 'failed';

/** Checks before a move: what fails stands in full, what needs a person next, what the record knows is folded. */
export function Checks({ checks }: { checks: Check[] }) {
  const by = (look: keyof typeof LOOK) => checks.filter((check) => lookOf(check) === look);
  const good = by('passed');
  const rest = [...by('failed'), ...by('caution'), ...by('unknown')];
  return (
    <>
      <CheckList checks={rest} />
      {good.length > 0 && (
        <details className="text-[13px]">
          <summary className="min-h-6 cursor-pointer">
            ✓ {good.length} good, as the record knows
          </summary>
          <CheckList checks={good} />
        </details>
      )}
    </>
  );
}

function CheckList({ checks }: { checks: Check[] }) {
  return (
    <ul>
      {checks.map((check, i) => (
        <li
          key={i}
          className="grid grid-cols-[130px_1fr] gap-2 border-b border-rule py-0.5 text-[13px]"
        >
          <span className={LOOK[lookOf(check)].style}>
            {LOOK[lookOf(check)].mark} {check.name}
          </span>
          <span>
            {check.passed === null && <b>Nobody knows. </b>}
            {check.sentence} {!check.passed && <span className="text-faint">{check.remedy}</span>}{' '}
            {check.figure && <Figure figure={check.figure} rounding="down" />}
          </span>
        </li>
      ))}
    </ul>
  );
}

const PRECOPY = {
  easy: 'it converges easily',
  slow: 'it converges slowly',
  never:
    'it will not converge, because it writes faster than is copied: it stands still for all of it',
};

/** The two answers: what no tool can beat, and what is expected, with its spread. */
export function EstimateLines({ estimate }: { estimate: Estimate }) {
  return (
    <div>
      <p>
        Copy at least <Figure figure={estimate.best} />, expected{' '}
        <Figure figure={estimate.expected} />
        {estimate.low !== null && estimate.high !== null && estimate.high > 0 && (
          <span className="text-faint">
            {' '}
            ({formatDuration(estimate.low)} to {formatDuration(estimate.high)}, by {estimate.basis})
          </span>
        )}
      </p>
      {estimate.total.value !== estimate.expected.value && (
        <p>
          In all <Figure figure={estimate.total} rounding="up" />{' '}
          <span className="text-faint">
            ({formatDuration(estimate.totalRange[0])} to {formatDuration(estimate.totalRange[1])})
          </span>
        </p>
      )}
      {estimate.precopy && (
        <p className={estimate.precopy.verdict === 'never' ? 'font-bold text-signal' : ''}>
          {estimate.precopy.verdict === 'never' ? '■ ' : ''}
          {counted(estimate.precopy.rounds, 'round')}, then it stands still for{' '}
          {estimate.precopy.downtimeSeconds.toFixed(1)} s: {PRECOPY[estimate.precopy.verdict]}
        </p>
      )}
    </div>
  );
}
