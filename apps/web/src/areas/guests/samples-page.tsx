/** Measured samples taken in from CSV: streamed, with progress and a way to stop; with one faulty line nothing is kept. */
import type { ImportProgress } from '@insel/contract';
import { formatBinary } from '@insel/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { call, problemOf } from '../../client/api.js';
import { useMayPlan } from '../../client/session.js';
import { Progress } from '../../components/progress.js';
import { useRead } from '../../client/read.js';
import { requestOf } from '@insel/contract/read-paths';
import { SampleKeepingPart } from './sample-keeping.js';
import { minuteOf } from '../../components/minute.js';

const EXAMPLES = [
  'time,guest,cpu %,memory MiB,disk bytes\n2026-11-20 08:05,tide-api,31.5,9820,23622320128',
  'time,pool,used bytes\n2026-11-20,quay,9400000000000',
];

interface Sending {
  id: string;
  file: File;
  progress: ImportProgress | null;
  fault: string;
}

/** Files are sent and taken out beside the record: there is no change that does it. */
const IMPORTS = requestOf('sampleImports').path;

export function SamplesPage() {
  const mayPlan = useMayPlan();
  const client = useQueryClient();
  const [sending, setSending] = useState<Sending | null>(null);
  const imports = useRead('sampleImports').data ?? [];
  const reading =
    sending !== null &&
    !sending.fault &&
    (!sending.progress || sending.progress.state === 'reading');
  const polled = useQuery({
    queryKey: ['import', sending?.id],
    enabled: reading,
    refetchInterval: 500,
    retry: false,
    queryFn: () => call<ImportProgress>('GET', `${IMPORTS}/${sending!.id}`),
  }).data;
  const progress = sending?.progress ?? (reading ? polled : undefined) ?? null;
  const send = async (file: File) => {
    const id = crypto.randomUUID();
    setSending({ id, file, progress: null, fault: '' });
    try {
      const response = await fetch(
        `/api/${IMPORTS}/${id}?source=${encodeURIComponent(file.name)}`,
        { method: 'POST', headers: { 'Content-Type': 'text/csv' }, body: file },
      );
      const answer = (await response.json()) as ImportProgress & { sentence?: string };
      setSending({
        id,
        file,
        progress: response.ok ? answer : null,
        fault: response.ok ? '' : (answer.sentence ?? `The server answered ${response.status}.`),
      });
    } catch (error) {
      setSending({
        id,
        file,
        progress: null,
        fault: `${problemOf(error).sentence} Nothing of it was kept.`,
      });
    }
    void client.invalidateQueries();
  };
  const remove = async (id: string) => {
    await call('DELETE', `${IMPORTS}/${id}`);
    void client.invalidateQueries();
  };
  return (
    <div className="h-full max-w-[1000px] overflow-y-auto px-6 py-4">
      <h1>Measured use</h1>
      <p className="text-faint">
        What guests really use, from your monitoring as CSV. Times are UTC unless they say
        otherwise; an empty cell was not measured; a sample that is there already stays as it is.
      </p>
      {EXAMPLES.map((example) => (
        <pre
          key={example}
          className="mono mt-1 overflow-x-auto border-l-4 border-rule pl-3 text-[12px]"
        >
          {example}
        </pre>
      ))}
      {mayPlan && (
        <p className="mt-3">
          <label className="flex items-center gap-2">
            <b>Take a file in:</b>{' '}
            <input
              type="file"
              aria-label="A CSV of samples"
              accept=".csv,text/csv,text/plain"
              disabled={reading}
              onChange={(event) => {
                const file = event.target.files?.[0];
                event.target.value = '';
                if (file) void send(file);
              }}
            />
          </label>
        </p>
      )}
      {sending && <SendingState sending={sending} progress={progress} reading={reading} />}
      <h2 className="mt-5 border-b border-ink font-bold">Taken in</h2>
      {imports.map((row) => (
        <div
          key={row.id}
          className="grid grid-cols-[150px_1fr_200px_auto] items-baseline gap-3 border-b border-rule py-0.5"
        >
          <span className="mono">{minuteOf(row.at)}</span>
          <span className="min-w-0 truncate">
            {row.source || 'a file'}, by {row.by}
          </span>
          <span>
            {row.added.toLocaleString('en-GB')} samples
            {row.firstAt && (
              <span className="block text-[12px] text-faint">
                {row.firstAt.slice(0, 10)} to {row.lastAt!.slice(0, 10)}
              </span>
            )}
          </span>
          {mayPlan && (
            <button
              type="button"
              className="act text-[13px]"
              aria-label={`Take ${row.source || 'this file'} out again`}
              onClick={() => void remove(row.id)}
            >
              Take out again
            </button>
          )}
        </div>
      ))}
      {imports.length === 0 && <p className="text-faint">Nothing yet.</p>}
      <SampleKeepingPart />
    </div>
  );
}

function SendingState({
  sending,
  progress,
  reading,
}: {
  sending: Sending;
  progress: ImportProgress | null;
  reading: boolean;
}) {
  const { file } = sending;
  return (
    <section aria-label="The file" aria-live="polite" className="mt-2 border-t border-rule pt-2">
      <p>
        <b>{file.name}</b>, {formatBinary(file.size)}
      </p>
      {reading && (
        <p className="flex items-center gap-3">
          <Progress label="Taken in of it" max={file.size || 1} value={progress?.bytes ?? 0} />{' '}
          <span className="mono">{(progress?.lines ?? 0).toLocaleString('en-GB')} lines</span>
          <button
            type="button"
            className="act"
            onClick={() => void call('POST', `${IMPORTS}/${sending.id}/cancel`, { body: {} })}
          >
            Stop
          </button>
        </p>
      )}
      {sending.fault && (
        <p role="alert" className="font-bold text-signal">
          ■ {sending.fault}
        </p>
      )}
      {progress?.state === 'done' && (
        <p className="font-bold">
          ✓ {progress.lines.toLocaleString('en-GB')} lines read,{' '}
          {progress.added.toLocaleString('en-GB')} of them new.
        </p>
      )}
      {progress?.state === 'cancelled' && (
        <p className="font-bold">Stopped. Nothing of it was kept.</p>
      )}
      {progress?.state === 'faulty' && (
        <div role="alert">
          <p className="font-bold text-signal">
            ■ {progress.faultsInAll.toLocaleString('en-GB')}{' '}
            {progress.faultsInAll === 1 ? 'line is' : 'lines are'} faulty: nothing was kept. Mend
            the file and take it in again.
          </p>
          <ul>
            {progress.faults.map((fault) => (
              <li
                key={`${fault.line}${fault.sentence}`}
                className="border-b border-rule text-[13px]"
              >
                <span className="mono inline-block w-[90px]">
                  line {fault.line.toLocaleString('en-GB')}
                </span>{' '}
                {fault.sentence}
              </li>
            ))}
          </ul>
          {progress.faultsInAll > progress.faults.length && (
            <p className="text-faint">
              and {(progress.faultsInAll - progress.faults.length).toLocaleString('en-GB')} more
            </p>
          )}
        </div>
      )}
    </section>
  );
}
