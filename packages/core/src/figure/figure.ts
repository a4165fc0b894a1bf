/**
 * A figure: a computed value together with its workings, so that nobody has to believe it. The lines are summed from
 * top to bottom unless their operator says otherwise; the last line repeats the value.
 */
export type Unit =
  | 'MiB'
  | 'bytes'
  | 'vCPU'
  | 'cores'
  | 'addresses'
  | 'guests'
  | 'ratio'
  | 'seconds'
  | 'days'
  | 'bytes/s'
  | 'bit/s'
  | 'percent'
  | 'watts'
  | 'count';

/** Where a rule comes from. A habit of the trade is marked as one, never dressed up as a standard. */
export interface Source {
  kind: 'standard' | 'practice' | 'record' | 'own';
  text: string;
}

export interface WorkingLine {
  label: string;
  value: number | null;
  unit: Unit;
  /** How the line enters the sum; '=' marks a result. */
  operator: '+' | '−' | '×' | '÷' | '=' | '·';
  /** The record this input was read from, if a person may want to go there. */
  from?: { kind: string; id: string };
  /** Says that the input was assumed, and how. */
  note?: string;
}

export interface Figure {
  /** Stable within its record, such as "memory-headroom". */
  name: string;
  title: string;
  /** Null when an input is unknown: unknown is never shown as 0. */
  value: number | null;
  unit: Unit;
  lines: WorkingLine[];
  sources: Source[];
  /** Which policy or property alters the figure, in words. */
  policy?: string;
}

/** A figure whose value is always known. */
export type Sure = Figure & { value: number };

export const practice = (text: string): Source => ({
  kind: 'practice',
  text: `${text} (common practice, no source)`,
});
export const standard = (text: string): Source => ({ kind: 'standard', text });
export const fromRecord = (text: string): Source => ({ kind: 'record', text });
export const own = (text: string): Source => ({ kind: 'own', text });
