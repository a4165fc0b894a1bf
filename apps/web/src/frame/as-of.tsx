/** The record as it was: which moment is shown, another one, and the way back to now. */
import { useState } from 'react';
import { useRead } from '../client/read.js';
import { useStandpointInAddress } from '../client/standpoint.js';
import { minuteOf } from '../components/minute.js';

/** The last entry of that time, by revision or by day and time. */
const entryQuery = (asOf: string) =>
  /^\d+$/.test(asOf)
    ? { before: Number(asOf) + 1, take: 1 }
    : { until: asOf.slice(0, 10), take: 1 };

export function AsOf() {
  const [{ asOf }, set] = useStandpointInAddress();
  return asOf ? <Moment key={asOf} asOf={asOf} set={(to) => set({ asOf: to })} /> : null;
}

function Moment({ asOf, set }: { asOf: string; set: (asOf: string) => void }) {
  const [text, setText] = useState('');
  // Any read says why it cannot be that time.
  const refused = useRead('waterline', {}, { once: true }).error;
  const byNumber = /^\d+$/.test(asOf);
  const entry = useRead('log', byNumber ? entryQuery(asOf) : null).data?.rows[0];
  return (
    <div
      role="status"
      className="no-print flex flex-wrap items-center gap-x-4 border-b-2 border-amber bg-sand px-5 py-1 text-[13px]"
    >
      <span>
        <b>The record as it was</b>{' '}
        {byNumber ? (
          <>
            after entry <span className="mono">{asOf}</span>
            {entry && (
              <>
                , <span className="mono">{minuteOf(entry.at)}</span>: {entry.title}
              </>
            )}
          </>
        ) : (
          <>
            at <span className="mono">{asOf}</span>
          </>
        )}
        . Figures and findings are those of then; nothing can be altered.
      </span>
      {refused && (
        <b role="alert" className="text-signal">
          {refused.message}
        </b>
      )}
      <form
        className="ml-auto flex items-center gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          const wanted = text.trim();
          if (wanted) set(/^\d+$/.test(wanted) ? wanted : wanted.replace(' ', 'T'));
        }}
      >
        <input
          aria-label="Another time, or an entry of the log"
          placeholder="another time, or an entry"
          className="mono w-[215px]"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <button type="submit" className="act">
          Look
        </button>
        <button type="button" className="act" onClick={() => set('')}>
          Back to now
        </button>
      </form>
    </div>
  );
}
