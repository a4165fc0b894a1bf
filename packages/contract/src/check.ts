/**
 * Checks a plain value against a contract class: the same rules, the same sentences in the form and on the server. Parts of
 * lists are checked one after another, so that a server can do something else between them.
 */
import 'reflect-metadata';
import { plainToInstance } from 'class-transformer';
import { validateSync, type ValidationError } from 'class-validator';
import {
  MOST_COMPLAINTS,
  shapeComplaints,
  slotsOf,
  type Complaint,
  type Contract,
  type PartClasses,
} from './shape.js';

export type { Complaint } from './shape.js';

export type Checked<T> = { ok: true; value: T } | { ok: false; complaints: Complaint[] };

/** Checks at once: for a form. */
export function checked<T extends object>(type: new () => T, plain: unknown): Checked<T> {
  const checking = checkInTurns(type, plain);
  for (;;) {
    const turn = checking.next();
    if (turn.done) return turn.value;
  }
}

/** Checks with a rest after each part of a list; the last value is the answer. */
export function* checkInTurns<T extends object>(
  type: new () => T,
  plain: unknown,
): Generator<void, Checked<T>> {
  const shape = shapeComplaints(type, plain ?? {});
  if (shape.length > 0) return { ok: false, complaints: shape };
  const complaints: Complaint[] = [];
  const value = yield* checkPart(type, (plain ?? {}) as Plain, '', complaints);
  return complaints.length === 0
    ? { ok: true, value: value as T }
    : { ok: false, complaints: complaints.slice(0, MOST_COMPLAINTS) };
}

type Plain = Record<string, unknown>;

/** Checks an object without its parts, then each of these. */
function* checkPart(
  type: Contract,
  plain: Plain,
  path: string,
  complaints: Complaint[],
): Generator<void, object> {
  const bare = { ...plain };
  const parts: [string, PartClasses, object][] = [];
  for (const [key, { part, list, apart }] of slotsOf(type)) {
    const held = plain[key];
    if ((!part && !apart) || typeof held !== 'object' || held === null) continue;
    bare[key] = list ? [] : {};
    if (part) parts.push([key, part, held]);
  }
  const value = plainToInstance(type, bare) as Plain;
  // Fields that nobody knows are refused by the shape; an input may have none at all.
  const options = { whitelist: true, forbidNonWhitelisted: true, forbidUnknownValues: false };
  for (const error of validateSync(value, options)) complaints.push(...said(error, path));
  for (const [key, part, held] of parts) {
    const at = `${path ? `${path}.` : ''}${key}`;
    if (!Array.isArray(held)) {
      value[key] = yield* checkPart(part.of(held)!, held as Plain, at, complaints);
      continue;
    }
    const made: object[] = [];
    for (const [i, member] of (held as Plain[]).entries()) {
      if (complaints.length >= MOST_COMPLAINTS) return value;
      made.push(yield* checkPart(part.of(member)!, member, `${at}.${i}`, complaints));
      yield;
    }
    value[key] = made;
  }
  for (const [key, { apart }] of slotsOf(type)) if (apart) value[key] = plain[key];
  return value;
}

function said(error: ValidationError, path: string): Complaint[] {
  const field = path ? `${path}.${error.property}` : error.property;
  const [rule] = Object.entries(error.constraints ?? {});
  const sentence =
    rule?.[0] === 'whitelistValidation' ? `There is no field "${error.property}" here.` : rule?.[1];
  const mine = sentence ? [{ field, sentence: sentence.replace(/^each value in /, '') }] : [];
  return [...mine, ...(error.children ?? []).flatMap((child) => said(child, field))];
}
