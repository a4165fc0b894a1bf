/** When something runs out, with its range; or why no day is named. */
import type { Runway } from '@insel/core';
import { Figure } from './workings.js';

export function Until({
  runway,
  reached,
  none = 'no samples',
}: {
  runway: Runway | null;
  reached: string;
  none?: string;
}) {
  if (!runway) return <span className="text-faint">{none}</span>;
  if (runway.state === 'full already')
    return (
      <span>
        <b className="text-amber">◆ {reached}</b>, <Figure figure={runway.figure} rounding="down" />
      </span>
    );
  if (runway.state === 'not filling')
    return (
      <span>
        not filling <Figure figure={runway.figure} rounding="down" />
      </span>
    );
  if (runway.notBefore)
    return (
      <span>
        not before {runway.notBefore}; further than three times the time it was watched nothing is
        said <Figure figure={runway.figure} rounding="down" />
      </span>
    );
  const { range } = runway;
  return (
    <span>
      <b className="mono">{runway.on}</b>
      {runway.days === 0 && <b className="text-amber"> ◆ by now, by its trend</b>}, in{' '}
      <Figure figure={runway.figure} rounding="down" />{' '}
      <span className="text-faint">
        {range
          ? `(nine times in ten ${range.soonest.on} to ${range.latest?.on ?? 'never'})`
          : '(too few samples to say how sure that is)'}
      </span>
    </span>
  );
}
