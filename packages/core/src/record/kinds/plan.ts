import {
  choice,
  date,
  flag,
  initially,
  integer,
  name,
  optional,
  ref,
  since,
  text,
  time,
} from '../field.js';
import { described } from './described.js';

/** Changes in pencil: what would be done, step by step, over the record as it is. */
export const plan = {
  fields: {
    name: name(),
    purpose: text(2000),
    state: initially(choice('drawn', 'carried out', 'given up'), 'drawn'),
    /** The plan whose open steps it takes for done. */
    onPlanId: since(11, optional(ref('plan'))),
    /** No step is carried out that somebody else has not approved as it is. */
    needsApproval: since(11, flag()),
    approvedAt: since(11, optional(time())),
    approvedBy: since(11, initially(text(100), '')),
    /** Nothing of it is carried out for the time being. */
    pausedAt: since(11, optional(time())),
    pausedWhy: since(11, initially(text(2000), '')),
    ...described,
  },
} as const;

/** One change of a plan, as it was drawn: decided anew on whatever stands below it. */
export const planStep = {
  owner: 'planId',
  fields: {
    planId: ref('plan'),
    position: integer(0, 10_000),
    /** Type, shape and input of the change. */
    type: name(),
    shape: integer(1, 1000),
    /** JSON. */
    input: text(200_000),
    /** What ids and chance come from: deciding again gives the same. */
    seed: name(),
    drawnAt: time(),
    drawnBy: text(100),
    /** JSON of what it stood on when it was drawn, `plan/basis.ts`; empty: not kept. */
    basis: since(11, initially(text(200_000), '')),
    /** Digest of the step and what it did when it was approved; empty: it was not. */
    approved: since(11, initially(text(100), '')),
    remark: text(2000),
    day: optional(date()),
    person: text(100),
    /** Somebody does it by hand: it is ticked with what was found, never carried out with the others. */
    byHand: since(11, flag()),
    /** When it was carried out; its entry of the log names it. */
    doneAt: optional(time()),
    doneBy: since(11, initially(text(100), '')),
    /** What was found when it was done by hand. */
    found: since(11, initially(text(2000), '')),
  },
} as const;
