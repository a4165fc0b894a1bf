/**
 * Changes as log and plans keep them. Until log shape 5 a change was kept flat: its fields beside what may be said of any
 * change, those of its row below `fields`, one type for all kinds that stand alone.
 */
import { type LogEntry, type Values, STAND_ALONE } from '../record/index.js';

export interface StoredChange {
  readonly type: string;
  readonly shape: number;
  readonly input: unknown;
}

/** What the log holds of a long pasted text; the text lies beside it, and can be redacted. */
export interface PastedText {
  readonly sha256: string;
  readonly bytes: number;
  /** Start of its first line. */
  readonly begins: string;
}

/** Last log shape in which changes were kept flat. */
const FLAT = 5;
const OF_ANY = new Set(['type', 'reason', 'override', 'happenedAt']);
const SLUGS: ReadonlyMap<string, string> = new Map(
  Object.entries(STAND_ALONE).map(([slug, kind]) => [kind, slug]),
);

/** The change of an entry in today's form and under today's name. */
export function changeOf({ change, shape }: Pick<LogEntry, 'change' | 'shape'>): StoredChange {
  if (shape > FLAT) {
    return { type: renamed(change.type), shape: Number(change.shape), input: change.input };
  }
  const one = /^one\.(record|edit|remove)$/.exec(change.type);
  const type = one ? `${SLUGS.get(String(change.kind))}.${one[1]}` : change.type;
  const given = Object.entries(change).filter(
    ([name]) => !OF_ANY.has(name) && !(one && name === 'kind'),
  );
  const { subnet, ...rest } = unflattened(Object.fromEntries(given));
  // A subnet recorded by itself was a part of its change.
  const own = type === 'subnet.record' && isObject(subnet) ? subnet : subnet && { subnet };
  return { type: renamed(type), shape: 1, input: { ...rest, ...(own ?? {}) } };
}

/** Fields of a row stand beside the rest, in lists as well. */
function unflattened(values: Values): Values {
  const { fields, ...rest } = values;
  const all = { ...rest, ...(isObject(fields) ? fields : {}) };
  return Object.fromEntries(
    Object.entries(all).map(([name, value]) => [
      name,
      Array.isArray(value)
        ? value.map((member: unknown) => (isObject(member) ? unflattened(member) : member))
        : isObject(value) && typeof value.take === 'string'
          ? tagged(value)
          : value,
    ]),
  );
}

/** One of several was told apart by `take`. */
const tagged = ({ take, ...rest }: Values): Values => ({ as: take, ...rest });

/** The long pasted texts of an entry. */
export function pastedTexts(entry: Pick<LogEntry, 'change' | 'shape'>): PastedText[] {
  if (entry.shape > FLAT) {
    const values = Object.values((entry.change.input ?? {}) as Values);
    return values.filter(
      (value) => isObject(value) && 'sha256' in value,
    ) as unknown as PastedText[];
  }
  const { attachment, text } = entry.change;
  return isObject(attachment)
    ? [{ ...(attachment as { sha256: string; bytes: number }), begins: String(text) }]
    : [];
}

const isObject = (value: unknown): value is Values =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** Types that have another name today. */
const RENAMED: Readonly<Record<string, string>> = {};
const renamed = (type: string): string => RENAMED[type] ?? type;
