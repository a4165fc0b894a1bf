/**
 * The one way to alter the record. `decide` is a pure function: fleet and change go in, patches or a refusal come out.
 * What a change means is decided by the file of its subject; here its objections are weighed against the written reason,
 * and the invariants are held.
 */
import { canonicalTime } from '../quantity/index.js';
import {
  brokenInvariant,
  holdsSecret,
  isRefusal,
  refuse,
  SECRET,
  type ChangeContext,
  type Context,
  type Decision,
  type Description,
  type Extras,
  type OtherChanges,
  type Fleet,
  type Outcome,
  type Refusal,
} from '../record/index.js';
import { DECIDERS } from './deciders.js';
import { descriptionOf, type ChangeType, type Input } from './descriptions.js';

/** A change that is asked for. */
export type ChangeOf<T extends ChangeType> = {
  readonly type: T;
  readonly input: Input<T>;
} & Readonly<Extras>;
export type Change = { [T in ChangeType]: ChangeOf<T> }[ChangeType];

/** What a description may need from outside the fleet. */
export type Needed = Pick<ChangeContext, 'entry' | 'pasted'>;

export function decide(
  fleet: Fleet,
  change: Change,
  context: Context,
  needed: Needed = {},
): Decision | Refusal {
  const outcome = outcomeOf(fleet, change, context, needed);
  if (isRefusal(outcome)) return outcome;
  const patches = outcome.draft.patches();
  const broken = brokenInvariant(fleet, patches);
  if (broken) return broken;
  if (patches.length === 0 && !descriptionOf(change.type)!.wordsOnly) {
    return refuse({ code: 'nothing-changed', sentence: 'This is what the record says already.' });
  }
  const objections = outcome.objections ?? [];
  const never = objections.find((objection) => !objection.overridable);
  if (never) return never;
  const reserved = objections.find(({ by }) => by === 'administrator');
  if (reserved && context.actor.role !== 'administrator')
    return {
      ...reserved,
      overridable: false,
      remedy:
        `${reserved.remedy ?? ''} An administrator may go past it with a written reason.`.trim(),
    };
  if (objections[0] && !change.override?.trim()) return objections[0];
  return { patches, title: outcome.title, subjects: outcome.subjects, overridden: objections };
}

function outcomeOf(
  fleet: Fleet,
  change: Change,
  context: Context,
  needed: Needed,
): Outcome | Refusal {
  const description = descriptionOf(change.type);
  if (!description)
    return refuse({ code: 'no-such-change', sentence: `There is no change "${change.type}".` });
  const stranger = Object.keys(change.input).find(
    (name) => !Object.hasOwn(description.input, name),
  );
  if (stranger)
    return refuse({
      code: 'unknown-field',
      field: stranger,
      sentence: `"${description.title}" has no field "${stranger}".`,
    });
  const secret = secretIn(description, change);
  if (secret) return refuse({ code: 'secret', field: secret, sentence: SECRET });
  const happenedAt =
    change.happenedAt === undefined ? context.now : canonicalTime(change.happenedAt);
  if (!happenedAt)
    return refuse({
      code: 'bad-value',
      field: 'happenedAt',
      sentence: 'Write a time as 2026-11-20T08:00:00Z.',
    });
  const decider = DECIDERS[change.type] as (
    fleet: Fleet,
    input: Change['input'],
    context: ChangeContext,
  ) => Outcome | Refusal;
  const reason = change.reason?.trim() ?? '';
  if (description.reasonRequired && !reason)
    return refuse({
      code: 'reason-missing',
      field: 'reason',
      sentence: 'Write why: of this the log keeps the reason.',
    });
  return decider(fleet, change.input, {
    ...context,
    ...needed,
    happenedAt,
    reason,
    others: OTHERS,
  });
}

const OTHERS: OtherChanges = {
  decide: (fleet, change, context) => decide(fleet, change as unknown as Change, context),
  descriptionOf,
};

/** The pasted text, or the word beside the input, that holds a private key; fields of rows are looked at with the invariants. */
const secretIn = ({ input }: Description, change: Change): string | undefined =>
  Object.entries({ reason: change.reason, override: change.override, ...change.input }).find(
    ([name, value]) =>
      (input[name] === undefined || input[name].type === 'pasted') &&
      typeof value === 'string' &&
      holdsSecret(value),
  )?.[0];

/** All objections a plan meets, without deciding it: for a screen that shows consequences while one types. */
export function objectionsTo(fleet: Fleet, change: Change, context: Context): Refusal[] {
  const outcome = outcomeOf(fleet, change, context, {});
  if (isRefusal(outcome)) return [outcome];
  const broken = brokenInvariant(fleet, outcome.draft.patches());
  return broken ? [broken] : (outcome.objections ?? []);
}
