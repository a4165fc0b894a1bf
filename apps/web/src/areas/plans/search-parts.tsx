/** What every search for moves or places is asked with, how far it is, and its end. */
import type { Problem } from '@insel/contract';
import { counted } from '@insel/core';
import { useState, type ReactNode } from 'react';
import { Area } from '../../components/area.js';
import { Field } from '../../components/field.js';
import { ProblemNote } from '../../components/problem.js';
import { usePhone } from '../../components/use-phone.js';
import { ProblemError } from '../../client/api.js';
import { read, useRead } from '../../client/read.js';

/** Hosts that are of no group back each other, too. */
export const NO_GROUP = 'none';

/** One search at a time: under which name, and what came of it. */
export function useSearch<Question, Found>(
  ask: (search: string, question: Question) => Promise<Found>,
) {
  const [name, setName] = useState<string | null>(null);
  const [found, setFound] = useState<Found | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const look = async (question: Question) => {
    const search = crypto.randomUUID();
    setName(search);
    setProblem(null);
    try {
      setFound(await ask(search, question));
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error;
      setProblem(error.problem);
    } finally {
      setName(null);
    }
  };
  const forget = () => {
    setFound(null);
    setProblem(null);
  };
  return { look, name, found, problem, forget };
}

/** The question beside what was found; on a phone what was found stands in place of the question. */
export function SearchPage({
  title,
  about,
  question,
  search: { name, found, problem, forget },
  children,
  hint,
  width,
}: {
  title: string;
  about: string;
  question: ReactNode;
  search: Pick<ReturnType<typeof useSearch>, 'name' | 'found' | 'problem' | 'forget'>;
  /** What was found. */
  children: ReactNode;
  /** What will stand there. */
  hint: string;
  width: number;
}) {
  const phone = usePhone();
  const begun = name !== null || found !== null || problem !== null;
  return (
    <Area
      width={width}
      list={
        <div className="h-full overflow-y-auto px-4 py-3">
          <h1>{title}</h1>
          <p className="mb-2 text-faint">{about}</p>
          {question}
        </div>
      }
      sheet={
        phone && !begun ? null : (
          <>
            {phone && name === null && (
              <button type="button" className="act mb-2" onClick={forget}>
                Ask something else
              </button>
            )}
            {name !== null && <UnderWay search={name} />}
            <ProblemNote problem={problem} />
            {children}
            {!found && name === null && !problem && <p className="text-faint">{hint}</p>}
          </>
        )
      }
    />
  );
}

export interface Members {
  hosts: readonly { id: string; name: string }[];
  /** Of so many; the rest is not shown. */
  total: number;
}

/** Hosts of a group, or the first of those that are of none. */
export function useHostsOf(group: string): Members {
  const groups = useRead('hostGroups').data ?? [];
  const others = useRead('hosts', group === NO_GROUP ? { sort: 'name', take: 200 } : null).data;
  if (group !== NO_GROUP) {
    const hosts = groups.find(({ id }) => id === group)?.hosts ?? [];
    return { hosts, total: hosts.length };
  }
  const hosts = others?.rows.filter((row) => row.group === '') ?? [];
  return {
    hosts,
    total: hosts.length + Math.max(0, (others?.total ?? 0) - (others?.rows.length ?? 0)),
  };
}

export function GroupField({ value, onChange }: { value: string; onChange: (id: string) => void }) {
  const groups = useRead('hostGroups').data ?? [];
  return (
    <Field label="Hosts that back each other">
      <select value={value} onChange={(event) => onChange(event.target.value)}>
        {groups.map(({ id, name, hosts }) => (
          <option key={id} value={id}>
            {name}, {hosts.length}
          </option>
        ))}
        <option value={NO_GROUP}>of no group</option>
      </select>
    </Field>
  );
}

export function SecondsField({
  value,
  onChange,
}: {
  value: number;
  onChange: (seconds: number) => void;
}) {
  return (
    <Field label="Look for something better" hint="What is found first is kept meanwhile.">
      <select value={value} onChange={(event) => onChange(Number(event.target.value))}>
        {[2, 5, 20, 60, 120].map((some) => (
          <option key={some} value={some}>
            up to {some} seconds
          </option>
        ))}
      </select>
    </Field>
  );
}

/** How far it is, asked twice a second; stopping keeps the best. */
function UnderWay({ search }: { search: string }) {
  const far = useRead('searching', { search }, { every: 500 }).data;
  const [stopping, setStopping] = useState(false);
  return (
    <div role="status" className="mb-3 flex items-baseline gap-4 border-b border-rule pb-2">
      <span className="text-pencil">
        Looking{far?.underWay ? `, ${far.since} s` : ''}
        {far?.settled && `, ${far.settled.hosts} of ${counted(far.settled.of, 'host')} settled`}
        {far?.best ? `. Best so far: ${far.best}` : ' …'}
      </span>
      <button
        type="button"
        className="act"
        disabled={stopping}
        onClick={() => {
          setStopping(true);
          void read('searchStopped', { search });
        }}
      >
        Stop, keep the best
      </button>
    </div>
  );
}
