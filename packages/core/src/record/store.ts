/**
 * Rows in tables, and the indexes by which they are found: by what refers to them, by name, MAC and address. What is laid over
 * another holds what differs, and reads through to it.
 */
import { IndexMap, type Index } from './index-map.js';
import { KIND_NAMES, REFERENCES, type Kind } from './kinds/index.js';
import { LayeredIndex, LayeredTable } from './layered.js';
import { Table, type Rows } from './table.js';
import { fieldsToIndex, LOOK_UPS, lookUpsOf, OWNER_FIELD } from './look-ups.js';

export type AnyRow = Readonly<Record<string, unknown>> & {
  readonly id: string;
  readonly revision: number;
};

/** Of a part: the kind of its owner. */
const OWNER_KIND: Readonly<Partial<Record<Kind, Kind>>> = Object.fromEntries(
  KIND_NAMES.flatMap((kind) => {
    const to = REFERENCES[kind].find(({ field }) => field === OWNER_FIELD[kind])?.to;
    return to ? [[kind, to]] : [];
  }),
);

export class Store {
  private readonly tables = new Map<Kind, Rows<AnyRow>>();
  private readonly indexes = new Map<string, Index>();

  constructor(private readonly base?: Store) {
    if (base) return;
    for (const kind of KIND_NAMES) {
      this.tables.set(kind, new Table<AnyRow>());
      for (const { field } of REFERENCES[kind])
        this.indexes.set(`${kind}.${field}`, new IndexMap());
    }
    for (const { name } of LOOK_UPS) this.indexes.set(name, new IndexMap());
  }

  rows(kind: Kind): Rows<AnyRow> {
    return this.tables.get(kind) ?? this.base!.rows(kind);
  }

  index(name: string): Index {
    return this.indexes.get(name) ?? this.base!.index(name);
  }

  /** The row that one is a part of, however deep; itself where it is none. */
  rootOf(kind: Kind, id: string, row = this.rows(kind).get(id)): string {
    const field = OWNER_FIELD[kind];
    const ownerId = field && row ? (row[field] as string | null) : null;
    if (!ownerId) return id;
    const owner = OWNER_KIND[kind]!;
    return OWNER_FIELD[owner] ? this.rootOf(owner, ownerId) : ownerId;
  }

  /** What a row was and is a part of, if it is one. */
  rootsOf(kind: Kind, id: string, ...rows: (AnyRow | undefined)[]): string[] {
    if (!OWNER_FIELD[kind]) return [];
    return rows.flatMap((row) => (row ? [this.rootOf(kind, id, row)] : []));
  }

  /** Puts a row, or takes it away, and files it. @param held what is there */
  put(kind: Kind, id: string, held: AnyRow | undefined, row: AnyRow | undefined): void {
    const table = this.writable(kind);
    if (row) table.set(row);
    else table.delete(id);
    this.file(kind, id, held, row);
  }

  private file(
    kind: Kind,
    id: string,
    before: AnyRow | undefined,
    after: AnyRow | undefined,
  ): void {
    for (const { field, index } of fieldsToIndex(kind))
      this.refile(
        index,
        id,
        before?.[field] as string | null | undefined,
        after?.[field] as string | null | undefined,
      );
    for (const { name, kinds, keyOf } of lookUpsOf(kind))
      this.refile(
        name,
        kinds.length === 1 ? id : `${kind}|${id}`,
        before && keyOf(before),
        after && keyOf(after),
      );
  }

  /** Files an id under another key; what stays under its key is not touched. */
  private refile(
    name: string,
    id: string,
    before: string | null | undefined,
    after: string | null | undefined,
  ): void {
    if (before === after) return;
    const index = this.writableIndex(name);
    if (before) index.remove(before, id);
    if (after) index.add(after, id);
  }

  private writable(kind: Kind): Rows<AnyRow> {
    let table = this.tables.get(kind);
    if (!table) this.tables.set(kind, (table = new LayeredTable(this.base!.rows(kind))));
    return table;
  }

  private writableIndex(name: string): Index {
    let index = this.indexes.get(name);
    if (!index) this.indexes.set(name, (index = new LayeredIndex(this.base!.index(name))));
    return index;
  }
}
