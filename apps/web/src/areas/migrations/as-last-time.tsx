/** A finished run of the same route as a pattern: taken with one press, with what was different then. */
import { formatDuration, formatLinkSpeed, METHODS, type LastTime } from '@insel/core';
import { Link } from 'react-router';
import type { MoveFields } from './move-fields.js';

export function AsLastTime({
  last: { migrationId, guest, at, method, linkBitsPerSecond, copySeconds, remarks },
  set,
}: {
  last: LastTime;
  set: (change: Partial<MoveFields>) => void;
}) {
  return (
    <section aria-label="As last time" className="mb-2 border-b border-rule pb-2 text-[13px]">
      <p>
        Last time on this way,{' '}
        <Link className="underline decoration-rule" to={`/migrations/${migrationId}`}>
          {guest}, {at.slice(0, 10)}
        </Link>
        : {METHODS[method].words}, {formatLinkSpeed(linkBitsPerSecond)}
        {copySeconds !== null && `, the copy took ${formatDuration(copySeconds)}`}.{' '}
        <button type="button" className="act" onClick={() => set({ method, linkBitsPerSecond })}>
          As last time
        </button>
      </p>
      {remarks.map(({ step, remark }) => (
        <p key={step}>
          <span className="text-faint">{step}:</span> {remark}
        </p>
      ))}
    </section>
  );
}
