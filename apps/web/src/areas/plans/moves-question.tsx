/** What is asked of moves: which, by what aim, within which limits. */
import { type Aim, type EvenBy, AIMS, EVEN_BY } from '@insel/core';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { LinkField } from '../../components/link-field.js';
import { Field } from '../../components/field.js';
import { useRead } from '../../client/read.js';
import type { RoundQuestion } from './found-round.js';
import { NO_GROUP, useHostsOf, GroupField, SecondsField, type Members } from './search-parts.js';
import { NamedSelect } from '../../components/named-select.js';

/** One thing more than what a single search can do. */
export type Wanted = Aim | 'round';

const WANTED: readonly Wanted[] = [AIMS[0], 'round', ...AIMS.slice(1)];

const AIM_WORDS: Record<Wanted, string> = {
  empty: 'Empty hosts',
  round: 'Work at hosts in turn',
  fewest: 'Get by with fewer hosts',
  even: 'Even out',
};

const BY_WORDS: Record<EvenBy, string> = {
  given: 'what guests were given',
  used: 'what they use, hour by hour',
};

export interface MovesQuestion {
  aim: Aim;
  groupId: string | null;
  emptiedIds: string[];
  mostMoves: number;
  mostGiB?: number;
  by?: EvenBy;
  keepTolerance: boolean;
  linkBitsPerSecond: number;
  seconds: number;
}

export function Question({
  look,
  busy,
}: {
  look: (question: MovesQuestion | RoundQuestion) => Promise<void>;
  busy: boolean;
}) {
  const [search] = useSearchParams();
  const of = useRead('host', search.get('host') ? { id: search.get('host')! } : null).data;
  const groups = useRead('hostGroups').data ?? [];
  const [draft, setDraft] = useState({
    aim: 'empty' as Wanted,
    returns: true,
    workMinutes: 60,
    platformId: '',
    group: '',
    emptied: null as string[] | null,
    mostMoves: 5,
    mostGiB: '',
    by: 'given' as EvenBy,
    keepTolerance: true,
    linkBitsPerSecond: 1e9,
    seconds: 5,
  });
  const group = draft.group || (of ? (of.group?.id ?? NO_GROUP) : (groups[0]?.id ?? NO_GROUP));
  const members = useHostsOf(group);
  const alone = of && !draft.group ? [of.host.id] : [];
  // A round goes through all of them, unless some are left out.
  const emptied =
    draft.emptied ?? (draft.aim === 'round' ? members.hosts.map(({ id }) => id) : alone);
  const set = (more: Partial<typeof draft>) => setDraft({ ...draft, ...more });
  const { aim, mostMoves, keepTolerance, linkBitsPerSecond, seconds, returns, workMinutes } = draft;
  const platforms = useRead('platforms').data ?? [];
  const groupId = group === NO_GROUP ? null : group;
  return (
    <form
      className="flex flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (aim === 'round')
          return void look({
            ...{ groupId, hostIds: emptied, returns, workMinutes },
            ...{ linkBitsPerSecond, seconds, platformId: draft.platformId || null },
          });
        void look({
          aim,
          groupId,
          emptiedIds: aim === 'empty' ? emptied : [],
          mostMoves,
          ...(aim === 'even' ? { by: draft.by } : {}),
          ...(aim === 'even' && /^[1-9]\d*$/.test(draft.mostGiB)
            ? { mostGiB: Number(draft.mostGiB) }
            : {}),
          keepTolerance,
          linkBitsPerSecond,
          seconds,
        });
      }}
    >
      <fieldset>
        <legend className="text-xs font-bold text-faint">What is wanted</legend>
        {WANTED.map((one) => (
          <label key={one} className="flex min-h-6 items-center gap-2">
            <input
              type="radio"
              name="aim"
              checked={aim === one}
              onChange={() => set({ aim: one, emptied: null })}
            />
            {AIM_WORDS[one]}
          </label>
        ))}
      </fieldset>
      <GroupField
        value={group}
        onChange={(id) => set({ group: id, emptied: aim === 'round' ? null : [] })}
      />
      {(aim === 'empty' || aim === 'round') && (
        <Emptied
          title={aim === 'round' ? 'To be worked at, one at a time' : 'To be left by all'}
          members={members}
          emptied={emptied}
          set={(ids) => set({ emptied: ids })}
        />
      )}
      {aim === 'round' && (
        <>
          <label className="flex min-h-6 items-center gap-2">
            <input
              type="checkbox"
              checked={returns}
              onChange={(event) => set({ returns: event.target.checked })}
            />
            Guests come back to their host
          </label>
          <Field label="Minutes of work at each">
            <input
              type="number"
              min={1}
              max={10080}
              value={workMinutes}
              onChange={(event) => set({ workMinutes: Number(event.target.value) })}
            />
          </Field>
          <Field label="Each takes the release">
            <NamedSelect
              value={draft.platformId}
              onChange={(event) => set({ platformId: event.target.value })}
              rows={platforms}
              none="none, the work alters none"
            />
          </Field>
        </>
      )}
      {aim === 'even' && (
        <Field label="By">
          <select value={draft.by} onChange={(event) => set({ by: event.target.value as EvenBy })}>
            {EVEN_BY.map((one) => (
              <option key={one} value={one}>
                {BY_WORDS[one]}
              </option>
            ))}
          </select>
        </Field>
      )}
      {aim === 'even' && (
        <Field label="At most so many moves">
          <input
            type="number"
            min={1}
            max={500}
            value={mostMoves}
            onChange={(event) => set({ mostMoves: Number(event.target.value) })}
          />
        </Field>
      )}
      {aim === 'even' && (
        <Field label="And so much travels, in GiB">
          <input
            inputMode="numeric"
            placeholder="as much as does"
            value={draft.mostGiB}
            onChange={(event) => set({ mostGiB: event.target.value })}
          />
        </Field>
      )}
      {aim === 'fewest' && (
        <label className="flex min-h-6 items-center gap-2">
          <input
            type="checkbox"
            checked={keepTolerance}
            onChange={(event) => set({ keepTolerance: event.target.checked })}
          />
          Hosts that may fail now must still be able to
        </label>
      )}
      <LinkField value={linkBitsPerSecond} onChange={(rate) => set({ linkBitsPerSecond: rate })} />
      <SecondsField value={seconds} onChange={(some) => set({ seconds: some })} />
      <button type="submit" className="act mt-1 self-start" disabled={busy}>
        Find moves
      </button>
    </form>
  );
}
function Emptied({
  title,
  members: { hosts, total },
  emptied,
  set,
}: {
  title: string;
  members: Members;
  emptied: readonly string[];
  set: (ids: string[]) => void;
}) {
  return (
    <fieldset className="max-h-[260px] overflow-y-auto border border-rule px-2 py-1">
      <legend className="text-xs font-bold text-faint">{title}</legend>
      {hosts.length === 0 && <p className="text-faint">No host is of it.</p>}
      {total > hosts.length && (
        <p className="text-faint">
          Of the first hosts by name only; put hosts into groups to choose others.
        </p>
      )}
      {hosts.map(({ id, name }) => (
        <label key={id} className="flex min-h-6 items-center gap-2">
          <input
            type="checkbox"
            checked={emptied.includes(id)}
            onChange={(event) =>
              set(event.target.checked ? [...emptied, id] : emptied.filter((one) => one !== id))
            }
          />
          {name}
        </label>
      ))}
    </fieldset>
  );
}
