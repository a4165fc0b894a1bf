/** Static routes of one machine: destination and next hop, to add and to remove. */
import { parseAddress, parsePrefix, type Row } from '@insel/core';
import { useState } from 'react';
import { useMayPlan } from '../frame/session.js';
import { useChange } from '../frame/change.js';
import { ProblemNote } from './problem.js';

export function Routes({
  routes,
  holder,
  name,
}: {
  routes: Row<'route'>[];
  holder: { hostId?: string; guestId?: string; deviceId?: string };
  name: string;
}) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const [draft, setDraft] = useState<{ destination: string; via: string } | null>(null);
  const [fault, setFault] = useState('');
  const send = async () => {
    if (!draft) return;
    const [to, via] = [parsePrefix(draft.destination), parseAddress(draft.via)];
    const sentence = !to.ok
      ? [to.sentence, to.suggestion && `Write ${to.suggestion}.`].filter(Boolean).join(' ')
      : !via.ok
        ? via.sentence
        : '';
    setFault(sentence);
    if (!sentence && (await make('route.record', { ...holder, ...draft }))) setDraft(null);
  };
  return (
    <div className="mt-1">
      {routes.map((route) => (
        <p key={route.id} className="flex gap-3">
          <span className="text-faint">route to</span>{' '}
          <span className="mono">{route.destination}</span> <span className="text-faint">by</span>{' '}
          <span className="mono">{route.via}</span>
          {mayPlan && (
            <button
              type="button"
              className="act text-[13px]"
              aria-label={`Remove the route to ${route.destination}`}
              onClick={() => void make('route.remove', { id: route.id }, { seen: route })}
            >
              Remove
            </button>
          )}
        </p>
      ))}
      {mayPlan &&
        (draft ? (
          <form
            className="flex flex-wrap items-center gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              void send();
            }}
          >
            <input
              autoFocus
              aria-label={`Destination of a route of ${name}`}
              placeholder="192.0.2.0/24"
              className="mono w-[150px]"
              value={draft.destination}
              onChange={(event) => setDraft({ ...draft, destination: event.target.value })}
            />
            by
            <input
              aria-label={`Next hop of a route of ${name}`}
              placeholder="192.0.2.1"
              className="mono w-[140px]"
              value={draft.via}
              onChange={(event) => setDraft({ ...draft, via: event.target.value })}
            />
            <button type="submit" className="act">
              Record the route
            </button>
            <button type="button" className="act" onClick={() => setDraft(null)}>
              Drop
            </button>
          </form>
        ) : (
          <button
            type="button"
            className="act text-[13px]"
            onClick={() => setDraft({ destination: '', via: '' })}
          >
            Record a static route
          </button>
        ))}
      {fault && <p className="text-xs font-bold text-signal">{fault}</p>}
      <ProblemNote problem={problem} />
    </div>
  );
}
