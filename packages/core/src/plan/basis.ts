/**
 * What a step stood on when it was drawn: the values it replaces and the blockers it brought. When the record has moved
 * since, it may still decide and yet be another thing.
 */
import { blockersAppearing } from '../finding/index.js';
import { fieldWords } from '../quantity/index.js';
import {
  KINDS,
  sameValue,
  type Decision,
  type Fleet,
  type Kind,
  type Patch,
  type Row,
  type Values,
} from '../record/index.js';

interface Basis {
  /** Kind, id, field, the value below it in the plan, the value in the record. */
  values: [Kind, string, string, unknown, unknown][];
  /** Ids of blockers that appeared with it. */
  blockers: string[];
}

/** A value that is another one than when the step was drawn. */
export interface Overtaken {
  kind: Kind;
  id: string;
  /** Of the record that holds it. */
  name: string;
  field: string;
  was: unknown;
  is: unknown;
}

/** Times move on by themselves. */
const lasting = (kind: Kind, field: string): boolean =>
  !['time', 'date'].includes(KINDS[kind].fields[field]?.type ?? 'time');

const replaced = (patches: readonly Patch[]) =>
  patches.flatMap((patch) =>
    patch.op === 'update'
      ? Object.keys(patch.after)
          .filter((field) => lasting(patch.kind, field))
          .map((field) => ({ patch, field, before: patch.before[field] }))
      : [],
  );

const held = (fleet: Fleet, kind: Kind, id: string, field: string): unknown =>
  (fleet.get(kind, id) as Values | undefined)?.[field] ?? null;

/**
 * @param below what it was decided on: the record with the steps before it
 * @returns JSON, empty where it would be too long to keep
 */
export function basisOf(fleet: Fleet, below: Fleet, { patches }: Decision, now: string): string {
  const basis: Basis = {
    values: replaced(patches).map(({ patch: { kind, id }, field, before }) => [
      ...([kind, id, field, before ?? null] as const),
      held(fleet, kind, id, field),
    ]),
    blockers: blockersAppearing(below, patches, now).map(({ id }) => id),
  };
  const text = JSON.stringify(basis);
  return text.length > 200_000 ? '' : text;
}

const read = ({ basis }: Pick<Row<'planStep'>, 'basis'>): Basis | null =>
  basis === '' ? null : (JSON.parse(basis) as Basis);

/** What is another than when it was drawn, below the step and in the record: what the plan itself alters does not count. */
export function overtaken(fleet: Fleet, step: Row<'planStep'>, { patches }: Decision): Overtaken[] {
  const basis = read(step);
  if (!basis) return [];
  const now = new Map(
    replaced(patches).map(({ patch, field, before }) => [
      `${patch.kind}|${patch.id}|${field}`,
      before ?? null,
    ]),
  );
  return basis.values.flatMap(([kind, id, field, was, inRecord]) => {
    const key = `${kind}|${id}|${field}`;
    // What it no longer alters has its new value already, or is gone.
    const is = now.has(key) ? now.get(key) : held(fleet, kind, id, field);
    if (sameValue(is, was) || sameValue(held(fleet, kind, id, field), inRecord)) return [];
    const row = fleet.get(kind, id) as Values | undefined;
    return [{ kind, id, field, was, is, name: String(row?.name ?? row?.label ?? row?.ip ?? '') }];
  });
}

/** In a sentence; empty where nothing is. */
export const overtakenWords = (found: readonly Overtaken[]): string =>
  found.length === 0
    ? ''
    : `Since it was drawn, ${found
        .slice(0, 3)
        .map(({ field, name }) => `${fieldWords(field)}${name && ` of ${name}`}`)
        .join(', ')}${found.length > 3 ? ` and ${found.length - 3} more` : ''} ${
        found.length === 1 ? 'has' : 'have'
      } been altered in the record.`;

/** Blockers that it brings now, and did not when it was drawn. */
export const blockersSince = (
  below: Fleet,
  step: Row<'planStep'>,
  { patches }: Decision,
  now: string,
): ReturnType<typeof blockersAppearing> => {
  const basis = read(step);
  return basis
    ? blockersAppearing(below, patches, now).filter(({ id }) => !basis.blockers.includes(id))
    : [];
};

/** A step and what it does, without times: equal texts, equal deeds. */
export const deedOf = (step: Row<'planStep'>, { patches }: Decision): string =>
  JSON.stringify([
    ...[step.type, step.shape, step.input, step.seed],
    ...patches
      .filter(({ kind }) => kind !== 'plan' && kind !== 'planStep')
      .map((patch) => [
        ...[patch.op, patch.kind, patch.id],
        patch.op === 'create' ? null : kept(patch.kind, patch.before),
        patch.op === 'delete' ? null : kept(patch.kind, patch.after),
      ]),
  ]);

const kept = (kind: Kind, values: Values): [string, unknown][] =>
  Object.entries(values)
    .filter(([field]) => lasting(kind, field))
    .sort(([a], [b]) => (a < b ? -1 : 1));
