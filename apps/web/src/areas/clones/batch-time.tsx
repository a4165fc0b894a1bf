/** When copies are made, and when they are machines of their own, each with its range. */
import type { Preview } from '@insel/contract';
import { formatDuration } from '@insel/core';
import { Figure } from '../../components/workings.js';

const between = ([low, high]: readonly [number, number]) =>
  `${formatDuration(low)} to ${formatDuration(high)}`;

export function BatchTime({ time }: { time: Preview['time'] }) {
  if (!time) return null;
  const { made, ready, range } = time;
  return (
    <p className="mb-2 border-b border-rule pb-2 text-[13px]">
      {ready ? 'Made' : 'Copied'} in <Figure figure={made} rounding="up" />{' '}
      <span className="text-faint">({between(range.made)})</span>
      {ready && (
        <>
          , ready in <Figure figure={ready} rounding="up" />{' '}
          <span className="text-faint">({between(range.ready)})</span>
        </>
      )}
    </p>
  );
}
