/** While the database is away: how old what is shown is, and that nothing can be altered. */
import { useSyncExternalStore } from 'react';
import { asOf, onAsOf } from '../client/api.js';

export function DatabaseAway() {
  const since = useSyncExternalStore(onAsOf, asOf);
  if (!since) return null;
  return (
    <p role="status" className="no-print bg-sand px-5 py-1 text-[13px]">
      <b>The database does not answer.</b> What you see is as of{' '}
      <span className="mono">{new Date(since).toLocaleTimeString('sv-SE')}</span>; nothing can be
      altered until it is back.
    </p>
  );
}
