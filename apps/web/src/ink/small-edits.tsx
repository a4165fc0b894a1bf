/** Short values edited where they stand: yes or no, one of several words, an address or none. */
import { canonical } from '@insel/core';
import { asText, Editable } from './editable.js';

interface At {
  path: string;
  seen: number;
}

export function YesNo({
  at,
  name,
  field,
  value,
  yes = 'yes',
  no = 'no',
}: {
  at: At;
  name: string;
  field: string;
  value: boolean;
  yes?: string;
  no?: string;
}) {
  return (
    <Editable
      {...at}
      name={name}
      field={field}
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
  field,
  value,
  choices,
}: {
  at: At;
  name: string;
  field: string;
  value: T;
  choices: readonly (string | { value: string; label: string })[];
}) {
  const options = choices.map((choice) =>
    typeof choice === 'string' ? { value: choice, label: choice } : choice,
  );
  return (
    <Editable<T>
      {...at}
      name={name}
      field={field}
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
  field,
  value,
  none = 'none',
}: {
  at: At;
  name: string;
  field: string;
  value: string | null;
  none?: string;
}) {
  return (
    <Editable<string | null>
      {...at}
      name={name}
      field={field}
      value={value}
      show={(held) => held ?? none}
      write={(held) => held ?? ''}
      parse={(text) => (text.trim() === '' ? { ok: true, value: null } : canonical(text))}
      mono
    />
  );
}

export function TextEdit({
  at,
  name,
  field,
  value,
  mono = false,
}: {
  at: At;
  name: string;
  field: string;
  value: string;
  mono?: boolean;
}) {
  return (
    <Editable
      {...at}
      name={name}
      field={field}
      value={value}
      show={String}
      parse={asText}
      mono={mono}
    />
  );
}
