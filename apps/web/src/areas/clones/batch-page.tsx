/**
 * Working through a batch: the names of the disks to copy, files of their first start, and one tick a step for all of
 * them. The first clone goes ahead: it is made and proven, then the rest.
 */
import type { LineClone } from '@insel/contract';
import { counted, parseDuration, type Row } from '@insel/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { ProblemNote } from '../../components/problem.js';
import { useChange } from '../../client/change.js';
import { useRead } from '../../client/read.js';
import { useMayPlan } from '../../client/session.js';
import { useUrlState } from '../../client/url-state.js';
import { FirstStartFiles } from './batch-files.js';

type State = Row<'guest'>['state'];
const ORDER = ['planned', 'building', 'stopped', 'in service', 'retired'];

export function BatchPage() {
  const [search, set] = useUrlState();
  const ids = (search.get('ids') ?? '').split(',').filter(Boolean);
  const together = search.has('together');
  const lines = useRead('clones').data ?? [];
  const clones = lines
    .flatMap((line) => line.clones)
    .filter(({ guest }) => ids.includes(guest.id))
    .sort((a, b) => a.guest.name.localeCompare(b.guest.name, undefined, { numeric: true }));
  const [first, ...rest] = clones;
  if (!first) return <p className="px-6 py-4 text-faint">These clones are not in the record.</p>;
  const proven = first.state === 'in service';
  return (
    <div className="h-full overflow-y-auto px-6 py-3">
      <h1>
        {counted(clones.length, 'clone')} of {first.origin.name}
      </h1>
      <p className="mb-2 flex flex-wrap gap-4 text-[13px]">
        <Link className="act" to="/clones">
          Identity board
        </Link>
        {rest.length > 0 && !proven && (
          <button
            type="button"
            className="act"
            onClick={() => set({ together: together ? '' : 'yes' })}
          >
            {together ? 'One first, then the rest' : 'All at once instead'}
          </button>
        )}
      </p>
      <FirstStartFiles clones={clones} />
      {rest.length === 0 || together ? (
        <Block title="All of them" clones={clones} />
      ) : (
        <>
          <Block title={`${first.guest.name} first: make it and prove it`} clones={[first]} />
          {proven ? (
            <Block title="Then the rest" clones={rest} />
          ) : (
            <p className="mt-4 text-faint">
              Then the other {rest.length}: {first.guest.name} serves first, so that what is wrong
              is wrong once.
            </p>
          )}
        </>
      )}
    </div>
  );
}

/** Three steps, each ticked once for all. */
function Block({ title, clones }: { title: string; clones: readonly LineClone[] }) {
  const mayPlan = useMayPlan();
  const { make, anyway, busy, problem, setProblem } = useChange();
  const [took, setTook] = useState('');
  const [fault, setFault] = useState('');
  const at = (state: string) => clones.filter((clone) => clone.state === state);
  const past = (state: string) =>
    clones.filter((clone) => ORDER.indexOf(clone.state) > ORDER.indexOf(state));
  const open = clones.flatMap(({ identity }) => identity.filter(({ doneAt }) => doneAt === null));
  const states = (some: readonly LineClone[], state: State) =>
    make(
      'guest.set-state-many',
      { ids: some.map(({ guest }) => guest.id), state },
      { seen: some.map(({ guest }) => guest) },
    );
  const copied = async () => {
    const read = took.trim() === '' ? null : parseDuration(took);
    if (read && !read.ok) return setFault(read.sentence);
    setFault('');
    const planned = at('planned');
    if (!(await states(planned, 'building')) || !read) return;
    await make('clone.record-times', {
      guestIds: planned.map(({ guest }) => guest.id),
      copySeconds: Math.max(1, Math.round(read.value / planned.length)),
    });
    setTook('');
  };
  const serve = async () => {
    const building = clones.filter(({ state }) => state === 'building' || state === 'stopped');
    const written = await states(building, 'in service');
    if (written)
      await make('clone.record-times', {
        guestIds: building.map(({ guest }) => guest.id),
        readyAt: new Date().toISOString(),
      });
  };
  return (
    <section aria-label={title} className="mt-2 border-t border-ink pt-2">
      <h2 className="font-bold">{title}</h2>
      <Disks clones={clones} />
      <ol className="mt-2 flex flex-col gap-2">
        <Step
          done={at('planned').length === 0}
          words="Disks copied, each under its own name; guests made around them"
          left={at('planned').length}
        >
          {mayPlan && at('planned').length > 0 && (
            <span className="flex items-baseline gap-3">
              <label className="text-xs font-bold text-faint">
                Copying took{' '}
                <input
                  className="mono w-24"
                  placeholder="5 min"
                  value={took}
                  onChange={(event) => setTook(event.target.value)}
                />
              </label>
              <button type="button" className="act" disabled={busy} onClick={() => void copied()}>
                Tick for {counted(at('planned').length, 'clone')}
              </button>
              {fault && <span className="text-xs font-bold text-signal">{fault}</span>}
            </span>
          )}
        </Step>
        <Step
          done={open.length === 0}
          words="An identity of their own: first-start files, or the script of each at its console"
          left={open.length}
          what="item"
        >
          {mayPlan && open.length > 0 && (
            <button
              type="button"
              className="act"
              disabled={busy}
              onClick={() =>
                void make('clone.tick', { itemIds: open.map(({ id }) => id), done: true })
              }
            >
              Tick {counted(open.length, 'open item')}
            </button>
          )}
        </Step>
        <Step
          done={past('stopped').length === clones.length}
          words="Each starts and answers under its own name and address"
          left={clones.length - past('stopped').length}
        >
          {mayPlan && at('building').length + at('stopped').length > 0 && (
            <button
              type="button"
              className="act"
              disabled={busy}
              onClick={() => {
                setProblem(null);
                void serve();
              }}
            >
              Set {counted(at('building').length + at('stopped').length, 'clone')} in service
            </button>
          )}
        </Step>
      </ol>
      <ProblemNote problem={problem} anyway={anyway} />
    </section>
  );
}

function Step({
  done,
  words,
  left,
  what = 'clone',
  children,
}: {
  done: boolean;
  words: string;
  left: number;
  what?: string;
  children: React.ReactNode;
}) {
  return (
    <li className="flex flex-wrap items-baseline gap-x-3 border-b border-rule pb-1">
      <span aria-hidden className={done ? 'text-teal' : 'text-faint'}>
        {done ? '✓' : '□'}
      </span>
      <span className={done ? 'text-faint' : ''}>{words}</span>
      <span className="text-xs text-faint">{done ? 'done' : `${counted(left, what)} left`}</span>
      <span className="ml-auto">{children}</span>
    </li>
  );
}

/** What the copying is told: a disk name for each clone, its address and its host. */
function Disks({ clones }: { clones: readonly LineClone[] }) {
  return (
    <table className="mt-1 w-full max-w-[860px] text-left text-[13px]">
      <thead className="text-xs text-faint">
        <tr>
          <th>Clone</th>
          <th>State</th>
          <th>Host</th>
          <th>Address</th>
          <th>Name of its disk</th>
          <th className="text-right">Open</th>
        </tr>
      </thead>
      <tbody>
        {clones.map((clone) => (
          <tr key={clone.id} className="border-t border-rule">
            <td className="py-0.5">
              <Link className="underline decoration-rule" to={`/guests/${clone.guest.id}`}>
                {clone.guest.name}
              </Link>
            </td>
            <td className={clone.state === 'planned' ? 'text-pencil' : ''}>{clone.state}</td>
            <td>{clone.host.name}</td>
            <td className="mono">{clone.address}</td>
            <td className="mono">{clone.disks.join(', ')}</td>
            <td className="text-right">{clone.open.length || '–'}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
