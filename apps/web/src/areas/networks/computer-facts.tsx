/** Values of a computer's sheet that are edited where they stand: memory, times, words; and the paste of what it prints. */
import type { DeviceView } from '@insel/contract';
import { canonicalTime, FACTS_SCRIPT, formatMemory, parseMemory } from '@insel/core';
import { useState } from 'react';
import { Editable } from '../../components/editable.js';
import { ProblemNote } from '../../components/problem.js';
import { Fact } from '../../components/sheet.js';
import { useChange, type At } from '../../client/change.js';
import { useMayPlan } from '../../client/session.js';
import { minuteOf } from '../../components/minute.js';

export function PasteFacts({ device }: { device: DeviceView }) {
  const mayPlan = useMayPlan();
  const { make, busy, problem } = useChange();
  const [text, setText] = useState('');
  if (!mayPlan) return null;
  return (
    <details className="mb-2">
      <summary className="min-h-6 cursor-pointer text-teal">Paste what it prints of itself</summary>
      <p className="text-[13px]">
        <button
          type="button"
          className="act"
          onClick={() => void navigator.clipboard.writeText(FACTS_SCRIPT)}
        >
          Copy the script
        </button>{' '}
        and run it there: it reads only. Output of lscpu, lsblk, ip, dmidecode or a Redfish document
        is read as well. What it does not say stays as it is.
      </p>
      <textarea
        aria-label="What the computer printed"
        className="mono h-28 w-full text-[12px]"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <button
        type="button"
        className="press"
        disabled={busy || !text.trim()}
        onClick={() =>
          void make('computer.take-facts', { id: device.id, text }, { seen: device }).then(
            (written) => written && setText(''),
          )
        }
      >
        Take the facts in
      </button>
      <ProblemNote problem={problem} />
    </details>
  );
}

export function MemoryFact({
  at,
  name,
  value,
  none = '',
}: {
  at: At;
  name: string;
  value: number | null;
  none?: string;
}) {
  return (
    <Fact name={name}>
      <Editable<number | null>
        at={at}
        name={name}
        value={value}
        show={(held) => (held === null ? none : formatMemory(held))}
        write={(held) => (held === null ? '' : formatMemory(held))}
        parse={(text) => (text.trim() === '' ? { ok: true, value: null } : parseMemory(text))}
        mono
      />
    </Fact>
  );
}

export function TimeFact({ at, name, value }: { at: At; name: string; value: string | null }) {
  return (
    <Fact name={name}>
      <Editable<string | null>
        at={at}
        name={name}
        value={value}
        show={(held) => (held ? `${minuteOf(held)} UTC` : 'not recorded')}
        write={(held) => (held ? minuteOf(held) : '')}
        parse={(text) => {
          if (text.trim() === '') return { ok: true, value: null };
          const time = canonicalTime(`${text.trim().replace(' ', 'T')}:00Z`);
          return time
            ? { ok: true, value: time }
            : { ok: false, sentence: 'Write a minute in UTC, as 2027-01-16 02:00.' };
        }}
      />
    </Fact>
  );
}

/** Words with commas between them. */
export function ListFact({
  at,
  name,
  value,
  hint,
}: {
  at: At;
  name: string;
  value: readonly string[];
  hint: string;
}) {
  return (
    <Fact name={name}>
      <Editable<readonly string[]>
        at={at}
        name={name}
        value={value}
        show={(held) => held.join(', ') || `nothing recorded (${hint})`}
        write={(held) => held.join(', ')}
        parse={(text) => ({
          ok: true,
          value: text
            .split(',')
            .map((one) => one.trim())
            .filter(Boolean),
        })}
      />
    </Fact>
  );
}
