/** How the server does, for who looks after it: its memory, how long changes wait and take, what it keeps and why that is made anew. */
import type { ServerView, Spread, ThreadFigures } from '@insel/contract';
import { useQuery } from '@tanstack/react-query';
import { formatBinary, kindWords } from '@insel/core';
import { call, problemOf } from '../../client/api.js';
import { minuteOf } from '../../components/minute.js';
import { ProblemNote } from '../../components/problem.js';

const ANEW_MS = 5_000;

export function ServerPage() {
  const { data, error } = useQuery({
    queryKey: ['server'],
    queryFn: () => call<ServerView>('GET', 'server'),
    refetchInterval: ANEW_MS,
  });
  return (
    // Nothing on it takes the focus, so that the page itself does: to be scrolled by keys.
    <div
      tabIndex={0}
      role="region"
      aria-label="The server"
      className="h-full overflow-y-auto px-6 py-4"
    >
      <h1 className="mb-1">The server</h1>
      <ProblemNote problem={error ? problemOf(error) : null} />
      {data && <Server view={data} />}
    </div>
  );
}

function Server({ view }: { view: ServerView }) {
  const { startedAt, revision, loadedInMs, processMiB, ceilingMiB, changes, worker } = view;
  return (
    <>
      <p className="mb-3 text-[13px] text-faint">
        Running since <span className="mono">{minuteOf(startedAt)}</span>, at revision{' '}
        <span className="mono">{whole(revision)}</span>; reading the record took{' '}
        <span className="mono">{whole(loadedInMs)} ms</span>. Counted since then, of this process
        alone; every five seconds anew.
      </p>
      <section aria-label="Memory" className="mb-4">
        <h2 className="font-bold">Memory</h2>
        <p>
          The process takes <span className="mono">{whole(processMiB)} MiB</span>: its heap{' '}
          <span className="mono">{whole(view.heapMiB)} MiB</span>, that of its worker{' '}
          {worker ? (
            <span className="mono">{whole(worker.heapMiB)} MiB</span>
          ) : (
            'unknown while that computes'
          )}
          , each of at most <span className="mono">{whole(ceilingMiB)} MiB</span>. Above that, what
          is kept is let go and made anew as it is asked for: {timesOf(view.letGo)}
          {worker && `, in the worker ${timesOf(worker.letGo)}`}.
        </p>
      </section>
      <section aria-label="Changes" className="mb-4">
        <h2 className="font-bold">Changes</h2>
        <p className="mb-1 text-[13px] text-faint">
          In milliseconds: how long a change waited for its turn, and how long deciding it took.
        </p>
        {changes.length === 0 ? (
          <p>None was made since the server began.</p>
        ) : (
          <table className="w-full text-right text-[13px]">
            <thead className="text-xs text-faint">
              <tr>
                <th className="text-left">Change</th>
                <th>Times</th>
                {['Waited', 'Decided'].map((what) => (
                  <Heads key={what} what={what} />
                ))}
              </tr>
            </thead>
            <tbody>
              {changes.map(({ type, times, waited, decided }) => (
                <tr key={type} className="border-t border-rule">
                  <th scope="row" className="text-left font-normal">
                    {type}
                  </th>
                  <td className="mono">{whole(times)}</td>
                  <Cells spread={waited} />
                  <Cells spread={decided} />
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </section>
      <Kept of={view} name="What is kept" />
      {worker && <Kept of={worker} name="What the worker keeps" />}
    </>
  );
}

function Kept({
  of: { noted, edges, bytes, values },
  name: title,
}: {
  of: ThreadFigures;
  name: string;
}) {
  return (
    <section aria-label={title} className="mb-4">
      <h2 className="font-bold">{title}</h2>
      <p className="mb-1 text-[13px] text-faint">
        Values computed from <span className="mono">{whole(noted)}</span> rows and look-ups. One is
        made anew once something that it was computed from has altered. To know that,{' '}
        <span className="mono">{whole(edges)}</span> notes are kept of what was computed from what,
        about <span className="mono">{formatBinary(bytes)}</span> with all their bookkeeping.
      </p>
      <table className="w-full text-right text-[13px]">
        <thead className="text-xs text-faint">
          <tr>
            <th className="text-left">Value</th>
            <th>Kept</th>
            <th>Asked for</th>
            <th>Made</th>
            <th>From what is kept</th>
            <th className="pl-6 text-left">Made anew because of</th>
          </tr>
        </thead>
        <tbody>
          {values.map(({ name, kept, uses, made, wokenBy }) => (
            <tr key={name} className="border-t border-rule align-baseline">
              <th scope="row" className="text-left font-normal">
                {name.replace('|', ': ')}
              </th>
              <td className="mono">{whole(kept)}</td>
              <td className="mono">{whole(uses)}</td>
              <td className="mono">{whole(made)}</td>
              <td className="mono">
                {uses === 0 ? '–' : `${Math.floor((1 - made / uses) * 100)} %`}
              </td>
              <td className="pl-6 text-left">{reasons(wokenBy)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

const Heads = ({ what }: { what: string }) => (
  <>
    <th>{what}: median</th>
    <th>95 %</th>
    <th>at most</th>
  </>
);

const Cells = ({ spread }: { spread: Spread | null }) =>
  (['median', 'p95', 'most'] as const).map((which) => (
    <td key={which} className="mono">
      {spread ? spread[which].toFixed(1) : '–'}
    </td>
  ));

/** The most frequent first. */
function reasons(wokenBy: ServerView['values'][number]['wokenBy']): string {
  const sorted = wokenBy.toSorted((a, b) => b.times - a.times);
  const said = sorted
    .slice(0, 4)
    .map(({ by, times }) => `${WORDS[by] ?? kindWords(by)} ${whole(times)}`);
  return [...said, ...(sorted.length > 4 ? ['others'] : [])].join(', ');
}

const WORDS: Partial<Record<string, string>> = { time: 'its time came', room: 'room was wanted' };

const timesOf = (times: number): string =>
  times === 0 ? 'not needed yet' : times === 1 ? 'once' : `${whole(times)} times`;

const whole = (value: number): string => value.toLocaleString('en-GB');
