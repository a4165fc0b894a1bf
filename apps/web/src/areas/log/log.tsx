import { DESCRIPTIONS } from '@insel/core';
import { useInfiniteQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useMayPlan } from '../../client/session.js';
import { useUrlState } from '../../client/url-state.js';
import { useChange } from '../../client/change.js';
import { DayInput } from '../../components/iso-inputs.js';
import { ProblemNote } from '../../components/problem.js';
import { read, useRead } from '../../client/read.js';
import { WholeImport, Entry } from './log-entry.js';
import { NamedSelect } from '../../components/named-select.js';

const KINDS_OF_CHANGE = Object.entries(DESCRIPTIONS)
  .map(([type, { title }]) => [type, title] as const)
  .sort(([, a], [, b]) => a.localeCompare(b));

/** Everything that was altered or done, newest first, with reason and difference. */
export function Log() {
  const [search, set] = useUrlState();
  const mayPlan = useMayPlan();
  const sites = useRead('sites').data ?? [];
  const held = (name: string) => search.get(name) ?? '';
  const day = (name: string) => (/^\d{4}-\d{2}-\d{2}$/.test(held(name)) ? held(name) : '');
  const query = {
    ...{ subject: held('subject'), actor: held('actor'), q: held('q'), type: held('type') },
    ...{ site: held('site'), from: day('from'), until: day('until') },
    importId: held('importId'),
  };
  const log = useInfiniteQuery({
    queryKey: ['log', query],
    queryFn: ({ pageParam }) =>
      read('log', { ...query, ...(pageParam ? { before: pageParam } : {}) }),
    initialPageParam: 0,
    getNextPageParam: (last) => (last.more ? last.rows[last.rows.length - 1]!.revision : undefined),
  });
  return (
    <div className="h-full overflow-y-auto px-6 py-4">
      <div className="mb-2 flex flex-wrap items-baseline gap-4">
        <h1>Log</h1>
        <input
          aria-label="Filter by words"
          placeholder="words"
          value={search.get('q') ?? ''}
          onChange={(event) => set({ q: event.target.value })}
        />
        <input
          aria-label="Filter by person"
          placeholder="person"
          className="w-[110px]"
          value={search.get('actor') ?? ''}
          onChange={(event) => set({ actor: event.target.value })}
        />
        <select
          aria-label="Filter by kind of change"
          className="w-[180px]"
          value={held('type')}
          onChange={(event) => set({ type: event.target.value })}
        >
          <option value="">every change</option>
          {KINDS_OF_CHANGE.map(([type, title]) => (
            <option key={type} value={type}>
              {title}
            </option>
          ))}
        </select>
        <NamedSelect
          aria-label="Filter by place"
          value={held('site')}
          onChange={(event) => set({ site: event.target.value })}
          rows={sites}
          none="every site"
        />
        {(['from', 'until'] as const).map((name) => (
          <label key={name} className="text-[13px] text-faint">
            {name}{' '}
            <DayInput
              style={{ width: 112 }}
              aria-label={`Entered ${name}`}
              value={held(name)}
              onValue={(text) => set({ [name]: text })}
            />
          </label>
        ))}
        {search.get('subject') && (
          <button type="button" className="act" onClick={() => set({ subject: '' })}>
            Show all records
          </button>
        )}
        {mayPlan && (
          <button type="button" className="act ml-auto" onClick={() => set({ note: 'yes' })}>
            Note something
          </button>
        )}
      </div>
      {held('importId') && (
        <WholeImport importId={held('importId')} close={() => set({ importId: '' })} />
      )}
      {search.has('note') && mayPlan && <Note close={() => set({ note: '' })} />}
      {log.error && <p className="text-signal">{log.error.message}</p>}
      <ol>
        {log.data?.pages
          .flatMap((page) => page.rows)
          .map((row) => (
            <Entry key={row.revision} row={row} />
          ))}
      </ol>
      {log.hasNextPage && (
        <button type="button" className="act mt-2" onClick={() => void log.fetchNextPage()}>
          Earlier entries
        </button>
      )}
    </div>
  );
}

function Note({ close }: { close: () => void }) {
  const { make, busy, problem } = useChange();
  const [text, setText] = useState('');
  return (
    <div className="mb-3 max-w-[700px]">
      <textarea
        autoFocus
        aria-label="What you saw or did"
        className="h-24 w-full"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <ProblemNote problem={problem} />
      <button
        type="button"
        className="press"
        disabled={busy}
        onClick={() => void make('log.note', { text }).then((written) => written && close())}
      >
        Write it down
      </button>{' '}
      <button type="button" className="act" onClick={close}>
        Drop
      </button>
    </div>
  );
}
