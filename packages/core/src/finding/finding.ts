/**
 * A finding: something in the record that will break, or should be looked at. One sentence with the evidence, what
 * follows from it, what to do, and where the rule comes from. Its identity is the rule and the records it is about.
 */
import type { Source } from '../figure/index.js';
import type { Fleet, Kind, Row } from '../record/index.js';
import type { Mend } from './mend.js';

export type Severity = 'blocker' | 'caution' | 'note';

export interface Finding {
  /** Rule and record ids, among them that of the record looked at: the same finding keeps it. */
  id: string;
  /** The rule in plain words: "static-in-dynamic". */
  rule: string;
  severity: Severity;
  /** The record it stands at. */
  about: { kind: Kind; id: string; name: string };
  evidence: string;
  consequence: string;
  remedy: string;
  source: Source;
  /** What mends it, with the words for its button: a change, or the record to open. */
  mend?: { label: string; kind: 'open'; id: string } | Mend;
  /** Somebody lives with it for a while. */
  accepted?: Row<'acceptance'>;
  /** The finding holds until then at the latest, without any change of the record. */
  validUntil?: string;
}

/** Ids of records that a finding's id names: where it can be looked for again. */
export const placesOf = (findingId: string): string[] => findingId.split('|').slice(1);

/** One rule, looking at one record of its kind. */
export interface Rule<K extends Kind = Kind> {
  name: string;
  kind: K;
  /** It asks the whole fleet who reaches whom: lists of records leave it out. */
  heavy?: boolean;
  look(fleet: Fleet, id: string, now: string): Finding[];
}
