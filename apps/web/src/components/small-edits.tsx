/** Short values edited where they stand: yes or no, one of several words, an address or none. */
import { canonical, readBlocks, readWindow } from '@insel/core';
import type { At } from '../client/change.js';
import { asText, Editable } from './editable.js';

export function YesNo({
  at,
  name,
  value,
  yes = 'yes',
  no = 'no',
}: {
  at: At;
  name: string;
  value: boolean;
  yes?: string;
  no?: string;
}) {
  return (
    <Editable
      at={at}
      name={name}
      value={value}
      show={(held) => (held ? yes : no)}
      write={String}
      parse={(text) => ({ ok: true, value: text === 'true' })}
      choices={[
        { value: 'true', label: yes },
        { value: 'false', label: no },
      ]}
    />
  );
}

export function OneOf<T extends string | null>({
  at,
  name,
  value,
  choices,
}: {
  at: At;
  name: string;
  value: T;
  choices: readonly (string | { value: string; label: string })[];
}) {
  const options = choices.map((choice) =>
    typeof choice === 'string' ? { value: choice, label: choice } : choice,
  );
  return (
    <Editable<T>
      at={at}
      name={name}
      value={value}
      show={(held) =>
        options.find((option) => option.value === (held ?? ''))?.label ?? String(held)
      }
      write={(held) => held ?? ''}
      parse={(text) => ({ ok: true, value: (text || null) as T })}
      choices={options}
    />
  );
}

export function AddressEdit({
  at,
  name,
  value,
  none = 'none',
}: {
  at: At;
  name: string;
  value: string | null;
  none?: string;
}) {
  return (
    <Editable<string | null>
      at={at}
      name={name}
      value={value}
      show={(held) => held ?? none}
      write={(held) => held ?? ''}
      parse={(text) => (text.trim() === '' ? { ok: true, value: null } : canonical(text))}
      mono
    />
  );
}

/** Blocks of addresses, in whatever notation; empty where there is no limit. */
export function BlocksEdit({ at, name, value }: { at: At; name: string; value: string }) {
  return (
    <Editable
      at={at}
      name={name}
      value={value}
      show={(held) => held || 'whatever comes'}
      write={String}
      parse={readBlocks}
      mono
    />
  );
}

/** When work may be done; what cannot be read says how it is written. */
export function WindowEdit({
  at,
  name,
  value,
  none = 'any time',
}: {
  at: At;
  name: string;
  value: string;
  none?: string;
}) {
  return (
    <Editable
      at={at}
      name={name}
      value={value}
      show={(held) => held || none}
      write={String}
      parse={(text) => {
        const found = readWindow(text);
        return found.ok ? { ok: true, value: text.trim() } : found;
      }}
    />
  );
}

export function TextEdit({
  at,
  name,
  value,
  mono = false,
}: {
  at: At;
  name: string;
  value: string;
  mono?: boolean;
}) {
  return <Editable at={at} name={name} value={value} show={String} parse={asText} mono={mono} />;
}

/** Notes of a record: Markdown, of as many lines as it takes. */
export const NotesEdit = ({ at, value }: { at: At; value: string }) => (
  <Editable at={at} name="Notes" value={value} show={String} parse={asText} long />
);
