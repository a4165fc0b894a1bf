/** What a guest is known by, as somebody saw it: pasted from a script that reads only, compared with its origin and siblings. */
import type { GuestSheet, ReadProofView } from '@insel/contract';
import { LONGEST_PROOF, PROOF_SCRIPT } from '@insel/core';
import { useState } from 'react';
import { ProblemNote } from '../../components/problem.js';
import { Part } from '../../components/sheet.js';
import { useChange } from '../../client/change.js';
import { read, useRead } from '../../client/read.js';
import { useMayPlan } from '../../client/session.js';

export function KnownByPart({ sheet: { guest } }: { sheet: GuestSheet }) {
  const facts = useRead('knownBy', { id: guest.id }).data?.facts ?? [];
  const mayPlan = useMayPlan();
  const [open, setOpen] = useState(false);
  return (
    <Part title="Known by">
      {facts.length > 0 && (
        <table className="text-left text-[13px]">
          <tbody>
            {facts.map(({ id, what, value, seenAt, seenBy }) => (
              <tr key={id}>
                <th className="pr-4 font-normal text-faint">{what}</th>
                <td className="mono pr-4 [overflow-wrap:anywhere]">{value}</td>
                <td className="text-xs whitespace-nowrap text-faint">
                  {seenAt.slice(0, 10)}, {seenBy}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {mayPlan && (
        <button type="button" className="act" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? 'Close' : 'Paste what it prints'}
        </button>
      )}
      {open && <TakeProof guest={guest} close={() => setOpen(false)} />}
    </Part>
  );
}

function TakeProof({ guest, close }: { guest: GuestSheet['guest']; close: () => void }) {
  const [text, setText] = useState('');
  const [found, setFound] = useState<ReadProofView | null>(null);
  const { make, busy, problem } = useChange();
  const look = async (pasted: string) => {
    setText(pasted);
    setFound(
      pasted.trim() === '' ? null : await read('proofRead', { guestId: guest.id, text: pasted }),
    );
  };
  const take = async () => {
    if (await make('guest.take-proof', { guestId: guest.id, text }, { seen: guest })) close();
  };
  return (
    <div>
      <details>
        <summary className="min-h-6 cursor-pointer text-[13px]">
          The script: it reads only, run it in {guest.name} as root
        </summary>
        <p className="text-[13px]">
          <a
            className="act"
            download="known-by.sh"
            href={`data:text/x-shellscript;charset=utf-8,${encodeURIComponent(PROOF_SCRIPT)}`}
          >
            Take known-by.sh
          </a>
        </p>
        <pre
          tabIndex={0}
          className="mono overflow-x-auto border border-rule p-2 text-[12px] leading-5"
        >
          {PROOF_SCRIPT}
        </pre>
      </details>
      <label className="flex flex-col text-xs font-bold text-faint">
        What it printed
        <textarea
          className="mono"
          rows={6}
          maxLength={LONGEST_PROOF}
          value={text}
          onChange={(event) => void look(event.target.value)}
        />
      </label>
      {found?.ok === false && <p className="font-bold text-signal">{found.sentence}</p>}
      {found?.ok && (
        <ul className="text-[13px]">
          {found.verdicts.map(({ item, holds, seen }) => (
            <li key={item}>
              <b className={holds === false ? 'text-signal' : holds === null ? 'text-amber' : ''}>
                {holds === null ? '◆ nobody knows yet' : holds ? '✓ proved' : '■ disproved'}
              </b>{' '}
              {item}: {seen}
            </li>
          ))}
        </ul>
      )}
      <button
        type="button"
        className="press mt-1"
        disabled={busy || !found?.ok}
        onClick={() => void take()}
      >
        Take it in
      </button>
      <ProblemNote problem={problem} />
    </div>
  );
}
