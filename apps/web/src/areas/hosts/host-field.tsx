/** Values of a host that are edited where they stand, by the kind of value. */
import { formatMemory, parseMemory, type Input, type Row } from '@insel/core';
import { createContext, useContext, type ReactNode } from 'react';
import { editing } from '../../client/change.js';
import { asText, asWhole, Editable } from '../../components/editable.js';
import { Fact } from '../../components/sheet.js';
import { NotesEdit } from '../../components/small-edits.js';

type Host = Row<'host'>;

const HostContext = createContext<Host | null>(null);
export const OneHost = HostContext.Provider;

type EditableField = keyof Host & keyof Input<'host.edit'> & string;

function useField(field: EditableField) {
  const host = useContext(HostContext)!;
  return { host, at: editing('host.edit', host)(field as 'name') };
}

export function TextField({
  name,
  field,
  mono = false,
  after,
}: {
  name: string;
  field: EditableField;
  mono?: boolean;
  after?: ReactNode;
}) {
  const { host, at } = useField(field);
  return (
    <Fact name={name}>
      <Editable
        at={at}
        name={name}
        value={host[field] as string}
        show={String}
        parse={asText}
        mono={mono}
      />{' '}
      {after}
    </Fact>
  );
}

export function NotesField() {
  const { host, at } = useField('notes');
  return (
    <Fact name="Notes" wide>
      <NotesEdit at={at} value={host.notes} />
    </Fact>
  );
}

const orNull =
  <T,>(parse: (text: string) => { ok: true; value: T } | { ok: false; sentence: string }) =>
  (text: string): { ok: true; value: T | null } | { ok: false; sentence: string } =>
    text.trim() === '' ? { ok: true, value: null } : parse(text);

/** A whole number, with the unit it is shown in; empty where nobody has looked. */
export function NumberField({
  name,
  field,
  unit = '',
  required = false,
  after,
}: {
  name: string;
  field: EditableField;
  unit?: string;
  required?: boolean;
  after?: ReactNode;
}) {
  const { host, at } = useField(field);
  const value = host[field] as number | null;
  return (
    <Fact name={name}>
      <Editable<number | null>
        at={at}
        name={name}
        value={value}
        show={(held) => (held === null ? '' : `${held}${unit && ` ${unit}`}`)}
        write={(held) => (held === null ? '' : String(held))}
        parse={required ? asWhole : orNull(asWhole)}
        mono
      />{' '}
      {after}
    </Fact>
  );
}

export function MemoryField({
  name,
  field,
  none,
  after,
}: {
  name: string;
  field: 'installedMiB' | 'visibleMiB';
  none?: string;
  after?: ReactNode;
}) {
  const { host, at } = useField(field);
  return (
    <Fact name={name}>
      <Editable<number | null>
        at={at}
        name={name}
        value={host[field]}
        show={(held) => (held === null ? (none ?? '') : formatMemory(held))}
        write={(held) => (held === null ? '' : formatMemory(held))}
        parse={none === undefined ? parseMemory : orNull(parseMemory)}
        mono
      />{' '}
      {after}
    </Fact>
  );
}

const asDay = (text: string): { ok: true; value: string } | { ok: false; sentence: string } =>
  /^\d{4}-\d{2}-\d{2}$/.test(text.trim())
    ? { ok: true, value: text.trim() }
    : { ok: false, sentence: 'Write a date as 2027-05-31.' };

export function DayField({
  name,
  field,
}: {
  name: string;
  field: 'warrantyUntil' | 'licenceUntil' | 'certificateUntil' | 'nextMaintenanceOn';
}) {
  const { host, at } = useField(field);
  return (
    <Fact name={name}>
      <Editable<string | null>
        at={at}
        name={name}
        value={host[field]}
        show={(held) => held ?? ''}
        parse={orNull(asDay)}
        mono
      />
    </Fact>
  );
}

/** One of a few words; `choices` as value and label, or as words. */
export function ChoiceField({
  name,
  field,
  choices,
  after,
}: {
  name: string;
  field: EditableField;
  choices: readonly (string | { value: string; label: string })[];
  after?: ReactNode;
}) {
  const { host, at } = useField(field);
  const options = choices.map((choice) =>
    typeof choice === 'string' ? { value: choice, label: choice } : choice,
  );
  const label = (value: string) => options.find((option) => option.value === value)?.label ?? value;
  return (
    <Fact name={name}>
      <Editable<string | null>
        at={at}
        name={name}
        value={host[field] as string | null}
        show={(held) => label(held ?? '')}
        write={(held) => held ?? ''}
        parse={(text) => ({ ok: true, value: text || null })}
        choices={options}
      />{' '}
      {after}
    </Fact>
  );
}

/** Several addresses or words, separated by commas. */
export function ListField({
  name,
  field,
  mono = false,
}: {
  name: string;
  field: 'nameServers' | 'labels' | 'passThrough';
  mono?: boolean;
}) {
  const { host, at } = useField(field);
  return (
    <Fact name={name}>
      <Editable<readonly string[]>
        at={at}
        name={name}
        value={host[field]}
        show={(held) => held.join(', ')}
        parse={(text) => ({ ok: true, value: text.split(/[\s,]+/).filter(Boolean) })}
        mono={mono}
      />
    </Fact>
  );
}

export function AddressField({ name, field }: { name: string; field: 'gateway' }) {
  const { host, at } = useField(field);
  return (
    <Fact name={name}>
      <Editable<string | null>
        at={at}
        name={name}
        value={host[field]}
        show={(held) => held ?? ''}
        parse={(text) => ({ ok: true, value: text.trim() || null })}
        mono
      />
    </Fact>
  );
}
