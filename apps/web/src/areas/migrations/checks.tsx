import type { Check, Estimate } from '@insel/core';
import { formatDuration } from '@insel/core';
import { Figure } from '../../components/workings.js';

const LOOK = {
  passed: { mark: '✓', style: '' },
  unknown: { mark: '?', style: 'font-bold text-amber' },
  caution: { mark: '◆', style: 'font-bold text-amber' },
  failed: { mark: '■', style: 'font-bold text-signal' },
};
const lookOf = ({ passed, advice }: Check): keyof typeof LOOK =>
  passed === null ? 'unknown' : passed ? 'passed' : advice ? 'caution' : 'failed';

/** Checks before a move: each says what it looked at, a failed one what to do. */
export function Checks({ checks }: { checks: Check[] }) {
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

/** The two answers: what no tool can beat, and what is expected, with its spread. */
export function EstimateLines({ estimate }: { estimate: Estimate }) {
  return (
    <p>
      At least <Figure figure={estimate.best} />, expected <Figure figure={estimate.expected} />
      {estimate.low !== null && estimate.high !== null && estimate.high > 0 && (
        <span className="text-faint">
          {' '}
          ({formatDuration(estimate.low)} to {formatDuration(estimate.high)}, by {estimate.basis})
        </span>
      )}
    </p>
  );
}
