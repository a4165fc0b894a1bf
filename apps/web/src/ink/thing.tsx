/** Things that are kept by the row: a heading line with the way to remove it, a line to add one, whole numbers. */
import { useState, type ReactNode } from 'react';
import { useMayPlan } from '../frame/session.js';
import { useWrite } from '../frame/write.js';
import { asText, asWhole, Editable } from './editable.js';
import { ProblemNote } from './problem.js';
import { Fact } from './sheet.js';

interface Owned {
  id: string;
  name: string;
  revision: number;
}

/** A heading line of one thing, with the way to remove it. */
export function Thing({ path, row, children }: { path: string; row: Owned; children: ReactNode }) {
  const mayPlan = useMayPlan();
  const { write, problem } = useWrite();
  return (
    <div className="border-b border-rule py-1.5">
      <div className="flex items-baseline gap-4">
        <b className="text-[15px]">
          <Editable
            path={`${path}/${row.id}`}
            seen={row.revision}
            name="Name"
            field="name"
            value={row.name}
            show={String}
            parse={asText}
          />
        </b>
        {mayPlan && (
          <button
            type="button"
            className="act ml-auto text-[13px]"
            onClick={() => void write(`${path}/${row.id}`, { method: 'DELETE' })}
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

/** A name, and what else a new thing cannot be without. */
export function AddThing({ word, path, more = {} }: { word: string; path: string; more?: object }) {
  const mayPlan = useMayPlan();
  const { write, problem } = useWrite();
  const [name, setName] = useState('');
  if (!mayPlan) return null;
  return (
    <form
      className="mt-1 flex items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void write(path, { body: { name, ...more } }).then((written) => written && setName(''));
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

type Numeric = { name: string; field: string; value: number | null; unit?: string; none?: string };

export function WholeFact({
  path,
  seen,
  name,
  field,
  value,
  unit = '',
  none,
}: Numeric & { path: string; seen: number }) {
  return (
    <Fact name={name}>
      <Editable<number | null>
        path={path}
        seen={seen}
        name={name}
        field={field}
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
