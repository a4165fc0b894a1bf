/** While a reason stands for all that is done: it is in sight, so that nobody says it of something else. */
import { useEffect, useRef } from 'react';
import { sayBecause, useBecause } from '../client/because.js';
import { useMayPlan } from '../client/session.js';

export function BecauseBand() {
  const reason = useBecause();
  const mayPlan = useMayPlan();
  const field = useRef<HTMLInputElement>(null);
  const open = reason !== null && mayPlan;
  useEffect(() => {
    if (open && field.current?.value === '') field.current.focus();
  }, [open]);
  if (!open) return null;
  return (
    <div className="no-print flex flex-wrap items-center gap-x-4 border-b border-ink bg-raised px-5 py-1 text-[13px]">
      <label className="flex min-w-[200px] flex-1 items-center gap-2">
        <b className="whitespace-nowrap">Why, for all I do from here on</b>
        <input
          ref={field}
          className="min-w-0 flex-1"
          maxLength={1000}
          value={reason}
          onChange={(event) => sayBecause(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Enter') field.current?.blur();
            if (event.key === 'Escape') sayBecause(null);
          }}
        />
      </label>
      <button type="button" className="act" onClick={() => sayBecause(null)}>
        Drop it
      </button>
    </div>
  );
}
