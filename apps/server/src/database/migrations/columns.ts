/** Pieces that every table of the record is made of. */
export const BASE = 'id uuid primary key, revision bigint not null';
export const DESCRIBED = `notes text not null default '', labels text[] not null default '{}', owner text not null default '', confirmed_at timestamptz, confirmed_by text not null default ''`;
export const LATER = 'deferrable initially deferred';
export const ref = (table: string): string => `references "${table}" (id) ${LATER}`;
/** A host address, never a block. */
export const full = (column: string): string =>
  `check (masklen(${column}) = case family(${column}) when 4 then 32 else 128 end)`;
