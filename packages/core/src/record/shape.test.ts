import { expect, it } from 'vitest';
import { KIND_NAMES, KINDS, SHAPE, type Field } from './index.js';

/** What an entry of the log may hold: a kind, its fields with their types. */
const line = (kind: string, name: string, field: Field<unknown>): string =>
  [`${kind}.${name}`, field.type, field.nullable ? 'or null' : '', field.to ?? '']
    .filter(Boolean)
    .join(' ');
const fingerprint = KIND_NAMES.flatMap((kind) =>
  Object.entries(KINDS[kind].fields).map(([name, field]) => line(kind, name, field)),
).join('\n');

// When this fails, older logs cannot be read any more: raise SHAPE, say `since` at what is new, write an upcaster for what
// is otherwise, add a migration of the database; then renew the file of the new shape.
it(`is the one of log shape ${SHAPE}`, () =>
  expect(fingerprint).toMatchFileSnapshot(`./shape-${SHAPE}.txt`));

it('what came later begins with something, so that older rows can be read', () => {
  const later = KIND_NAMES.flatMap((kind) =>
    Object.entries(KINDS[kind].fields).filter(([, field]) => field.since !== undefined),
  );
  for (const [name, field] of later) {
    expect([name, field.initial]).not.toEqual([name, undefined]);
    expect(field.since).toBeLessThanOrEqual(SHAPE);
  }
});
