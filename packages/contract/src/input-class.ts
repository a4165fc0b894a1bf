/** The class-validator class of a change's input, made from its description: one validator for the form and for the door. */
import {
  descriptionOf,
  LONGEST_ADDRESS,
  type ChangeType,
  type Field,
  type Fields,
  type Input,
} from '@insel/core';
import { Transform } from 'class-transformer';
import { Matches, ValidateIf } from 'class-validator';
import {
  Among,
  Apart,
  Day,
  Flag,
  Id,
  Ids,
  Name,
  OneOf,
  Part,
  Parts,
  Text,
  Texts,
  Time,
  Variant,
  Whole,
  Wholes,
} from './rules.js';
import { ChangeExtras } from './extras.js';
import { checked, type Checked } from './check.js';
import type { Contract } from './shape.js';

const MADE = new Map<string, Contract>();

/** The class of a type's input; made once. @throws Error for a type that nobody described */
export function inputClass(type: ChangeType): Contract {
  const held = MADE.get(type);
  if (held) return held;
  const description = descriptionOf(type);
  if (!description) throw new Error(`there is no change "${type}"`);
  const made = classOf(type, description.input);
  MADE.set(type, made);
  return made;
}

function classOf(name: string, fields: Fields, tag?: string): Contract {
  const made = { [name]: class {} }[name] as Contract;
  const prototype = made.prototype as object;
  if (tag) OneOf([tag])(prototype, 'as');
  for (const [key, field] of Object.entries(fields)) {
    for (const rule of rulesOf(`${name}.${key}`, field)) rule(prototype, key);
  }
  return made;
}

function rulesOf(name: string, field: Field<unknown>): PropertyDecorator[] {
  const rules = [BY_TYPE[field.type](name, field)];
  if (field.omittable) rules.push(ValidateIf((_, value) => value !== undefined));
  if (field.nullable) rules.push(ValidateIf((_, value) => value !== null));
  return rules;
}

const both =
  (...rules: PropertyDecorator[]): PropertyDecorator =>
  (target, key) =>
    rules.forEach((rule) => rule(target, key));

/** Ids have one form: canonical UUIDs are in lower case (RFC 9562, section 4). */
const Lower = () =>
  Transform(({ value }: { value: unknown }) => {
    const lower = (one: unknown) => (typeof one === 'string' ? one.toLowerCase() : one);
    return Array.isArray(value) ? value.map(lower) : lower(value);
  });

const address = () => Text(LONGEST_ADDRESS);

const BY_TYPE: Record<
  Field<unknown>['type'],
  (name: string, field: Field<unknown>) => PropertyDecorator
> = {
  text: (_, { min, max, form }) => {
    const rule = min ? Name(max) : Text(max);
    return form ? both(rule, Matches(form.pattern, { message: form.sentence })) : rule;
  },
  choice: (_, { choices }) => OneOf(choices!),
  integer: (_, { min, max }) => Whole(min!, max),
  flag: () => Flag(),
  time: () => Time(),
  date: () => Day(),
  address,
  prefix: address,
  mac: address,
  ref: () => both(Lower(), Id()),
  refs: (_, { max }) => both(Lower(), Ids(max)),
  texts: (_, { max, choices }) => (choices ? Among(choices) : Texts(max)),
  addresses: (_, { max }) => Texts(max),
  integers: (_, { max, of }) => Wholes(of!.each!.min!, of!.each!.max!, max),
  choices: (_, { choices }) => Among(choices!),
  pasted: (_, { max }) => Text(max),
  list: (name, { of, max }) => {
    const part = classOf(name, of!);
    return Parts(() => part, max);
  },
  part: (name, { of }) => {
    const part = classOf(name, of!);
    return Part(() => part);
  },
  oneOf: (name, { variants }) =>
    Variant(
      Object.fromEntries(
        Object.entries(variants!).map(([tag, of]) => [tag, classOf(`${name}.${tag}`, of, tag)]),
      ),
    ),
};

/** A row that the client has read, and its revision then. */
export class Expectation {
  @both(Lower(), Id()) id!: string;
  @Whole(0) revision!: number;
}

/** What a change is sent as; its input is checked by the class of its type. */
export class ChangeBody extends ChangeExtras {
  @Apart() input!: object;
  /** Rows that the change alters, as they were read. */
  @ValidateIf((_, value) => value !== undefined)
  @Parts(() => Expectation, 1000)
  expects?: Expectation[];
}

/** Checks what a form holds as the door will. */
export const checkInput = <T extends ChangeType>(type: T, input: unknown): Checked<Input<T>> =>
  checked(inputClass(type) as new () => Input<T> & object, input);
