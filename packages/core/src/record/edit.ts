/** Editing fields of one record. */
import { canonicalOr, parseMac, parsePrefix, formatPrefix } from '../address/index.js';
import type { Draft } from './draft.js';
import type { Fleet } from './fleet.js';
import { KINDS, type Kind, type Row } from './kinds/index.js';
import type { Values } from './patch.js';
import { refuse, type Refusal } from './refusal.js';

/** Drafts the given fields of a row; gives a refusal if there is no such row. */
export function editFields<K extends Kind>(
  fleet: Fleet,
  draft: Draft,
  kind: K,
  id: string,
  fields: Values,
): Row<K> | Refusal {
  const row = fleet.get(kind, id);
  if (!row) return noSuch(kind);
  const stranger = Object.keys(fields).find((name) => !(name in KINDS[kind].fields));
  if (stranger)
    return refuse({
      code: 'unknown-field',
      field: stranger,
      sentence: `A ${kind} has no field "${stranger}".`,
    });
  draft.update(kind, id, tidy(kind, fields) as Partial<Row<K>>);
  return row;
}

export const noSuch = (kind: Kind): Refusal =>
  refuse({
    code: 'not-found',
    sentence: `This ${kind} is not in the record.`,
    remedy: 'It may have been removed: look into the log.',
  });

/** Brings addresses, prefixes and MACs to their canonical text where they can be read; the rest is left to the invariants. */
export function tidy(kind: Kind, fields: Values): Values {
  return Object.fromEntries(
    Object.entries(fields).map(([name, value]) => {
      const { type, lower, reads } = KINDS[kind].fields[name] ?? {};
      if (typeof value === 'string') {
        if (reads) return [name, orSame(reads(value), value)];
        if (type === 'text') return [name, lower ? value.trim().toLowerCase() : value.trim()];
        if (type === 'address') return [name, canonicalOr(value)];
        if (type === 'mac') return [name, orSame(parseMac(value), value)];
        if (type === 'prefix') {
          const read = parsePrefix(value);
          return [name, read.ok ? formatPrefix(read.value) : value];
        }
      }
      if (type === 'addresses' && Array.isArray(value))
        return [name, value.map((member) => canonicalOr(String(member)))];
      return [name, value];
    }),
  );
}

const orSame = (read: { ok: true; value: string } | { ok: false }, text: string) =>
  read.ok ? read.value : text;
