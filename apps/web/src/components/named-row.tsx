/** Records that are kept by the row: a heading line with the way to remove it, a line to add one, whole numbers. */
import type { ChangeType, Input } from '@insel/core';
import { useState, type ReactNode } from 'react';
import { editing, useChange, type At, type Seen } from '../client/change.js';
import { useMayPlan } from '../client/session.js';
import { asText, asWhole, Editable } from './editable.js';
import { ProblemNote } from './problem.js';
import { Fact } from './sheet.js';

/** Kinds whose rows have a name and are recorded, edited and removed by themselves. */
type Kept =
  | 'rack'
  | 'power-feed'
  | 'host-group'
  | 'platform'
  | 'routing-domain'
  | 'site'
  | 'profile'
  | 'guest-group'
  | 'entitlement';

/** A heading line of one row, with the way to remove it. */
export function NamedRow({
  kept,
  row,
  children,
}: {
  kept: Kept;
  row: Seen & { name: string };
  children: ReactNode;
}) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  return (
    <div className="border-b border-rule py-1.5">
      <div className="flex items-baseline gap-4">
        <b className="text-[15px]">
          <Editable
            at={editing(`${kept}.edit`, row)('name')}
            name="Name"
            value={row.name}
            show={String}
            parse={asText}
          />
        </b>
        {mayPlan && (
          <button
            type="button"
            className="act ml-auto text-[13px]"
            onClick={() => void make(`${kept}.remove`, { id: row.id }, { seen: row })}
          >
            Remove
          </button>
        )}
      </div>
      {children}
      <ProblemNote problem={problem} />
    </div>
  );
}

/** A name, and what else a new row cannot be without. */
export function AddNamed({
  kept,
  word,
  more = {},
}: {
  kept: Kept;
  word: string;
  more?: Partial<Input<'profile.record'>>;
}) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const [name, setName] = useState('');
  if (!mayPlan) return null;
  return (
    <form
      className="mt-1 flex items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        const type: ChangeType = `${kept}.record`;
        void make(type, { name, ...more } as Input<typeof type>).then(
          (written) => written && setName(''),
        );
      }}
    >
      <input
        aria-label={`Name of a new ${word}`}
        placeholder={`name of a new ${word}`}
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <button type="submit" className="act">
        Record a {word}
      </button>
      <ProblemNote problem={problem} />
    </form>
  );
}

export function NumberFact({
  at,
  name,
  value,
  unit = '',
  none,
}: {
  at: At;
  name: string;
  value: number | null;
  unit?: string;
  none?: string;
}) {
  return (
    <Fact name={name}>
      <Editable<number | null>
        at={at}
        name={name}
        value={value}
        show={(held) => (held === null ? (none ?? '') : `${held}${unit && ` ${unit}`}`)}
        write={(held) => (held === null ? '' : String(held))}
        parse={(text) =>
          none !== undefined && text.trim() === '' ? { ok: true, value: null } : asWhole(text)
        }
        mono
      />
    </Fact>
  );
}
