/** Days and minutes in one notation, whatever the language of the browser: 2027-01-16, 2027-01-16 02:00. */
import type { InputHTMLAttributes } from 'react';
import { canonicalTime } from '@insel/core';

type Props = Omit<InputHTMLAttributes<HTMLInputElement>, 'type' | 'value' | 'onChange'> & {
  value: string;
  onValue: (text: string) => void;
};

export const DayInput = ({ value, onValue, ...rest }: Props) => (
  <input
    inputMode="numeric"
    placeholder="2027-01-16"
    pattern="\d{4}-\d{2}-\d{2}"
    title="A day as 2027-01-16"
    {...rest}
    className="mono"
    value={value}
    onChange={(event) => onValue(event.target.value)}
  />
);

export const MinuteInput = ({ value, onValue, ...rest }: Props) => (
  <input
    placeholder="2027-01-16 02:00"
    title="A minute as 2027-01-16 02:00"
    {...rest}
    className="mono"
    value={value}
    onChange={(event) => onValue(event.target.value)}
  />
);

/** A minute as people write it, read as UTC; what is none stays as it is, so that the check says so. */
export const utcOf = (text: string): string =>
  canonicalTime(`${text.trim().replace(' ', 'T')}:00Z`) ?? text;

/** The same of the place where the browser is. */
export function localOf(text: string): string {
  const time = new Date(text.trim().replace(' ', 'T'));
  return Number.isNaN(time.getTime()) ? text : time.toISOString();
}

/** A minute of the place where the browser is, as a field holds it. */
export const minuteHere = (date: Date): string =>
  new Date(date.getTime() - date.getTimezoneOffset() * 60_000)
    .toISOString()
    .slice(0, 16)
    .replace('T', ' ');
