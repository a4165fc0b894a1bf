/**
 * A long table is recorded in parts, each a change of its own, all under one id: so that nobody waits for all of it, it can be
 * stopped, and it is taken back as one.
 */
import { integer, part, text } from './field.js';
import { omittable, type InputOf } from './input-field.js';

export const partOfImport = {
  part: omittable(
    part({
      /** The same for all parts. */
      importId: text(60),
      number: integer(1, 100_000),
      of: integer(1, 100_000),
    }),
  ),
};
type Part = InputOf<typeof partOfImport>['part'];

/** @example partWords({ importId: 'x', number: 2, of: 7 }) // ', part 2 of 7' */
export const partWords = (part: Part): string =>
  part ? `, part ${part.number} of ${part.of}` : '';
