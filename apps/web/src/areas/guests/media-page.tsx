/** The shelf of install media. A file that is dropped is read here for its size and SHA-256; it is not uploaded. */
import type { MediumView } from '@insel/contract';
import { FAMILIES, formatBinary, formatBoth, formatDecimal, parseBytes } from '@insel/core';
import { useEffect, useRef, useState, type DragEvent } from 'react';
import { Link } from 'react-router';
import type { FromDigest } from '../../frame/digest.worker.js';
import { useMayPlan } from '../../frame/session.js';
import { useUrlState } from '../../frame/url-state.js';
import { editing, useChange } from '../../frame/change.js';
import { asText, Editable } from '../../components/editable.js';
import { SheetFindings } from '../../components/finding-line.js';
import { ProblemNote } from '../../components/problem.js';
import { Progress } from '../../components/progress.js';
import { Fact, Facts } from '../../components/sheet.js';
import { OneOf, TextEdit } from '../../components/small-edits.js';
import { useRead } from '../../frame/read.js';

export function MediaPage() {
  const media = useRead('media');
  const [search, set] = useUrlState();
  const open = search.get('open') ?? media.data?.[0]?.id ?? '';
  const medium = media.data?.find((found) => found.id === open);
  return (
    <div className="grid h-full grid-cols-1 overflow-y-auto lg:grid-cols-[600px_1fr] lg:overflow-hidden">
      <div className="min-w-0 border-ink px-4 py-3 lg:overflow-y-auto lg:border-r">
        <h1>Media shelf</h1>
        <Drop media={media.data ?? []} />
        {media.error && <p className="text-signal">{media.error.message}</p>}
        <table className="mt-2 w-full text-left text-[13px]">
          <thead>
            <tr className="border-b border-ink text-xs">
              <th>Image</th>
              <th>Installs</th>
              <th>Release</th>
              <th className="text-right">Size</th>
              <th className="pl-4 whitespace-nowrap">In drives of</th>
            </tr>
          </thead>
          <tbody>
            {media.data?.map((row) => (
              <tr
                key={row.id}
                className={`border-b border-rule align-top leading-6 ${row.id === open ? 'bg-water' : ''}`}
              >
                <td className="w-[190px] pr-2">
                  <button
                    type="button"
                    aria-current={row.id === open || undefined}
                    className="block min-h-6 cursor-pointer text-left leading-6 font-bold [overflow-wrap:anywhere]"
                    onClick={() => set({ open: row.id })}
                  >
                    {row.name}
                  </button>
                </td>
                <td>
                  {row.platform
                    ? row.platform.name
                    : row.system || (row.family === 'none' ? '–' : row.family)}
                </td>
                <td className="whitespace-nowrap">
                  {row.release}
                  {row.newer && <span className="text-amber"> ◆ old</span>}
                </td>
                <td className="mono text-right whitespace-nowrap">{formatDecimal(row.bytes)}</td>
                <td className="pl-4 whitespace-nowrap">
                  {row.attached.map((guest) => guest.name).join(', ')}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {media.data?.length === 0 && (
          <p className="text-faint">
            Nothing on the shelf. Drop an image above: its name, size and digest are read off it.
          </p>
        )}
      </div>
      <div className="min-w-0 px-5 py-3 lg:overflow-y-auto">
        {medium && <Medium key={medium.id} medium={medium} />}
      </div>
    </div>
  );
}

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
    const made = new Worker(new URL('../../frame/digest.worker.ts', import.meta.url), {
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

function Drop({ media }: { media: MediumView[] }) {
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

const INSTALLS = [
  { value: 'full', label: 'full medium, works offline' },
  { value: 'network', label: 'network install' },
  { value: 'drivers', label: 'drivers' },
  { value: 'other', label: 'something else' },
];
const day = (text: string): { ok: true; value: string | null } | { ok: false; sentence: string } =>
  text.trim() === ''
    ? { ok: true, value: null }
    : /^\d{4}-\d{2}-\d{2}$/.test(text.trim())
      ? { ok: true, value: text.trim() }
      : { ok: false, sentence: 'Write a day as 2026-05-31.' };
const digest = (text: string) =>
  /^([0-9a-f]{64})?$/i.test(text.trim())
    ? { ok: true as const, value: text.trim().toLowerCase() }
    : { ok: false as const, sentence: 'A SHA-256 has 64 hexadecimal digits.' };

function Medium({ medium }: { medium: MediumView }) {
  const mayPlan = useMayPlan();
  const pools = useRead('pools').data ?? [];
  const platforms = useRead('platforms').data ?? [];
  const { make, problem } = useChange();
  const at = editing('medium.edit', medium);
  const none = { value: '', label: 'none' };
  return (
    <article aria-label={`Medium ${medium.name}`}>
      <div className="mb-2 flex items-baseline gap-4">
        <h2 className="text-[18px] font-bold">
          <Editable at={at('name')} name="Name" value={medium.name} show={String} parse={asText} />
        </h2>
        {mayPlan && (
          <button
            type="button"
            className="act ml-auto"
            onClick={() => void make('medium.remove', { id: medium.id }, { seen: medium })}
          >
            Take it off the shelf
          </button>
        )}
      </div>
      <ProblemNote problem={problem} />
      <SheetFindings findings={medium.findings} />
      <Facts>
        <Fact name="Size">
          <Editable
            at={at('bytes')}
            name="Size"
            value={medium.bytes}
            show={formatBoth}
            write={(value) => `${value} B`}
            parse={parseBytes}
            mono
          />
        </Fact>
        <Fact name="Kind">
          <OneOf at={at('install')} name="Kind" value={medium.install} choices={INSTALLS} />
        </Fact>
        <Fact name="Installs">
          <TextEdit at={at('system')} name="Installs" value={medium.system} />
        </Fact>
        <Fact name="Family">
          <OneOf
            at={at('family')}
            name="Family"
            value={medium.family}
            choices={[{ value: 'none', label: 'not for guests' }, ...FAMILIES]}
          />
        </Fact>
        <Fact name="Release">
          <TextEdit at={at('release')} name="Release" value={medium.release} mono />
        </Fact>
        <Fact name="Of the day">
          <Editable<string | null>
            at={at('releasedOn')}
            name="Of the day"
            value={medium.releasedOn}
            show={(value) => value ?? 'not known'}
            write={(value) => value ?? ''}
            parse={day}
            mono
          />
        </Fact>
        <Fact name="In pool">
          <OneOf<string | null>
            at={at('poolId')}
            name="In pool"
            value={medium.poolId}
            choices={[none, ...pools.map((pool) => ({ value: pool.id, label: pool.name }))]}
          />
        </Fact>
        <Fact name="Kept at">
          <TextEdit at={at('kept')} name="Kept at" value={medium.kept} />
        </Fact>
        <Fact name="For platform">
          <OneOf<string | null>
            at={at('platformId')}
            name="For platform"
            value={medium.platformId}
            choices={[
              none,
              ...platforms.map((platform) => ({ value: platform.id, label: platform.name })),
            ]}
          />
        </Fact>
      </Facts>
      <dl>
        <Fact name="SHA-256">
          <Editable
            at={at('sha256')}
            name="SHA-256"
            value={medium.sha256}
            show={(value) =>
              value ? value.replace(/(.{8})(?=.)/g, '$1 ') : 'not known: drop the file to read it'
            }
            write={String}
            parse={digest}
            mono
          />
        </Fact>
      </dl>
      <h3 className="mt-3 font-bold">In drives of</h3>
      {medium.attached.map((guest) => (
        <p key={guest.id}>
          <Link
            className="inline-block min-h-6 min-w-6 leading-6 underline decoration-rule"
            to={`/guests/${guest.id}`}
          >
            {guest.name}
          </Link>
          , {guest.state}
          {guest.atPowerOn ? ', connected at power-on' : ''}
        </p>
      ))}
      {medium.attached.length === 0 && <p className="text-faint">no guest</p>}
    </article>
  );
}
