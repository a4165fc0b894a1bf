/** What the guest prints of itself before and after: one script, pasted twice; its difference is the acceptance. */
import type { MigrationSheet } from '@insel/contract';
import { counted, LONGEST_READING, READING_SCRIPT } from '@insel/core';
import { useState } from 'react';
import { ProblemNote } from '../../components/problem.js';
import { Part } from '../../components/sheet.js';
import { useChange } from '../../client/change.js';
import { useMayPlan } from '../../client/session.js';
import { minuteOf } from '../../components/minute.js';

export function ReadingsPart({ sheet }: { sheet: MigrationSheet }) {
  const { migration, readings, guest } = sheet;
  const [open, setOpen] = useState(false);
  const mayPlan = useMayPlan();
  const over = migration.state === 'accepted' || migration.state === 'rolled back';
  const when = migration.state === 'switched' ? 'after' : 'before';
  if (over && !readings.before && !readings.after) return null;
  return (
    <Part title="What it prints before and after">
      {(['before', 'after'] as const).map((side) => {
        const read = readings[side];
        return (
          <p key={side} className="text-[13px]">
            <span className="inline-block w-14 text-faint">{side}</span>
            {read ? (
              <>
                {counted(read.lines, 'line')},{' '}
                <span className="mono">{minuteOf(read.takenAt)}</span>, {read.by}
              </>
            ) : (
              <span className="text-faint">not read</span>
            )}
          </p>
        );
      })}
      {readings.verdicts.length > 0 && <Verdicts verdicts={readings.verdicts} />}
      {mayPlan && !over && (
        <button type="button" className="act" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? 'Close' : `Paste what it prints ${when} its move`}
        </button>
      )}
      {open && <Take sheet={sheet} when={when} name={guest.name} close={() => setOpen(false)} />}
    </Part>
  );
}

/** What is not as it was stands first, then what nobody knows; what holds is folded. */
function Verdicts({ verdicts }: { verdicts: MigrationSheet['readings']['verdicts'] }) {
  const holding = verdicts.filter(({ holds }) => holds === true);
  const others = verdicts
    .filter(({ holds }) => holds !== true)
    .sort((a, b) => Number(a.holds === null) - Number(b.holds === null));
  const row = ({ what, holds, sentence }: (typeof verdicts)[number]) => (
    <li key={what} className="grid grid-cols-[16px_104px_1fr] gap-x-2">
      <span
        aria-hidden
        className={holds ? 'text-teal' : holds === false ? 'font-bold text-signal' : 'text-faint'}
      >
        {holds ? '✓' : holds === false ? '■' : '?'}
      </span>
      <span className="text-faint">{what}</span>
      <span className="[overflow-wrap:anywhere]">{sentence}</span>
    </li>
  );
  return (
    <div className="my-1 text-[13px]" aria-label="Compared" role="group">
      {others.length === 0 && <p className="text-teal">Everything that it prints is as it was.</p>}
      <ul>{others.map(row)}</ul>
      {holding.length > 0 && (
        <details>
          <summary className="min-h-6 cursor-pointer text-faint">
            {holding.length} as they were or expected
          </summary>
          <ul>{holding.map(row)}</ul>
        </details>
      )}
    </div>
  );
}

function Take({
  sheet: { migration },
  when,
  name,
  close,
}: {
  sheet: MigrationSheet;
  when: 'before' | 'after';
  name: string;
  close: () => void;
}) {
  const [text, setText] = useState('');
  const { make, busy, problem } = useChange();
  const take = async () => {
    const input = { id: migration.id, when, text };
    if (await make('migration.take-reading', input, { seen: migration })) close();
  };
  return (
    <div className="max-w-[760px]">
      <details>
        <summary className="min-h-6 cursor-pointer text-[13px]">
          The script: it reads only, run it in {name} as root
        </summary>
        <p className="text-[13px]">
          <a
            className="act"
            download="before-and-after.sh"
            href={`data:text/x-shellscript;charset=utf-8,${encodeURIComponent(READING_SCRIPT)}`}
          >
            Take before-and-after.sh
          </a>
        </p>
        <pre
          tabIndex={0}
          className="mono overflow-x-auto border border-rule p-2 text-[12px] leading-5"
        >
          {READING_SCRIPT}
        </pre>
      </details>
      <label className="flex flex-col text-xs font-bold text-faint">
        What it printed {when} its move
        <textarea
          className="mono"
          rows={6}
          maxLength={LONGEST_READING}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      <ProblemNote problem={problem} />
      <button
        type="button"
        className="press mt-2"
        disabled={busy || text.trim() === ''}
        onClick={() => void take()}
      >
        Take it in
      </button>
    </div>
  );
}
