/** When the power ends: who stops when, in order, against the minutes that the UPS holds. To print and to keep at the rack. */
import type { LOSES_POWER, ShutDownView, StopRow } from '@insel/contract';
import { counted, formatDuration } from '@insel/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { Field } from '../../components/field.js';
import { useRead } from '../../client/read.js';
import { useUrlState } from '../../client/url-state.js';
import { NamedSelect } from '../../components/named-select.js';

type What = (typeof LOSES_POWER)[number];
const WHAT_WORDS: [What, string][] = [
  ['site', 'a site'],
  ['rack', 'a rack'],
  ['feed', 'a power feed'],
  ['group', 'a group of hosts'],
];

/** What can be chosen of a kind; the first is taken while nobody chose. */
function usePlaces(what: What): readonly { id: string; name: string }[] {
  const sites = useRead('sites', what === 'site' ? {} : null).data;
  const racks = useRead('racks', what === 'rack' ? {} : null).data;
  const feeds = useRead('powerFeeds', what === 'feed' ? {} : null).data;
  const groups = useRead('hostGroups', what === 'group' ? {} : null).data;
  return { site: sites, rack: racks, feed: feeds, group: groups }[what] ?? [];
}

export function ShutDownPage() {
  const [search, set] = useUrlState();
  const what = WHAT_WORDS.find(([word]) => word === search.get('what'))?.[0] ?? 'site';
  const places = usePlaces(what);
  const id = places.find((place) => place.id === search.get('id'))?.id ?? places[0]?.id ?? '';
  const [minutes, wait] = [search.get('minutes') ?? '', search.get('wait') ?? ''];
  const order = useRead(
    'shutDown',
    id
      ? {
          ...{ what, id },
          ...(whole(minutes) ? { minutes: Number(minutes) } : {}),
          ...(whole(wait) ? { waitMinutes: Number(wait) } : {}),
        }
      : null,
    { keep: true },
  );
  return (
    <div className="h-full overflow-y-auto px-6 py-3">
      <div className="flex flex-wrap items-end gap-x-4 gap-y-1">
        <h1>Shutdown</h1>
        <Field label="Without power is">
          <select value={what} onChange={(event) => set({ what: event.target.value, id: '' })}>
            {WHAT_WORDS.map(([word, words]) => (
              <option key={word} value={word}>
                {words}
              </option>
            ))}
          </select>
        </Field>
        <Field label="Which">
          <NamedSelect
            value={id}
            onChange={(event) => set({ id: event.target.value })}
            rows={places}
          />
        </Field>
        <Minutes
          key={`wait ${wait}`}
          label="Wait for it, minutes"
          value={wait}
          placeholder="0"
          set={(value) => set({ wait: value })}
        />
        <Minutes
          key={`minutes ${minutes}`}
          label="UPS holds, minutes"
          value={minutes}
          placeholder={
            order.data?.minutes === null || !order.data
              ? 'not recorded'
              : String(order.data.minutes)
          }
          set={(value) => set({ minutes: value })}
        />
        <button type="button" className="act no-print ml-auto" onClick={() => window.print()}>
          Print
        </button>
      </div>
      {order.error && <p className="text-signal">{order.error.message}</p>}
      {order.data && <Order order={order.data} />}
      {places.length === 0 && <p className="py-4 text-faint">None is recorded.</p>}
    </div>
  );
}

const whole = (text: string): boolean => /^\d{1,6}$/.test(text.trim());

function Minutes({
  label,
  value,
  placeholder,
  set,
}: {
  label: string;
  value: string;
  placeholder: string;
  set: (value: string) => void;
}) {
  const [text, setText] = useState(value);
  const wrong = text.trim() !== '' && !whole(text);
  return (
    <Field label={label} error={wrong ? 'A whole number.' : undefined}>
      <input
        inputMode="numeric"
        className="w-[108px]"
        value={text}
        placeholder={placeholder}
        onChange={(event) => setText(event.target.value)}
        onBlur={() => !wrong && set(text.trim())}
        onKeyDown={(event) => event.key === 'Enter' && !wrong && set(text.trim())}
      />
    </Field>
  );
}

function Order({ order }: { order: ShutDownView }) {
  const { name, hosts, guests, seconds, minutes, from, late, mayWaitSeconds, longest } = order;
  const forced = order.rows.filter((row) => row.forced);
  if (hosts === 0)
    return <p className="py-4 text-faint">No host that runs guests goes down with {name}.</p>;
  return (
    <>
      <p className="mt-2 text-[15px]">
        {counted(guests, 'guest')} and {counted(hosts, 'host')} are off after{' '}
        <b className="mono">{formatDuration(seconds)}</b>.{' '}
        {minutes === null ? (
          <span className="text-faint">How long the UPS holds is not recorded.</span>
        ) : late > 0 ? (
          <b className="text-signal">
            ■ The UPS holds {minutes} minutes ({from}): {counted(late, 'machine')}{' '}
            {late === 1 ? 'is' : 'are'} still up then.
          </b>
        ) : (
          <>
            The UPS holds {minutes} minutes ({from}).
          </>
        )}{' '}
        {mayWaitSeconds !== null &&
          (mayWaitSeconds >= 0
            ? `Stopping must begin ${formatDuration(mayWaitSeconds)} after the power went at the latest.`
            : `Even at once it takes ${formatDuration(-mayWaitSeconds)} too long.`)}
      </p>
      <p className="text-[13px] text-faint">
        Longest: {longest.join(', then ')}. Each stops as soon as what needs it is off; a service
        waits for those who use it unless somebody elsewhere provides it too. How long each takes is
        what is recorded at it: a minute for a guest and two for a host where nobody said.
      </p>
      {forced.length > 0 && (
        <p>
          <b className="text-amber">◆ In a circle of needs:</b>{' '}
          {forced.map((row) => row.name).join(', ')} {forced.length === 1 ? 'is' : 'are'} told to
          stop although something that needs {forced.length === 1 ? 'it' : 'them'} may still run.
        </p>
      )}
      <div className="mt-2 max-w-[1080px]">
        {order.rows.map((row) => (
          <Line key={`${row.kind} ${row.id}`} row={row} order={order} />
        ))}
        {order.total > order.rows.length && (
          <p className="text-[13px] text-faint">
            and {(order.total - order.rows.length).toLocaleString('en-GB')} more that are told to
            stop later
          </p>
        )}
      </div>
    </>
  );
}

function Line({ row, order }: { row: StopRow; order: ShutDownView }) {
  const end = order.minutes === null ? 0 : order.minutes * 60;
  const scale = Math.max(order.seconds, Math.min(end, order.seconds * 2), 1);
  const share = (seconds: number) => (seconds / scale) * 100;
  return (
    <div className="grid break-inside-avoid grid-cols-[1fr_64px_64px] items-center gap-x-3 border-b border-rule text-[13px] md:grid-cols-[140px_90px_64px_1fr_64px_150px] print:grid-cols-[16px_140px_90px_64px_1fr_64px_150px]">
      <span aria-hidden className="hidden size-3 border border-ink print:inline-block" />
      <Link
        className={`min-h-6 truncate leading-6 underline decoration-rule ${row.kind === 'host' ? 'font-bold' : ''}`}
        to={`/${row.kind}s/${row.id}`}
      >
        {row.name}
      </Link>
      <span className="hidden truncate text-faint md:inline print:inline">{row.host}</span>
      <span className="mono text-right">{formatDuration(row.begins)}</span>
      <span aria-hidden className="relative hidden h-[12px] bg-water md:block print:block">
        <span
          className={`absolute inset-y-0 ${row.late ? 'bg-signal' : row.kind === 'host' ? 'bg-ink' : 'bg-used'}`}
          style={{
            left: `${share(row.begins)}%`,
            width: `max(2px, ${share(row.down - row.begins)}%)`,
          }}
        />
        {end > 0 && end <= scale && (
          <span className="absolute inset-y-0 w-0.5 bg-signal" style={{ left: `${share(end)}%` }} />
        )}
      </span>
      <span className={`mono text-right ${row.late ? 'font-bold text-signal' : ''}`}>
        {row.late && '■ '}
        {formatDuration(row.down)}
      </span>
      <span className="hidden truncate text-faint md:inline print:inline">
        {row.after && `after ${row.after}`}
      </span>
    </div>
  );
}
