/** The parts of a host, typed in as lists: modules, disks and the arrays they form, ports, NUMA nodes. */
import type { HostSheet, Problem } from '@insel/contract';
import { formatBoth, parseBytes, type ArrayLevel, type DiskClass } from '@insel/core';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { Making } from '../../components/area.js';
import { useChangeForm } from '../../components/change-form.js';
import { useKeptForm } from '../../components/kept-form.js';
import type { Errors } from '../../components/field.js';
import { KeepParts, PartsTable, type PartRow } from '../../components/parts-table.js';
import { ProblemNote } from '../../components/problem.js';
import { ArrayOptions } from './array-options.js';
import { useRead } from '../../client/read.js';
import { type Draft, draftOf, columnsOf, hardwareOf, type List, FRESH } from './hardware-draft.js';

export function HardwarePage() {
  const { id = '' } = useParams();
  const sheet = useRead('host', { id });
  if (sheet.error) return <p className="p-6 text-signal">{sheet.error.message}</p>;
  return sheet.data ? <HardwareForm key={id} sheet={sheet.data} /> : null;
}

function HardwareForm({ sheet }: { sheet: HostSheet }) {
  const go = useNavigate();
  const { host } = sheet;
  const kept = useKeptForm<Draft>(`hardware:${host.id}`, () => draftOf(sheet));
  const { values: draft, set, forget } = kept;
  const [against, setAgainst] = useState({ id: host.id, revision: host.revision });
  const columns = columnsOf(draft.arrays.map((array) => String(array.name)));
  const form = useChangeForm(kept, {
    type: 'host.set-hardware',
    read: (typed) => {
      const [hardware, faults] = hardwareOf(typed);
      return [{ hostId: host.id, hardware }, inHardware(faults)];
    },
    options: { seen: against },
    sent: () => void go(`/hosts/${host.id}`),
  });
  const { send, busy, problem } = form;
  const leave = () => {
    forget();
    void go(`/hosts/${host.id}`);
  };
  const of = (list: List): Errors =>
    Object.fromEntries(
      Object.entries(form.errors).flatMap(([field, sentence]) => {
        const [, part, rest] = /^(?:hardware\.)?(\w+)\.(.*)$/.exec(field) ?? [];
        return part === list ? [[rest!, sentence]] : [];
      }),
    );
  const table = (list: List, title: string, name: string) => (
    <PartsTable
      title={title}
      name={name}
      columns={columns[list]}
      rows={draft[list]}
      set={(rows) => set({ [list]: rows })}
      fresh={FRESH[list]}
      errors={of(list)}
    />
  );
  const bytes = draft.disks.map((disk) => parseBytes(String(disk.bytes)));
  const total = bytes.reduce((sum, found) => sum + (found.ok ? found.value : 0), 0);
  return (
    <Making
      title={`Hardware of ${host.name}`}
      consequences={
        <>
          <p className="mb-1 text-faint">
            {draft.disks.length} disks, {formatBoth(total)} raw
          </p>
          {['', ...draft.arrays.map((array) => String(array.name))].map((name) => {
            const members = draft.disks.filter((disk) => disk.array === name);
            const sizes = members
              .map((disk) => parseBytes(String(disk.bytes)))
              .flatMap((found) => (found.ok && found.value > 0 ? [found.value] : []));
            if (sizes.length < 2) return null;
            return (
              <section key={name} className="mb-4">
                <h2 className="font-bold text-pencil">
                  The {sizes.length} disks {name ? `of ${name}` : 'outside arrays'} in every level
                </h2>
                <ArrayOptions
                  disks={sizes}
                  diskClass={members[0]!.class as DiskClass}
                  spares={members.filter((disk) => disk.spare).length}
                  chosen={
                    draft.arrays.find((array) => array.name === name)?.level as
                      ArrayLevel | undefined
                  }
                  brief
                />
              </section>
            );
          })}
        </>
      }
      form={
        <form onSubmit={(event) => event.preventDefault()}>
          {table('arrays', 'Arrays', 'array')}
          {table('disks', 'Disks', 'disk')}
          {table('ports', 'Ports', 'port')}
          {table('modules', 'Memory modules', 'module')}
          {table('nodes', 'NUMA nodes', 'node')}
          {problem?.status === 412 ? (
            <Stale
              problem={problem}
              draft={draft}
              sheet={sheet}
              writeMine={(revision) => setAgainst({ id: host.id, revision })}
              dropMine={leave}
            />
          ) : (
            <ProblemNote problem={problem} />
          )}
          <KeepParts label="Keep these parts" busy={busy} keep={send} drop={leave} />
        </form>
      }
    />
  );
}

/** Under the names of what is sent. */
const inHardware = (faults: Errors): Errors =>
  Object.fromEntries(Object.entries(faults).map(([at, why]) => [`hardware.${at}`, why]));

/** Somebody altered the host meanwhile: how many parts each side has, and which to keep. */
function Stale({
  problem,
  draft,
  sheet,
  writeMine,
  dropMine,
}: {
  problem: Problem;
  draft: Draft;
  sheet: HostSheet;
  writeMine: (revision: number) => void;
  dropMine: () => void;
}) {
  const theirs = draftOf(sheet);
  const words = (rows: PartRow[]) =>
    rows
      .map((row) =>
        Object.values(row)
          .filter((value) => value !== '' && value !== false)
          .join(' '),
      )
      .join('; ') || 'none';
  const differing = (Object.keys(draft) as List[]).filter(
    (list) => words(draft[list]) !== words(theirs[list]),
  );
  const { revision } = (problem.current ?? { revision: 0 }) as { revision: number };
  return (
    <div role="alert" className="my-2 border-l-4 border-signal pl-3">
      <p>
        <span className="font-bold text-signal">■ {problem.title}.</span> {problem.sentence}
      </p>
      {differing.map((list) => (
        <div key={list} className="grid grid-cols-[90px_1fr] text-[13px]">
          <span className="text-faint">{list} now</span>
          <span>{words(theirs[list])}</span>
          <span className="text-faint">you typed</span>
          <b>{words(draft[list])}</b>
        </div>
      ))}
      <button type="button" className="act" onClick={() => writeMine(revision)}>
        Write mine: press “Keep these parts” again
      </button>{' '}
      <button type="button" className="act" onClick={dropMine}>
        Keep theirs
      </button>
    </div>
  );
}
