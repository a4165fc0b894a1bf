/** Decorators of our own over class-validator: one rule, one sentence a person can act on. */
import { canonicalTime, isDay } from '@insel/core';
import { Transform, Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsObject,
  IsOptional,
  IsString,
  IsUUID,
  Length,
  Max,
  Matches,
  MaxLength,
  Min,
  ValidateBy,
  ValidateIf,
} from 'class-validator';
import { rememberPart, type Contract, type PartClasses } from './shape.js';

type Decorate = PropertyDecorator;
const all =
  (...decorators: Decorate[]): Decorate =>
  (target, key) =>
    decorators.forEach((decorate) => decorate(target, key));

export const Optional = (): Decorate => IsOptional();
/** May be null to say "none", and may be left out to say "as it is". */
export const Clearable = (): Decorate =>
  ValidateIf((_, value) => value !== undefined && value !== null);
export const Name = (max = 100): Decorate =>
  Length(1, max, { message: `Write a name of 1 to ${max} characters.` });
export const Text = (max = 200): Decorate =>
  all(
    IsString({ message: 'Write a text.' }),
    MaxLength(max, { message: `At most ${max} characters.` }),
  );
export const Whole = (min: number, max: number = Number.MAX_SAFE_INTEGER): Decorate =>
  all(
    IsInt({ message: 'Write a whole number.' }),
    Min(min, { message: `At least ${min}.` }),
    Max(max, { message: `At most ${max}.` }),
  );
export const Flag = (): Decorate => IsBoolean({ message: 'Say yes or no.' });
export const Id = (): Decorate => IsUUID('all', { message: 'Choose a record.' });
export const Ids = (max = 500): Decorate =>
  all(
    IsArray({ message: 'Give a list.' }),
    ArrayMaxSize(max),
    IsUUID('all', { each: true, message: 'Choose records.' }),
  );
export const Texts = (max = 100): Decorate =>
  all(
    IsArray({ message: 'Give a list.' }),
    ArrayMaxSize(max, { message: `At most ${max}.` }),
    IsString({ each: true, message: 'Write texts.' }),
  );
export const Wholes = (min: number, max: number, most = 4094): Decorate =>
  all(
    IsArray({ message: 'Give a list.' }),
    ArrayMaxSize(most),
    IsInt({ each: true, message: 'Write whole numbers.' }),
    Min(min, { each: true, message: `At least ${min}.` }),
    Max(max, { each: true, message: `At most ${max}.` }),
  );
/** A list of which every member is one of the choices. */
export const Among = (choices: readonly string[]): Decorate =>
  all(
    IsArray({ message: 'Give a list.' }),
    ArrayMaxSize(choices.length),
    IsIn([...choices], { each: true, message: `Choose among: ${choices.join(', ')}.` }),
  );
export const OneOf = (choices: readonly (string | number)[]): Decorate =>
  IsIn([...choices], { message: `Choose one of: ${choices.join(', ')}.` });
export const Day = (): Decorate =>
  ValidateBy({
    name: 'isDay',
    validator: {
      validate: (value) => typeof value === 'string' && isDay(value),
      defaultMessage: () => 'Write a date as 2027-05-31.',
    },
  });
/** A time; the body holds it as the record keeps it, UTC to the millisecond. */
export const Time = (): Decorate =>
  all(
    Transform(({ value }: { value: unknown }) =>
      typeof value === 'string' ? (canonicalTime(value) ?? value) : value,
    ),
    Matches(CANONICAL, { message: 'Write a time as 2026-11-20T08:00:00Z.' }),
  );
const CANONICAL = /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}:\d{2}\.\d{3}Z$/;
const remembered =
  (part: PartClasses | 'apart'): Decorate =>
  (prototype, key) =>
    rememberPart(prototype, key, part);
const Present = (): Decorate => IsObject({ message: 'An object is wanted here.' });
export const Part = (type: () => Contract): Decorate =>
  all(remembered({ of: type, classes: () => [type()] }), Present());
/** Exactly one of several, told apart by its tag `as`. */
export const Variant = (types: Readonly<Record<string, Contract>>): Decorate => {
  const of = (value: object) => {
    const tag = (value as { as?: unknown }).as;
    return typeof tag === 'string' && Object.hasOwn(types, tag) ? types[tag] : undefined;
  };
  return all(
    remembered({ of, classes: () => Object.values(types), tags: Object.keys(types) }),
    Present(),
  );
};
/** An object that is checked by itself, against a class that depends on the rest. */
export const Apart = (): Decorate => all(remembered('apart'), Present());
export const Parts = (type: () => Contract, max = 64): Decorate =>
  all(
    remembered({ of: type, classes: () => [type()] }),
    IsArray({ message: 'Give a list.' }),
    ArrayMaxSize(max, { message: `At most ${max}.` }),
  );
export const Count = (min: number, max: number): Decorate =>
  all(
    Type(() => Number),
    Whole(min, max),
  );
