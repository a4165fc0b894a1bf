/** What is wrong with one value, by the description of its field. */
import { parseAddress, parseMac, parsePrefix } from '../address/index.js';
import { canonicalTime, isDay } from '../quantity/index.js';
import type { Field } from './field.js';
import { type Kind, KINDS } from './kinds/index.js';
import type { Values } from './patch.js';
import { type Refusal, refuse } from './refusal.js';

/** Said where a text holds a private key: the record keeps no secrets of the fleet. */
export const SECRET =
  'This text holds a private key; the record keeps no secrets. Note where the key is kept instead.';

export function fieldFault(kind: Kind, values: Values): Refusal | undefined {
  for (const [name, value] of Object.entries(values)) {
    const field = KINDS[kind].fields[name];
    if (!field) throw new Error(`${kind} has no field ${name}`);
    const sentence = complaint(field, value);
    if (sentence) return refuse({ code: 'bad-value', field: name, sentence });
  }
  return undefined;
}

/** Why a field cannot hold a value, or undefined if it can. */
export function complaint(field: Field<unknown>, value: unknown): string | undefined {
  if (value === null)
    return field.nullable ? undefined : 'Give a value: this cannot be left empty.';
  switch (field.type) {
    case 'text':
      if (typeof value !== 'string') return 'Write a text.';
      if (holdsSecret(value)) return SECRET;
      if (value.trim().length < (field.min ?? 0)) return 'Write a name.';
      if (field.reads) return sentenceOf(field.reads(value));
      return value.length > field.max!
        ? `At most ${field.max} characters, this has ${value.length}.`
        : undefined;
    case 'choice':
      return field.choices!.includes(value as string)
        ? undefined
        : `Choose one of: ${field.choices!.join(', ')}.`;
    case 'integer':
      if (!Number.isSafeInteger(value)) return 'Write a whole number.';
      if ((value as number) < field.min!) return `At least ${field.min}, not ${String(value)}.`;
      return (value as number) > field.max!
        ? `At most ${field.max}, not ${String(value)}.`
        : undefined;
    case 'flag':
      return typeof value === 'boolean' ? undefined : 'Say yes or no.';
    case 'time':
      return typeof value === 'string' && canonicalTime(value) === value
        ? undefined
        : 'Write a time as 2026-11-20T08:00:00Z.';
    case 'date':
      return typeof value === 'string' && isDay(value) ? undefined : 'Write a date as 2026-11-20.';
    case 'address':
      return sentenceOf(parseAddress(String(value)));
    case 'prefix':
      return sentenceOf(parsePrefix(String(value)));
    case 'mac':
      return sentenceOf(parseMac(String(value)));
    case 'ref':
      return typeof value === 'string' && value !== '' ? undefined : 'Choose a record.';
    case 'texts':
      if (!isTexts(value)) return 'Give a list.';
      return value.some(holdsSecret) ? SECRET : undefined;
    case 'addresses':
      if (!isTexts(value)) return 'Give a list.';
      return value.map((member) => sentenceOf(parseAddress(member))).find(Boolean);
  }
}

const isTexts = (value: unknown): value is string[] =>
  Array.isArray(value) && value.every((member) => typeof member === 'string');

export const holdsSecret = (text: string): boolean =>
  /-----BEGIN [A-Z ]*PRIVATE KEY-----/.test(text);

const sentenceOf = (parsed: { ok: true } | { ok: false; sentence: string; suggestion?: string }) =>
  parsed.ok
    ? undefined
    : [parsed.sentence, parsed.suggestion && `Write ${parsed.suggestion}.`]
        .filter(Boolean)
        .join(' ');
