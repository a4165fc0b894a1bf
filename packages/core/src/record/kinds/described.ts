import { optional, text, texts, time } from '../field.js';

/** What every record of its own carries beside its subject: notes (Markdown), labels, owner, last confirmed. */
export const described = {
  notes: text(20_000),
  labels: texts(),
  owner: text(100),
  confirmedAt: optional(time()),
  confirmedBy: text(100),
};
