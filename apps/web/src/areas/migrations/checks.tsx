import type { Check, Estimate } from '@insel/core';
import { formatDuration } from '@insel/core';
import { Figure } from '../../ink/workings.js';

/** Checks before a move: each says what it looked at, a failed one what to do. */
export function Checks({ checks }: { checks: Check[] }) {
  return (
    <ul>
      {checks.map((check, i) => (
        <li
          key={i}
          className="grid grid-cols-[130px_1fr] gap-2 border-b border-rule py-0.5 text-[13px]"
        >
          <span
            className={
              check.passed ? '' : check.advice ? 'font-bold text-amber' : 'font-bold text-signal'
            }
          >
            {check.passed ? '✓' : check.advice ? '◆' : '■'} {check.name}
          </span>
          <span>
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
