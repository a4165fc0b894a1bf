/** Images dropped here are read in the browser for size and digest. */
import type { MediumView } from '@insel/contract';
import { formatBoth, formatBinary } from '@insel/core';
import { useState, useRef, useEffect, type DragEvent } from 'react';
import { ProblemNote } from '../../components/problem.js';
import { Progress } from '../../components/progress.js';
import { useChange } from '../../client/change.js';
import type { FromDigest } from './digest.worker.js';
import { useMayPlan } from '../../client/session.js';

interface Reading {
  file: File;
  bytes: number;
  sha256: string;
  fault: string;
}

/** Reads a dropped file in a worker and offers to record it, or compares it with what is on the shelf. */
function useDigest() {
  const [reading, setReading] = useState<Reading | null>(null);
  const worker = useRef<Worker>(undefined);
  const stop = () => {
    worker.current?.terminate();
    worker.current = undefined;
    setReading(null);
  };
  useEffect(() => () => worker.current?.terminate(), []);
  const start = (file: File) => {
    worker.current?.terminate();
    setReading({ file, bytes: 0, sha256: '', fault: '' });
    const made = new Worker(new URL('./digest.worker.ts', import.meta.url), {
      type: 'module',
    });
    worker.current = made;
    const put = (change: Partial<Reading>) => setReading((held) => held && { ...held, ...change });
    made.onmessage = ({ data }: MessageEvent<FromDigest>) =>
      put(
        data.type === 'progress'
          ? { bytes: data.bytes }
          : data.type === 'done'
            ? { bytes: file.size, sha256: data.sha256 }
            : { fault: data.message },
      );
    made.onerror = () => put({ fault: 'it could not be read' });
    made.postMessage(file);
  };
  return { reading, start, stop };
}

export function Drop({ media }: { media: MediumView[] }) {
  const mayPlan = useMayPlan();
  const { reading, start, stop } = useDigest();
  const [over, setOver] = useState(false);
  const { make, busy, problem } = useChange();
  const take = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    const file = event.dataTransfer.files[0];
    if (file) start(file);
  };
  const same = reading?.sha256 ? media.find((row) => row.sha256 === reading.sha256) : undefined;
  const named = reading?.sha256
    ? media.find((row) => row.name.toLowerCase() === reading.file.name.toLowerCase())
    : undefined;
  const record = async () => {
    if (
      reading &&
      (await make('medium.record', {
        name: reading.file.name.slice(0, 100),
        bytes: reading.file.size,
        sha256: reading.sha256,
      }))
    )
      stop();
  };
  return (
    <div
      className={`my-2 border border-dashed p-2 ${over ? 'border-teal bg-water' : 'border-used'}`}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={take}
    >
      <label className="flex flex-wrap items-center gap-2">
        <span className="font-bold">Drop an image here, or choose it:</span>
        <input
          type="file"
          aria-label="An image to read"
          onChange={(event) => event.target.files?.[0] && start(event.target.files[0])}
        />
      </label>
      <p className="text-[13px] text-faint">
        It is read in this browser for its size and SHA-256, and not uploaded.
      </p>
      {reading && (
        <div aria-live="polite" className="mt-1 border-t border-rule pt-1 text-[13px]">
          <p>
            <b>{reading.file.name}</b>,{' '}
            <span className="mono">{formatBoth(reading.file.size)}</span>
          </p>
          {reading.fault && <p className="font-bold text-signal">■ {reading.fault}</p>}
          {!reading.sha256 && !reading.fault && (
            <p className="flex items-center gap-2">
              <Progress label="Read of it" max={reading.file.size || 1} value={reading.bytes} />{' '}
              <span className="mono">
                {formatBinary(reading.bytes)} of {formatBinary(reading.file.size)}
              </span>{' '}
              <button type="button" className="act" onClick={stop}>
                Stop
              </button>
            </p>
          )}
          {reading.sha256 && <p className="mono [overflow-wrap:anywhere]">{reading.sha256}</p>}
          {same && (
            <p>
              <b className="text-teal">✓ The same image is on the shelf as {same.name}.</b> Nothing
              needs to be recorded.
            </p>
          )}
          {named && !same && (
            <p>
              <b className="text-signal">
                ■ {named.name} is on the shelf with another digest
                {named.sha256 ? '' : ', none recorded'}.
              </b>{' '}
              {named.sha256
                ? 'One of the two is not what it says: compare with the digest its maker publishes.'
                : ''}{' '}
              {mayPlan && !named.sha256 && (
                <button
                  type="button"
                  className="act"
                  disabled={busy}
                  onClick={() =>
                    void make(
                      'medium.edit',
                      { id: named.id, sha256: reading.sha256, bytes: reading.file.size },
                      { seen: named },
                    ).then((written) => written && stop())
                  }
                >
                  Note this digest for it
                </button>
              )}
            </p>
          )}
          {reading.sha256 && (
            <p className="flex gap-3">
              {mayPlan && !same && !named && (
                <button
                  type="button"
                  className="press"
                  disabled={busy}
                  onClick={() => void record()}
                >
                  Put it on the shelf
                </button>
              )}
              <button type="button" className="act" onClick={stop}>
                {same ? 'Done' : 'Drop it'}
              </button>
            </p>
          )}
          <ProblemNote problem={problem} />
        </div>
      )}
    </div>
  );
}
