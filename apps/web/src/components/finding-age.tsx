/** Since when something is found, and what brought it. */
import type { Finding } from '@insel/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { useRead } from '../client/read.js';
import { minuteOf } from './minute.js';

/** Asked for by a click: the log is walked back for it. */
export function SinceWhen({ finding }: { finding: Finding }) {
  const [opened, setOpened] = useState(false);
  if (opened) return <FindingSince finding={finding} />;
  return (
    <button
      type="button"
      className="act ml-2 font-normal"
      aria-label={`Since when: ${finding.evidence}`}
      onClick={() => setOpened(true)}
    >
      Since when?
    </button>
  );
}

export function FindingSince({ finding }: { finding: Finding }) {
  const { data, error } = useRead('findingAge', { id: finding.id });
  if (error) return <span className="text-faint">{error.message}</span>;
  if (!data) return <span className="text-faint">since …</span>;
  const { since, by, lookedBackTo } = data;
  if (since === null)
    return (
      <span className="text-faint">
        {lookedBackTo
          ? `There for longer than since ${minuteOf(lookedBackTo)}.`
          : 'There from the beginning.'}
      </span>
    );
  return (
    <span className="text-faint">
      Since {minuteOf(since)}
      {by ? (
        <>
          :{' '}
          <Link className="underline" to={`/log?subject=${finding.about.id}`}>
            {by.title}
          </Link>
          , {by.actorName}.
        </>
      ) : (
        ', when its day came.'
      )}
    </span>
  );
}
