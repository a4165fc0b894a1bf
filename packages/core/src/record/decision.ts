/** What deciding a change needs from outside, and what it gives. */
import type { Description } from './describe.js';
import type { Fleet } from './fleet.js';
import type { Kind } from './kinds/index.js';
import { Draft } from './draft.js';
import type { LogEntry } from './log.js';
import type { Patch } from './patch.js';
import type { Refusal } from './refusal.js';

export type Role = 'reader' | 'planner' | 'administrator';

/** Time, identity and randomness, handed in so that deciding stays a pure function. */
export interface Context {
  /** UTC, ISO 8601. */
  now: string;
  actor: { id: string; name: string; role: Role };
  newId: () => string;
  /** 0 … 255 from a cryptographic source. */
  randomByte: () => number;
}

/** Of a long pasted text beside the log. */
export interface PastedState {
  readonly redacted: boolean;
}

/** What may be said beside the input of any change. */
export interface Extras {
  /** Why, in the words of who asked. */
  reason?: string;
  /** Written reason for going against an objection to a plan. */
  override?: string;
  /** When it happened in the world, where that is not the time of recording; UTC, ISO 8601. */
  happenedAt?: string;
}

/** What a decider gets beside fleet and input. */
export interface ChangeContext extends Context {
  /** When it happened in the world: now, unless something else was said. */
  happenedAt: string;
  reason: string;
  /** The entry of the log that the change is about, where its description needs one. */
  entry?: LogEntry;
  /** The pasted text that the change is about. */
  pasted?: PastedState;
  /** What is known of the other changes: for those that are about changes. */
  others: OtherChanges;
}

/** Handed to deciders, which stand below the table of all changes. */
export interface OtherChanges {
  decide: (
    fleet: Fleet,
    change: { type: string; input: object; override?: string },
    context: Context,
  ) => Decision | Refusal;
  descriptionOf: (type: string) => Description | undefined;
}

/** A record a change is about, with its name at that time. */
export interface Subject {
  kind: Kind;
  id: string;
  name: string;
}

/** What a decider gives: the drafted patches, a title for the log, and objections of planning. */
export interface Outcome {
  draft: Draft;
  /** Past tense, without a subject: "planned guest tide-1 on gannet". */
  title: string;
  subjects: Subject[];
  objections?: Refusal[];
}

export type Decide<I> = (fleet: Fleet, input: I, context: ChangeContext) => Outcome | Refusal;

export interface Decision {
  patches: Patch[];
  title: string;
  subjects: Subject[];
  /** Objections that the change's written reason overrode. */
  overridden: Refusal[];
}

export const draftOf = (fleet: Fleet, { newId }: Pick<Context, 'newId'>): Draft =>
  new Draft(fleet, newId);
