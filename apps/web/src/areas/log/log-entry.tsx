/** One entry of the log, opened: what altered, what came with it. */
import type { LogRow } from '@insel/contract';
import { counted, formatBinary } from '@insel/core';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { minuteOf } from '../../components/minute.js';
import { ProblemNote } from '../../components/problem.js';
import { undo, undone, useChange } from '../../client/change.js';
import { read, useRead } from '../../client/read.js';
import { useMayPlan, useAccount } from '../../client/session.js';

const PATH: Record<string, string> = {
  host: 'hosts',
  guest: 'guests',
  network: 'networks',
  migration: 'migrations',
};

export function Entry({ row }: { row: LogRow }) {
  const mayPlan = useMayPlan();
  const client = useQueryClient();
  return (
    <li className="grid grid-cols-[48px_1fr_auto] items-baseline gap-x-3 md:grid-cols-[52px_144px_110px_1fr_auto] border-b border-rule py-1">
      <span className="mono text-faint">{row.revision}</span>
      <span
        className="mono text-[13px]"
        title={row.happenedAt ? `happened ${row.happenedAt}` : undefined}
      >
        {minuteOf(row.at)}
      </span>
      <span>{row.actorName}</span>
      <div className="col-span-full min-w-0 md:col-span-1">
        <b>{row.title}</b>{' '}
        {row.subjects
          .filter((subject) => PATH[subject.kind])
          .slice(0, 4)
          .map((subject) => (
            <Link
              key={subject.id}
              className="mr-2 text-[13px] underline decoration-rule"
              to={`/${PATH[subject.kind]}/${subject.id}`}
            >
              {subject.kind === 'migration' ? 'its migration' : subject.name}
            </Link>
          ))}
        {row.reason && <p className="text-faint">{row.reason}</p>}
        {row.override && (
          <p>
            <span className="font-bold text-amber">◆ against an objection:</span> {row.override}
          </p>
        )}
        {row.text && row.text !== row.title && (
          <pre className="mono text-[13px] whitespace-pre-wrap">{row.text}</pre>
        )}
        {row.importId && (
          <Link className="act text-[13px]" to={`/log?importId=${row.importId}`}>
            All parts of this import
          </Link>
        )}
        {row.attachment && <Attachment attachment={row.attachment} />}
        {row.happenedAt && (
          <p className="text-[13px] text-faint">happened {minuteOf(row.happenedAt)}</p>
        )}
        {row.difference.length > 0 && (
          <details>
            <summary className="cursor-pointer py-1 text-[13px] text-faint">{row.summary}</summary>
            {row.difference.map((change, i) => (
              <div key={i} className="text-[13px] [overflow-wrap:anywhere]">
                <b>
                  {change.op === 'create' ? '+' : change.op === 'delete' ? '−' : '±'} {change.kind}{' '}
                  {change.name}
                </b>
                {change.fields.map((field) => (
                  <span key={field.field} className="mr-3 ml-2 inline-block max-w-full">
                    {field.field}{' '}
                    {field.before && <del className="mono text-faint">{field.before}</del>}{' '}
                    <ins className="mono no-underline">{field.after}</ins>
                  </span>
                ))}
              </div>
            ))}
          </details>
        )}
      </div>
      <span className="flex gap-3">
        <Link
          className="act"
          to={`/hosts?asOf=${row.revision}`}
          aria-label={`The record after entry ${row.revision}`}
        >
          As it was
        </Link>
        {mayPlan && row.undoable && (
          <button
            type="button"
            className="act"
            onClick={() => void undo(row.revision).then(() => client.invalidateQueries())}
          >
            Undo
          </button>
        )}
      </span>
    </li>
  );
}

/** All parts of an import, taken back as one: the last part first, until one cannot be. */
export function WholeImport({ importId, close }: { importId: string; close: () => void }) {
  const mayPlan = useMayPlan();
  const client = useQueryClient();
  const [far, setFar] = useState<{ done: number; of: number; refused: string } | null>(null);
  const takeBack = async () => {
    const parts = (await read('log', { importId, take: 200 })).rows;
    for (const [done, { revision }] of parts.entries()) {
      setFar({ done, of: parts.length, refused: '' });
      const refused = await undone(revision);
      if (refused) return setFar({ done, of: parts.length, refused });
    }
    setFar({ done: parts.length, of: parts.length, refused: '' });
    void client.invalidateQueries();
  };
  return (
    <p className="mb-2 flex flex-wrap items-baseline gap-4 border-b border-rule pb-2">
      <b>Parts of one import.</b>
      {mayPlan && (
        <button
          type="button"
          className="act"
          disabled={far !== null && far.done < far.of && !far.refused}
          onClick={() => void takeBack()}
        >
          Take the whole import back
        </button>
      )}
      <button type="button" className="act" onClick={close}>
        Show all entries
      </button>
      {far && (
        <span role="status">
          {far.done} of {counted(far.of, 'part')} taken back.
          {far.refused && <b className="text-signal"> ■ {far.refused}</b>}
        </span>
      )}
    </p>
  );
}

/** A long pasted text, read when it is opened; an administrator can take it out for good. */
function Attachment({
  attachment: { sha256, bytes, redacted },
}: {
  attachment: NonNullable<LogRow['attachment']>;
}) {
  const [open, setOpen] = useState(false);
  const [why, setWhy] = useState<string>();
  const { role } = useAccount();
  const { make, problem } = useChange();
  const text = useRead('attachment', open && !redacted ? { sha256 } : null);
  if (redacted)
    return (
      <p className="text-[13px] text-faint">
        The pasted text ({formatBinary(bytes)}, SHA-256{' '}
        <span className="mono">{sha256.slice(0, 16)}…</span>) was redacted.
      </p>
    );
  return (
    <div className="text-[13px]">
      <button type="button" className="act" aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? 'Close' : 'Open'} the pasted text, {formatBinary(bytes)}
      </button>
      {open && (
        <pre className="mono max-h-64 overflow-auto border border-rule p-2 whitespace-pre-wrap">
          {text.data?.text ?? text.error?.message ?? '…'}
        </pre>
      )}
      {open && role === 'administrator' && why === undefined && (
        <button type="button" className="act" onClick={() => setWhy('')}>
          Redact it …
        </button>
      )}
      {why !== undefined && (
        <div className="mt-1 flex flex-wrap items-center gap-2">
          <input
            autoFocus
            aria-label="Why the text is taken out"
            placeholder="why it is taken out"
            value={why}
            onChange={(event) => setWhy(event.target.value)}
          />
          <button
            type="button"
            className="press"
            onClick={() => void make('attachment.redact', { sha256 }, { reason: why })}
          >
            Take this text out for good
          </button>
          <button type="button" className="act" onClick={() => setWhy(undefined)}>
            Drop
          </button>
        </div>
      )}
      <ProblemNote problem={problem} />
    </div>
  );
}
