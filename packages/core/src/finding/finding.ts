/**
 * A finding: something in the record that will break, or should be looked at. One sentence with the evidence, what
 * follows from it, what to do, and where the rule comes from. Its identity is the rule and the records it is about.
 */
import type { Source } from '../figure/index.js';
import type { Fleet, Kind } from '../record/index.js';

export type Severity = 'blocker' | 'caution' | 'note';

export interface Finding {
  /** Rule and record ids: the same finding keeps it. */
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
  /** A change that would mend it, as path and body of a request of the API, with the words for its button. */
  mend?: { label: string; kind: 'take-next-address' | 'release-hold' | 'open'; id: string };
  /** The finding holds until then at the latest, without any change of the record. */
  validUntil?: string;
}

/** One rule, looking at one record of its kind. */
export interface Rule<K extends Kind = Kind> {
  name: string;
  kind: K;
  look(fleet: Fleet, id: string, now: string): Finding[];
}
