/** Which hosts may fail now, and which may once the clones serve. */
import type { Preview } from '@insel/contract';
import { counted } from '@insel/core';
import { Link } from 'react-router';

export function BatchTolerance({ tolerance }: { tolerance: Preview['tolerance'] }) {
  if (!tolerance || tolerance.tried === 0) return null;
  const { tried, of, before, after, worse } = tolerance;
  return (
    <section aria-label="If a host fails" className="mb-2 border-b border-rule pb-2 text-[13px]">
      <p>
        If one host fails, all its guests come up again: for {before} of {counted(tried, 'host')}{' '}
        now,{' '}
        <span className="text-pencil">
          {after === before ? 'for as many' : `for ${after}`} once these serve
        </span>
        .
        {tried < of && (
          <span className="text-faint">
            {' '}
            Asked of {tried} of {of} at these sites.
          </span>
        )}
      </p>
      {worse.map(({ id, name, answer, down, downNow, of: guests }) => (
        <p key={id} className="text-signal">
          <Link className="underline decoration-rule" to={`/hosts/${id}`}>
            {name}
          </Link>
          :{' '}
          {answer === 'not settled'
            ? 'whether all come up again is not settled then'
            : `${down} of its ${counted(guests, 'guest')} would stay down (${downNow} now)`}
        </p>
      ))}
    </section>
  );
}
