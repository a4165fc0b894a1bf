import { choice, date, initially, integer, name, optional, ref, text, time } from '../field.js';
import { described } from './described.js';

/** Changes in pencil: what would be done, step by step, over the record as it is. */
export const plan = {
  fields: {
    name: name(),
    purpose: text(2000),
    state: initially(choice('drawn', 'carried out', 'given up'), 'drawn'),
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
    remark: text(2000),
    day: optional(date()),
    person: text(100),
    /** When it was carried out; its entry of the log names it. */
    doneAt: optional(time()),
  },
} as const;
