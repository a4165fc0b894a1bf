/** Times for planned moves, looked for: what is allowed is said, what is found stands with its bound, and is set as one change. */
import type { FoundTimesView, Problem } from '@insel/contract';
import { counted, formatDuration } from '@insel/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { errorsOf, Field } from '../../components/field.js';
import { ProblemNote } from '../../components/problem.js';
import { problemOf } from '../../client/api.js';
import { useChange } from '../../client/change.js';
import { read } from '../../client/read.js';
import { minuteOf } from '../../components/minute.js';

/** @param zone clock by which hours are said and times told */
export function FindTimes({ zone, close }: { zone: string; close: () => void }) {
  const [wanted, setWanted] = useState({ days: 14, anew: false, hours: '', mostAtOnce: '' });
  const [found, setFound] = useState<FoundTimesView | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const look = async () => {
    setProblem(null);
    try {
      const { mostAtOnce, ...rest } = wanted;
      setFound(await read('foundTimes', { ...rest, zone, mostAtOnce: Number(mostAtOnce) || null }));
    } catch (error) {
      setProblem(problemOf(error));
    }
  };
  return (
    <section aria-label="Find times" className="mb-3 border-b border-ink pb-3">
      <form
        className="flex flex-wrap items-end gap-x-4 gap-y-1"
        onSubmit={(event) => {
          event.preventDefault();
          void look();
        }}
      >
        <Field label="Within">
          <select
            value={wanted.days}
            onChange={(event) => setWanted({ ...wanted, days: Number(event.target.value) })}
          >
            {[2, 7, 14, 31, 92].map((days) => (
              <option key={days} value={days}>
                {days} days
              </option>
            ))}
          </select>
        </Field>
        <Field label={`Somebody is there (${zone})`} error={errorsOf(problem).hours}>
          <input
            placeholder="always, or Mon, Tue 18:00-23:00"
            className="w-[240px]"
            value={wanted.hours}
            onChange={(event) => setWanted({ ...wanted, hours: event.target.value })}
          />
        </Field>
        <Field label="At once at a host">
          <select
            value={wanted.mostAtOnce}
            onChange={(event) => setWanted({ ...wanted, mostAtOnce: event.target.value })}
          >
            <option value="">as its link bears</option>
            {[1, 2, 3, 4].map((most) => (
              <option key={most} value={most}>
                at most {most}
              </option>
            ))}
          </select>
        </Field>
        <label className="flex items-baseline gap-1 pb-1">
          <input
            type="checkbox"
            checked={wanted.anew}
            onChange={(event) => setWanted({ ...wanted, anew: event.target.checked })}
          />
          also those that have a time
        </label>
        <button type="submit" className="act mb-1">
          Look for an order
        </button>
        <button type="button" className="act mb-1" onClick={close}>
          Drop
        </button>
      </form>
      {problem && !problem.field && <ProblemNote problem={problem} />}
      {found && <Found found={found} zone={zone} done={close} />}
    </section>
  );
}

function Found({ found, zone, done }: { found: FoundTimesView; zone: string; done: () => void }) {
  const { make, problem, anyway, busy } = useChange();
  const fresh = found.times.filter(({ kept }) => !kept);
  const set = async () => {
    const written = await make(
      'migration.set-times',
      {
        ids: fresh.map(({ id }) => id),
        times: fresh.map(({ from, until }) => ({ from, until })),
      },
      { seen: fresh.map(({ id }) => ({ id, revision: found.revisions[id]! })) },
    );
    if (written) done();
  };
  return (
    <div className="mt-2">
      <p>
        <b>{found.headline}</b>
        {found.windows > 0 && ` Somebody is there in ${counted(found.windows, 'window')}.`}
      </p>
      {found.unfit.map(({ id, guest, why, mend }) => (
        <p key={id}>
          <Link className="font-bold" to={`/migrations/${id}`}>
            {guest}
          </Link>{' '}
          <span className="text-signal">■ {why}.</span> {mend}
        </p>
      ))}
      {found.times.length > 0 && (
        <table className="mt-1 w-full max-w-[820px] text-left text-[13px]">
          <thead>
            <tr className="border-b border-ink text-xs">
              <th>Guest</th>
              <th>From</th>
              <th>To</th>
              <th>Begins</th>
              <th>Over by</th>
              <th className="text-right">At most</th>
            </tr>
          </thead>
          <tbody>
            {found.times.map((time) => (
              <tr
                key={time.id}
                className={`border-b border-rule ${time.kept ? 'text-faint' : 'text-pencil'}`}
              >
                <td>
                  <Link className="font-bold" to={`/migrations/${time.id}`}>
                    {time.guest}
                  </Link>
                  {time.kept && ' stays'}
                </td>
                <td>{time.source}</td>
                <td>{time.target}</td>
                <td className="mono">{minuteOf(time.from, zone)}</td>
                <td className="mono">{minuteOf(time.until, zone)}</td>
                <td className="mono text-right">{formatDuration(time.minutes * 60)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {fresh.length > 0 && (
        <button type="button" className="act mt-2" disabled={busy} onClick={() => void set()}>
          Set {fresh.length === 1 ? 'this time' : `these ${counted(fresh.length, 'time')}`}
        </button>
      )}
      <ProblemNote problem={problem} anyway={anyway} />
    </div>
  );
}
