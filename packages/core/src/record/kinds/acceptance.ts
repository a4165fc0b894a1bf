import { date, name, text, time } from '../field.js';

/** A finding that is lived with until a day, and why. It is told again when the day has passed or its evidence alters. */
export const acceptance = {
  fields: {
    /** Rule and record ids. */
    findingId: { ...name(), max: 500 },
    /** What the finding said then. */
    evidence: text(2000),
    reason: { ...name(), max: 1000 },
    until: date(),
    by: text(100),
    at: time(),
  },
} as const;
