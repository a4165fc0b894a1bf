/** After a power cut: who starts when, in waves against the clock; circles that never start, and what breaks them. To print. */
import type { StartOrderView, StartRow } from '@insel/contract';
import { counted, formatDuration } from '@insel/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { useMayPlan } from '../../client/session.js';
import { useChange } from '../../client/change.js';
import { ProblemNote } from '../../components/problem.js';
import { Services } from './services.js';
import { useRead } from '../../client/read.js';

export function StartOrderPage() {
  const order = useRead('startOrder');
  const services = useRead('services').data ?? [];
  return (
    <div className="grid h-full grid-cols-1 overflow-y-auto lg:grid-cols-[1fr_380px] lg:overflow-hidden">
      <div className="min-w-0 px-6 py-3 lg:overflow-y-auto">
        <div className="flex flex-wrap items-baseline gap-x-4">
          <h1>Start order</h1>
          {order.data && (
            <span>
              {order.data.never > 0 && (
                <b className="text-signal">
                  ■ {counted(order.data.never, 'machine')} never{' '}
                  {order.data.never === 1 ? 'starts' : 'start'} by{' '}
                  {order.data.never === 1 ? 'itself' : 'themselves'};{' '}
                </b>
              )}
              {order.data.never > 0 ? 'the others are up after' : 'all are up after'}{' '}
              <b className="mono">{formatDuration(order.data.seconds)}</b>
            </span>
          )}
          <button type="button" className="act no-print ml-auto" onClick={() => window.print()}>
            Print
          </button>
        </div>
        <p className="text-[13px] text-faint">
          Counted from when the power is back. Each starts as soon as all it needs is up; a service
          is there with the first who provides it; a host or a pool starts as many guests at once as
          it or its group allows. Durations are those of the record.
        </p>
        {order.error && <p className="text-signal">{order.error.message}</p>}
        {order.data?.waves.map((wave) => (
          <Wave key={wave.wave} wave={wave} scale={order.data.seconds} />
        ))}
        {order.data?.waves.length === 0 && (
          <p className="py-4 text-faint">No host is in service.</p>
        )}
      </div>
      <div className="border-ink px-5 py-3 lg:overflow-y-auto lg:border-l">
        {order.data && <Circles order={order.data} />}
        <Services services={services} />
      </div>
    </div>
  );
}

const place = ({ kind, id }: { kind: string; id: string }) =>
  kind === 'service'
    ? `/guests/start-order?service=${id}`
    : kind === 'device'
      ? `/networks/devices?open=${id}`
      : `/${kind}s/${id}`;

function Wave({ wave, scale }: { wave: StartOrderView['waves'][number]; scale: number }) {
  return (
    <section aria-label={`Wave ${wave.wave}`} className="mt-2 break-inside-avoid-page">
      <h2 className="flex gap-3 border-b border-ink text-[13px] font-bold">
        Wave {wave.wave}{' '}
        <span className="font-normal text-faint">
          {wave.total} {wave.total === 1 ? 'machine' : 'machines'}, from{' '}
          {formatDuration(wave.begins)} to {formatDuration(wave.up)}
        </span>
      </h2>
      {wave.rows.map((row) => (
        <Line key={row.id} row={row} scale={scale} />
      ))}
      {wave.total > wave.rows.length && (
        <p className="text-[13px] text-faint">
          and {(wave.total - wave.rows.length).toLocaleString('en-GB')} more that are up sooner
        </p>
      )}
    </section>
  );
}

function Line({ row, scale }: { row: StartRow; scale: number }) {
  const share = (seconds: number) => (scale > 0 ? (seconds / scale) * 100 : 0);
  return (
    <div className="grid grid-cols-[1fr_76px_62px] items-center gap-x-3 md:grid-cols-[120px_76px_1fr_62px_150px] border-b border-rule text-[13px]">
      <Link
        className={`min-h-6 truncate leading-6 underline decoration-rule ${row.kind === 'host' ? 'font-bold' : ''}`}
        to={place(row)}
      >
        {row.name}
      </Link>
      <span className="truncate text-faint">{row.host}</span>
      <span aria-hidden className="relative hidden h-[12px] bg-water md:block">
        <span
          className={`absolute inset-y-0 ${row.kind === 'host' ? 'bg-ink' : 'bg-used'}`}
          style={{
            left: `${share(row.begins)}%`,
            width: `max(2px, ${share(row.up - row.begins)}%)`,
          }}
        />
      </span>
      <span className="mono text-right">{formatDuration(row.up)}</span>
      <span className="col-span-full truncate text-faint md:col-span-1">
        {row.after && `after ${row.after}`}
      </span>
    </div>
  );
}

function Circles({ order }: { order: StartOrderView }) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const [shown, setShown] = useState(8);
  const { circles, waiting } = order;
  return (
    <section aria-label="What never starts">
      <h2 className="font-bold">What never starts by itself</h2>
      {circles.length === 0 && waiting.total === 0 && (
        <p className="text-faint">Nothing: every machine in service comes up.</p>
      )}
      {circles.map((circle) => (
        <div key={circle.members[0]!.id} className="my-2 border-l-4 border-amber pl-3">
          <p>
            <b className="text-amber">◆ A circle.</b>
          </p>
          <ol className="list-decimal pl-5">
            {circle.steps.map((step) => (
              <li key={step}>{step}</li>
            ))}
          </ol>
          <p className="mt-1 text-[13px] text-faint">Each of these alone breaks it:</p>
          {circle.mends.map((mend) => (
            <p key={mend.sentence} className="text-[13px]">
              {mend.sentence}{' '}
              <span className="text-faint">
                All of it is up after {formatDuration(mend.seconds)}.
              </span>{' '}
              {mayPlan && mend.need && (
                <button
                  type="button"
                  className="act"
                  onClick={() =>
                    void make('need.remove', { id: mend.need!.id }, { seen: mend.need! })
                  }
                >
                  Drop that need
                </button>
              )}
              {mayPlan && mend.guestId && (
                <Link className="act" to={`/migrations/new?guest=${mend.guestId}`}>
                  Plan the move
                </Link>
              )}
            </p>
          ))}
          {circle.mends.length === 0 && (
            <p className="text-[13px]">No single change does: it closes in more than one way.</p>
          )}
        </div>
      ))}
      {waiting.total > 0 && (
        <h3 className="mt-2 text-[13px] font-bold text-faint">
          Waiting for what does not start: {waiting.total.toLocaleString('en-GB')}
        </h3>
      )}
      {waiting.rows.slice(0, shown).map((row) => (
        <p key={row.id} className="text-[13px]">
          {row.sentence}
        </p>
      ))}
      {waiting.rows.length > shown && (
        <button type="button" className="act text-[13px]" onClick={() => setShown(100)}>
          Show more
        </button>
      )}
      <ProblemNote problem={problem} />
    </section>
  );
}
