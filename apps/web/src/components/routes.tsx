/** Static routes of one machine: destination and next hop, or nowhere, to add and to remove. */
import { parseAddress, parsePrefix, type Row } from '@insel/core';
import { useMayPlan } from '../client/session.js';
import { useChange } from '../client/change.js';
import { asWhole } from './editable.js';
import { whyUnread, Wrong, type Errors } from './field.js';
import { useLineForm } from './line-form.js';
import { ProblemNote } from './problem.js';

const EMPTY = { destination: '', via: '', does: 'by', metric: '' };

/** What cannot be read of it; an address of the wrong form is said by what reads it, with how to write it. */
function read({ destination, via, does, metric }: typeof EMPTY): [object, Errors] {
  const [to, hop] = [parsePrefix(destination), parseAddress(via)];
  const weight = metric.trim() === '' ? null : asWhole(metric);
  const nowhere = does === 'nowhere';
  const errors: Errors = {};
  if (!to.ok) errors.destination = whyUnread(to);
  if (!nowhere && !hop.ok) errors.via = hop.sentence;
  if (weight && !weight.ok) errors.metric = `Metric: ${weight.sentence}`;
  const input = {
    destination,
    via: nowhere ? null : via,
    metric: weight?.ok ? weight.value : null,
  };
  return [input, errors];
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
  const { control, values, open, begin, drop, send, ...form } = useLineForm(() => EMPTY, {
    type: 'route.record',
    read: (typed) => {
      const [route, errors] = read(typed);
      return [{ ...holder, ...route }, errors];
    },
  });
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
        (open ? (
          <form
            className="flex flex-wrap items-center gap-2"
            onSubmit={(event) => void send(event)}
          >
            <input
              autoFocus
              aria-label={`Destination of a route of ${name}`}
              placeholder="192.0.2.0/24"
              className="mono w-[150px]"
              {...control('destination')}
            />
            <select aria-label={`What a route of ${name} does`} {...control('does')}>
              <option value="by">by</option>
              <option value="nowhere">leads nowhere</option>
            </select>
            {values.does === 'by' && (
              <input
                aria-label={`Next hop of a route of ${name}`}
                placeholder="192.0.2.1"
                className="mono w-[140px]"
                {...control('via')}
              />
            )}
            <input
              aria-label={`Metric of a route of ${name}`}
              placeholder="metric"
              inputMode="numeric"
              className="mono w-[80px]"
              {...control('metric')}
            />
            <button type="submit" className="act">
              Record the route
            </button>
            <button type="button" className="act" onClick={drop}>
              Drop
            </button>
          </form>
        ) : (
          <button type="button" className="act text-[13px]" onClick={begin}>
            Record a static route
          </button>
        ))}
      {open && <Wrong errors={form.errors} problem={form.problem} />}
      <ProblemNote problem={form.problem ?? problem} />
    </div>
  );
}
