/** Fields that every form of a move has: how its bytes travel, by which link, when. */
import { METHODS, type MoveMethod } from '@insel/core';
import { Field, type Errors } from '../../components/field.js';
import { MinuteInput, utcOf } from '../../components/iso-inputs.js';

export interface MoveFields {
  linkBitsPerSecond: number;
  method: string;
  windowFrom: string;
  windowUntil: string;
}
export const NO_MOVE_FIELDS: MoveFields = {
  linkBitsPerSecond: 1e9,
  method: '',
  windowFrom: '',
  windowUntil: '',
};

/** As the change takes them. */
export const moveInput = ({ linkBitsPerSecond, method, windowFrom, windowUntil }: MoveFields) => ({
  linkBitsPerSecond,
  ...(method ? { method: method as MoveMethod } : {}),
  ...(windowFrom ? { windowFrom: utcOf(windowFrom) } : {}),
  ...(windowUntil ? { windowUntil: utcOf(windowUntil) } : {}),
});

interface Props {
  of: MoveFields;
  set: (change: Partial<MoveFields>) => void;
  error: Errors;
}

export const MethodField = ({
  of,
  set,
  error,
  methods,
}: Props & { methods: readonly MoveMethod[] }) => (
  <Field label="Method" error={error.method}>
    <select value={of.method} onChange={(event) => set({ method: event.target.value })}>
      <option value="">as usual</option>
      {methods.map((method) => (
        <option key={method} value={method}>
          {METHODS[method].words}
        </option>
      ))}
    </select>
  </Field>
);

export const WindowFields = ({ of, set, error }: Props) => (
  <>
    <Field label="Window from" error={error.windowFrom} hint="UTC; empty: none">
      <MinuteInput value={of.windowFrom} onValue={(text) => set({ windowFrom: text })} />
    </Field>
    <Field label="Window until" error={error.windowUntil}>
      <MinuteInput value={of.windowUntil} onValue={(text) => set({ windowUntil: text })} />
    </Field>
  </>
);
