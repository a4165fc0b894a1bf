/** A value that is edited where it stands: click or e, Enter keeps, Esc drops. A failed save keeps what was typed. */
import { lazy, Suspense, useRef, useState, type KeyboardEvent } from 'react';
import { useMayPlan } from '../client/session.js';
import type { Input, ChangeType } from '@insel/core';
import { useChange, type At } from '../client/change.js';
import { ProblemNote } from './problem.js';

export interface Editing<T> {
  name: string;
  /** The field, of the row as it is shown. */
  at: At;
  value: T;
  show: (value: T) => string;
  /** The text that is edited; by default what is shown. */
  write?: (value: T) => string;
  parse: (text: string) => { ok: true; value: T } | { ok: false; sentence: string };
  choices?: { value: string; label: string }[];
  mono?: boolean;
  /** Text of several lines, shown as Markdown: Enter begins a new one, and Ctrl Enter keeps. */
  long?: boolean;
}

const Markdown = lazy(() => import('./markdown.js'));
/** So much of a long text is read out with the button that edits it. */
const READ_OUT = 80;

export function Editable<T>(props: Editing<T>) {
  const { name, at, value, show, parse, choices, mono, long } = props;
  const mayPlan = useMayPlan();
  const { make, busy, problem, setProblem } = useChange();
  const [text, setText] = useState<string | null>(null);
  const [fault, setFault] = useState('');
  const [override, setOverride] = useState('');
  const trigger = useRef<HTMLButtonElement>(null);
  const close = () => {
    setText(null);
    setFault('');
    setOverride('');
    setProblem(null);
    // Whoever has gone on to something else meanwhile stays there.
    setTimeout(() => document.activeElement === document.body && trigger.current?.focus());
  };
  const keep = async (typed: string, revision = at.seen.revision) => {
    const read = parse(typed);
    if (!read.ok) return setFault(read.sentence);
    setFault('');
    if (show(read.value) === show(value)) return close();
    const input = { id: at.seen.id, [at.field]: read.value } as unknown as Input<ChangeType>;
    if (await make(at.type, input, { seen: { ...at.seen, revision }, override })) close();
  };
  if (text === null || !mayPlan) {
    const shown = show(value);
    const block = long && shown && (
      <Suspense fallback={<span className="whitespace-pre-wrap">{shown}</span>}>
        <Markdown text={shown} />
      </Suspense>
    );
    if (!mayPlan) return block || <span className={mono ? 'mono' : ''}>{shown || '–'}</span>;
    const readOut = shown.length > READ_OUT ? `${shown.slice(0, READ_OUT)} …` : shown;
    return (
      <>
        {block}
        <button
          ref={trigger}
          type="button"
          data-editable
          className={
            block
              ? 'act'
              : `min-h-6 min-w-6 cursor-text border-b border-transparent text-left hover:border-teal ${mono ? 'mono' : ''}`
          }
          aria-label={`${name}: ${(long ? readOut : shown) || 'empty'}, edit`}
          onClick={() => setText((props.write ?? show)(value))}
        >
          {block ? 'Edit' : shown || <span className="text-faint">–</span>}
        </button>
      </>
    );
  }
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'Enter' && (!long || event.ctrlKey || event.metaKey)) {
      event.preventDefault();
      void keep(text);
    }
    if (event.key === 'Escape') {
      event.stopPropagation();
      close();
    }
  };
  const current =
    problem?.status === 412 ? (problem.current as Record<string, unknown> | null) : null;
  const common = {
    'aria-label': name,
    autoFocus: true,
    disabled: busy,
    value: text,
    onKeyDown,
    'aria-invalid': Boolean(fault || problem),
  };
  return (
    <span className={long ? 'block' : 'inline-block max-w-full'}>
      {long ? (
        <textarea
          {...common}
          className="w-full"
          rows={Math.min(16, Math.max(4, text.split('\n').length + 1))}
          aria-keyshortcuts="Control+Enter"
          onChange={(event) => setText(event.target.value)}
        />
      ) : choices ? (
        <select {...common} onChange={(event) => setText(event.target.value)}>
          {choices.map((choice) => (
            <option key={choice.value} value={choice.value}>
              {choice.label}
            </option>
          ))}
        </select>
      ) : (
        <input
          {...common}
          className={mono ? 'mono' : ''}
          size={Math.max(12, text.length + 2)}
          onChange={(event) => setText(event.target.value)}
        />
      )}{' '}
      <button type="button" className="act" onClick={() => void keep(text)}>
        Keep
      </button>{' '}
      <button type="button" className="act" onClick={close}>
        Drop
      </button>
      {long && <span className="ml-2 text-xs text-faint">Ctrl Enter keeps; Markdown</span>}
      {fault && <span className="block text-xs font-bold text-signal">{fault}</span>}
      {problem && !current && <ProblemNote problem={problem} />}
      {problem?.overridable && (
        <input
          aria-label="Reason to do it all the same"
          placeholder="Reason to do it all the same"
          value={override}
          onChange={(event) => setOverride(event.target.value)}
          onKeyDown={onKeyDown}
        />
      )}
      {current && (
        <span role="alert" className="my-1 block border-l-4 border-signal pl-3">
          Somebody altered this record after you read it.
          <span className="grid grid-cols-[80px_1fr]">
            <span className="text-faint">It is now</span>
            <b>{show(current[at.field] as T) || '–'}</b>
            <span className="text-faint">You typed</span>
            <b>{text}</b>
          </span>
          <button
            type="button"
            className="act"
            onClick={() => void keep(text, Number(current.revision))}
          >
            Write mine
          </button>{' '}
          <button type="button" className="act" onClick={close}>
            Keep theirs
          </button>
        </span>
      )}
    </span>
  );
}

export const asText = (text: string): { ok: true; value: string } => ({
  ok: true,
  value: text.trim(),
});

export function asWhole(
  text: string,
): { ok: true; value: number } | { ok: false; sentence: string } {
  return /^\d+$/.test(text.trim())
    ? { ok: true, value: Number(text) }
    : { ok: false, sentence: 'Write a whole number.' };
}
