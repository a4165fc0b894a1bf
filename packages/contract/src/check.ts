/** Checks a plain value against a contract class: the same rules, the same sentences in the form and on the server. */
import 'reflect-metadata';
import { plainToInstance } from 'class-transformer';
import { validateSync, type ValidationError } from 'class-validator';

export interface Complaint {
  field: string;
  sentence: string;
}

export function checked<T extends object>(
  type: new () => T,
  plain: unknown,
): { ok: true; value: T } | { ok: false; complaints: Complaint[] } {
  const value = plainToInstance(type, plain ?? {});
  const errors = validateSync(value, {
    whitelist: true,
    forbidNonWhitelisted: true,
    forbidUnknownValues: true,
  });
  return errors.length === 0
    ? { ok: true, value }
    : { ok: false, complaints: errors.flatMap((error) => complaints(error, '')) };
}

function complaints(error: ValidationError, path: string): Complaint[] {
  const field = path ? `${path}.${error.property}` : error.property;
  const [rule] = Object.entries(error.constraints ?? {});
  const sentence =
    rule?.[0] === 'whitelistValidation' ? `There is no field "${error.property}" here.` : rule?.[1];
  const mine = sentence ? [{ field, sentence: sentence.replace(/^each value in /, '') }] : [];
  return [...mine, ...(error.children ?? []).flatMap((child) => complaints(child, field))];
}
