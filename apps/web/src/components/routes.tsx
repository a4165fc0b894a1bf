/** Static routes of one machine: destination and next hop, or nowhere, to add and to remove. */
import { parseAddress, parsePrefix, type Row } from '@insel/core';
import { useState } from 'react';
import { useMayPlan } from '../frame/session.js';
import { useChange } from '../frame/change.js';
import { asWhole } from './editable.js';
import { ProblemNote } from './problem.js';

interface RouteDraft {
  destination: string;
  via: string;
  nowhere: boolean;
  metric: string;
}

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
  const [draft, setDraft] = useState<RouteDraft | null>(null);
  const [fault, setFault] = useState('');
  const send = async () => {
    if (!draft) return;
    const { destination, nowhere } = draft;
    const [to, hop] = [parsePrefix(destination), parseAddress(draft.via)];
    const metric = draft.metric.trim() === '' ? null : asWhole(draft.metric);
    const sentence = !to.ok
      ? [to.sentence, to.suggestion && `Write ${to.suggestion}.`].filter(Boolean).join(' ')
      : !nowhere && !hop.ok
        ? hop.sentence
        : metric && !metric.ok
          ? `Metric: ${metric.sentence}`
          : '';
    setFault(sentence);
    const via = nowhere ? null : draft.via;
    if (
      !sentence &&
      (await make('route.record', {
        ...holder,
        destination,
        via,
        metric: metric?.ok ? metric.value : null,
      }))
    )
      setDraft(null);
  };
  return (
    <div className="mt-1">
      {routes.map((route) => (
        <p key={route.id} className="flex items-baseline gap-3">
          <span className="text-faint">route to</span>{' '}
          <span className="mono">{route.destination}</span>{' '}
          {route.via === null ? (
            <span>leads nowhere, on purpose</span>
          ) : (
            <>
              <span className="text-faint">by</span> <span className="mono">{route.via}</span>
            </>
          )}
          {route.metric !== null && <span className="text-faint">metric {route.metric}</span>}
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
            <select
              aria-label={`What a route of ${name} does`}
              value={draft.nowhere ? 'nowhere' : 'by'}
              onChange={(event) => setDraft({ ...draft, nowhere: event.target.value !== 'by' })}
            >
              <option value="by">by</option>
              <option value="nowhere">leads nowhere</option>
            </select>
            {!draft.nowhere && (
              <input
                aria-label={`Next hop of a route of ${name}`}
                placeholder="192.0.2.1"
                className="mono w-[140px]"
                value={draft.via}
                onChange={(event) => setDraft({ ...draft, via: event.target.value })}
              />
            )}
            <input
              aria-label={`Metric of a route of ${name}`}
              placeholder="metric"
              inputMode="numeric"
              className="mono w-[80px]"
              value={draft.metric}
              onChange={(event) => setDraft({ ...draft, metric: event.target.value })}
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
            onClick={() => setDraft({ destination: '', via: '', nowhere: false, metric: '' })}
          >
            Record a static route
          </button>
        ))}
      {fault && <p className="text-xs font-bold text-signal">{fault}</p>}
      <ProblemNote problem={problem} />
    </div>
  );
}
